import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { octavesOf, USUAL_SETUP } from '../../../core/octave';
import { lifeSheet, setsOf, treatmentsOf, type MaterialLives } from '../../../core/life';
import { localIso } from '../../../core/exchange';
import { namesIn, sayRecord, type InstrumentLife } from '../../../core/log';
import { MATERIAL_NAMES, traitsOf } from '../../../core/strings';
import { BottomBar } from '../../guided/BottomBar';
import { NotWorkedOut } from '../../parts/NotWorkedOut';
import { fileName, saveFile } from '../../parts/saveFile';
import { reasonOf } from '../../world/database';
import { useAsked } from '../../world/asked';
import { useNow } from '../../world/now';
import { useWorld } from '../../world/world';
import { About } from './About';
import { Octaves } from './Octaves';
import { Remarks } from './Remarks';
import { Sets } from './Sets';

const DAY_MS = 86_400_000;
const heading = 'pb-1 font-semibold';
const rate = (perHour: number | null) => (perHour === null ? 'not read' : perHour.toFixed(1).replace('-', '−'));
const days = (d: number) => (d < 60 ? `${d.toFixed(0)} days` : `${(d / 30).toFixed(0)} months`);

const medianWords = ({ median, ended }: MaterialLives): string => {
  if (median.days === null) return ended === 0 ? 'none came off yet' : 'more than half are still on';
  const high = median.highDays === null ? 'open' : days(median.highDays);
  return `${days(median.days)} (${median.lowDays === null ? 'open' : days(median.lowDays)} to ${high})`;
};

