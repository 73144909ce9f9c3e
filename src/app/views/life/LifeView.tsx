import clsx from 'clsx';
import { ratesWords } from '../../../core/life';
import { useMemo, useState, useEffect } from 'react';
import { Link } from 'react-router';
import { localDay, MINUTE } from '../../../core/base';
import { sayWithin, type InstrumentLife } from '../../../core/log';
import { BottomBar } from '../../guided/BottomBar';
import { NotWorkedOut } from '../../parts/NotWorkedOut';
import { fileName, saveFile } from '../../parts/saveFile';
import { useAsked } from '../../world/asked';
import { useNow } from '../../world/now';
import { useWorld } from '../../world/world';
import { About } from './About';
import { Materials } from './Materials';
import { OctaveHistory } from './Octaves';
import { Remarks } from './Remarks';
import { Sets } from './Sets';
import { Sheet } from './Sheet';
import { reasonOf } from '../../store/database';

const heading = 'pb-1 font-semibold';
/** One instrument's life on a page: whose it is, its sets, as found and as left, what was done and found, remarks, and its log. */
export function LifeView({ life }: { life: InstrumentLife }) {
  const { bench, ask, basePath, nowMs, count } = useWorld();
  const now = useNow(MINUTE);
  const { instrumentId, name } = life.record;
  const [message, say] = useState('');
  const { data: page, error } = useAsked({ question: 'life', subject: instrumentId, of: bench, ask: { instrumentId } });
  const found = useMemo(
    () =>
      [...bench.findings, ...bench.adjustments]
        .filter((r) => r.instrumentId === instrumentId)
        .sort((a, b) => b.atMs - a.atMs),
    [bench, instrumentId],
  );
  const day = (r: { atMs: number; zoneMin: number }) => localDay(r.atMs, r.zoneMin);
  const stem = `${fileName(name)}-${localDay(nowMs(), 0)}`;
  const give = () =>
    ask('export', { as: 'json', nowMs: Math.round(nowMs()), instrumentId, atLeast: count }).then(
      ({ file }) => saveFile(`slow-anchor-${stem}.json`, file),
      (error: unknown) => say(`No file was written: ${reasonOf(error)}.`),
    );
  /** All of it is on paper, or the owner's sheet alone. */
  const [whole, setWhole] = useState(false);
  useEffect(() => {
    if (!whole) return;
    window.print();
    setWhole(false);
  }, [whole]);
  const onScreen = whole ? '' : 'print:hidden';
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <section
        aria-label="Its life"
        tabIndex={0}
        className="min-h-0 flex-1 overflow-y-auto px-4 py-3 print:overflow-visible"
      >
        <div className="grid max-w-5xl gap-6">
          <div className={onScreen}>
            <About key={instrumentId} life={life} />
          </div>
          <section aria-labelledby="sheet">
            <h2 id="sheet" className={heading}>
              {page?.sheet.title ?? `${name}: as found and as left`}
            </h2>
            <NotWorkedOut error={error} waiting={!page} what="What its readings say" />
            {page && <Sheet sheet={page.sheet} />}
          </section>
          <section aria-labelledby="sets" className={onScreen}>
            <h2 id="sets" className={heading}>
              Its strings
            </h2>
            {page && <Sets sets={page.sets} nowMs={now} />}
          </section>
          <div className={clsx('grid grid-cols-2 gap-x-8 gap-y-6 max-lg:grid-cols-1', onScreen)}>
            <section aria-labelledby="treated">
              <h2 id="treated" className={heading}>
                What was done, and what it did
              </h2>
              {page?.treated.length === 0 && <p className="text-sm text-ink2">No treatment is noted.</p>}
              <ul className="text-sm">
                {page?.treated.map(({ record, before, after }) => (
                  <li key={record.id} className="border-t border-line py-1">
                    <span className="figure pr-2 text-xs text-ink2">{day(record)}</span>
                    {record.treatment},{' '}
                    {record.stringIds.length === life.record.strings.length
                      ? 'all strings'
                      : `${record.stringIds.length} strings`}
                    {(before !== null || after !== null) && (
                      <span className="block text-xs text-ink2">{ratesWords(before, after)}</span>
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
                    {sayWithin(r, life.record)}
                  </li>
                ))}
              </ul>
            </section>
            {page?.octaves?.strings.some((s) => s.last) && (
              <section aria-labelledby="octaves">
                <h2 id="octaves" className={heading}>
                  Its octaves
                </h2>
                <OctaveHistory octaves={page.octaves} now={now} />
              </section>
            )}
            <section aria-labelledby="materials">
              <h2 id="materials" className={heading}>
                How long your strings last
              </h2>
              <Materials life={life} now={now} />
            </section>
          </div>
          <div className={onScreen}>
            <Remarks life={life} />
          </div>
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
          { words: 'Print its whole life', on: () => setWhole(true) },
          { words: 'Export this instrument (JSON)', on: () => void give() },
        ]}
      />
    </div>
  );
}