/** One instrument's life on a page: whose it is, its sets, as found and as left, what was done and found, remarks, and its log. */
export function LifeView({ life }: { life: InstrumentLife }) {
  const { bench, ask, basePath, nowMs } = useWorld();
  const now = useNow(60000);
  const { instrumentId, name } = life.record;
  const [message, say] = useState('');
  const sets = useMemo(() => setsOf(life), [life]);
  const sheet = useMemo(() => lifeSheet(life), [life]);
  const treated = useMemo(() => treatmentsOf(life, bench), [life, bench]);
  const names = useMemo(() => namesIn(bench.instruments.map((i) => i.record)), [bench]);
  const found = useMemo(
    () =>
      [...bench.findings, ...bench.adjustments]
        .filter((r) => r.instrumentId === instrumentId)
        .sort((a, b) => b.atMs - a.atMs),
    [bench, instrumentId],
  );
  const octaves = useMemo(
    () => (traitsOf(life.record).frets ? octavesOf(life, bench, USUAL_SETUP.limitCents) : undefined),
    [life, bench],
  );
  const { data: materials = [], error: unknown } = useAsked({
    question: 'materials',
    subject: '',
    of: bench.changes,
    ask: { nowMs: Math.floor(now / DAY_MS) * DAY_MS },
    waits: true,
  });
  const own = new Set(life.strings.map((s) => s.plan.material));
  const day = (r: { atMs: number; zoneMin: number }) => localIso(r.atMs, r.zoneMin).slice(0, 10);
  const stem = `${fileName(name)}-${localIso(nowMs(), 0).slice(0, 10)}`;
  const give = () =>
    ask('export', { as: 'json', nowMs: Math.round(nowMs()), instrumentId }).then(
      (blob) => saveFile(`slow-anchor-${stem}.json`, blob),
      (error: unknown) => say(`No file was written: ${reasonOf(error)}.`),
    );
  const sentence = (said: string) => said.replace(`${name}, `, '').replace(`${name}: `, '');
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <section
        aria-label="Its life"
        tabIndex={0}
        className="min-h-0 flex-1 overflow-y-auto px-4 py-3 print:overflow-visible"
      >
        <div className="grid max-w-5xl gap-6">
          <div className="print:hidden">
            <About key={instrumentId} life={life} />
          </div>
          <section aria-labelledby="sheet">
            <h2 id="sheet" className={heading}>
              {sheet.title}
            </h2>
            {sheet.rows.length === 0 ? (
              <p className="text-sm">Nothing is read yet.</p>
            ) : (
              <div className="flex flex-wrap gap-x-10 gap-y-2 text-sm">
                <table className="border-collapse">
                  <thead className="text-xs text-ink2">
                    <tr>
                      <th scope="col" className="pr-6 text-left font-normal">
                        String
                      </th>
                      <th scope="col" className="pr-6 text-right font-normal">
                        As found
                      </th>
                      <th scope="col" className="text-right font-normal">
                        As left
                      </th>
                    </tr>
                  </thead>
                  <tbody>
                    {sheet.rows.map((r) => (
                      <tr key={r.note} className="border-t border-line">
                        <th scope="row" className="pr-6 text-left font-bold">
                          {r.note}
                        </th>
                        <td className="figure py-0.5 pr-6 text-right">{r.found}</td>
                        <td className="figure py-0.5 text-right">{r.left}</td>
                      </tr>
                    ))}
                  </tbody>
                </table>
                <dl className="grid grid-cols-[auto_auto] content-start gap-x-4 gap-y-0.5">
                  {sheet.facts.map(([what, value]) => (
                    <div key={what} className="contents">
                      <dt className="text-ink2">{what}</dt>
                      <dd className="figure">{value}</dd>
                    </div>
                  ))}
                </dl>
                <p className="w-full text-xs text-ink2">{sheet.note}</p>
              </div>
            )}
          </section>
          <section aria-labelledby="sets" className="print:hidden">
            <h2 id="sets" className={heading}>
              Its strings
            </h2>
            <Sets sets={sets} nowMs={now} />
          </section>
          <div className="grid grid-cols-2 gap-x-8 gap-y-6 max-lg:grid-cols-1 print:hidden">
            <section aria-labelledby="treated">
              <h2 id="treated" className={heading}>
                What was done, and what it did
              </h2>
              {treated.length === 0 && <p className="text-sm text-ink2">No treatment is noted.</p>}
              <ul className="text-sm">
                {treated.map(({ record, before, after }) => (
                  <li key={record.id} className="border-t border-line py-1">
                    <span className="figure pr-2 text-xs text-ink2">{day(record)}</span>
                    {record.treatment},{' '}
                    {record.stringIds.length === life.strings.length
                      ? 'all strings'
                      : `${record.stringIds.length} strings`}
                    {(before !== null || after !== null) && (
                      <span className="block text-xs text-ink2">
                        Cents an hour in the day before {rate(before)}, in the day after {rate(after)}
                      </span>
                    )}
                  </li>
                ))}
              </ul>
            </section>
            <section aria-labelledby="found">
              <h2 id="found" className={heading}>
                What was found and moved
              </h2>
              {found.length === 0 && <p className="text-sm text-ink2">Nothing yet.</p>}
              <ul className="text-sm">
                {found.map((r) => (
                  <li key={r.id} className="border-t border-line py-1 first-letter:uppercase">
                    <span className="figure pr-2 text-xs text-ink2">{day(r)}</span>
                    {sentence(sayRecord(r, names))}
                  </li>
                ))}
              </ul>
            </section>
            {octaves && octaves.strings.some((s) => s.last) && (
              <section aria-labelledby="octaves">
                <h2 id="octaves" className={heading}>
                  Its octaves
                </h2>
                <Octaves octaves={octaves} now={now} />
              </section>
            )}
            <section aria-labelledby="materials">
              <h2 id="materials" className={heading}>
                How long your strings last
              </h2>
              <table className="w-full text-sm">
                <thead className="text-xs text-ink2">
                  <tr>
                    <th scope="col" className="text-left font-normal">
                      Material
                    </th>
                    <th scope="col" className="px-2 text-right font-normal">
                      Came off, on
                    </th>
                    <th scope="col" className="text-left font-normal">
                      Half last
                    </th>
                    <th scope="col" className="text-left font-normal">
                      Broke
                    </th>
                  </tr>
                </thead>
                <tbody>
                  {materials.map((m) => (
                    <tr key={m.material} className="border-t border-line">
                      <th scope="row" className={own.has(m.material) ? 'text-left font-bold' : 'text-left font-normal'}>
                        {MATERIAL_NAMES[m.material]}
                      </th>
                      <td className="figure px-2 text-right">
                        {m.ended}, {m.on}
                      </td>
                      <td>{medianWords(m)}</td>
                      <td>
                        {Object.entries(m.broke)
                          .map(([place, n]) => `${n} at the ${place}`)
                          .join(', ') || '–'}
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
              <NotWorkedOut error={unknown} what="How strings last" />
              <p className="pt-1 text-xs text-ink2">
                On all instruments. In brackets: nine of ten such figures lie between. Strings that are still on count.
              </p>
            </section>
          </div>
          <Remarks life={life} />
          <p className="flex gap-4 pb-4 text-sm print:hidden">
            <Link className="text-deep underline underline-offset-4" to={`${basePath}/log?instrument=${instrumentId}`}>
              All entries of {name}
            </Link>
            <Link className="text-deep underline underline-offset-4" to={`${basePath}/settling/${instrumentId}`}>
              How it falls
            </Link>
            <span role="status">{message}</span>
          </p>
        </div>
      </section>
      <BottomBar
        actions={[
          { words: 'Print as found, as left', strong: true, on: () => window.print() },
          { words: 'Export this instrument (JSON)', on: () => void give() },
        ]}
      />
    </div>
  );
}
