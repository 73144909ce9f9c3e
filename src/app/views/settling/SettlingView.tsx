import { columnsWords } from '../../../core/says';
import { useCallback, useMemo, useState } from 'react';
import type { InstrumentLife } from '../../../core/log';
import { Button } from '../../parts/Button';
import { FallSketch, FirstStep } from '../../parts/FirstStep';
import { NotWorkedOut } from '../../parts/NotWorkedOut';
import { clockTime } from '../../parts/format';
import { useAsked } from '../../world/asked';
import { useNow } from '../../world/now';
import { useSaid } from '../../world/said';
import { usePriors } from '../../world/priors';
import { HOLD_MIN, TOLERANCE_CENTS } from '../../../core/check';
import { useWorld } from '../../world/world';
import { useWriting } from '../../world/writing';
import { EditReading } from '../../parts/EditReading';
import { FallChart } from './FallChart';
import { StringRow } from './StringRow';
import { WhichReading } from './WhichReading';
import { MINUTE, counted } from '../../../core/base';

const AHEAD: [string, number][] = [
  ['3 h', 180],
  ['1 day', 1440],
  ['1 week', 10080],
];
const STEP_MS = 30000;

/** How far each string has fallen, how fast it falls, and until when it holds. */
export function SettlingView({ life }: { life: InstrumentLife }) {
  const { bench, basePath, zone, nowMs, stored, planAt } = useWorld();
  const [trouble, setTrouble] = useState('');
  const write = useWriting(setTrouble);
  const { instrumentId } = life.record;
  const now = Math.ceil(useNow(10000) / STEP_MS) * STEP_MS;
  const { priorsFor, learns, setLearns, setsFor, error: unlearned } = usePriors();
  const [hidden, setHidden] = useState<ReadonlySet<string>>(new Set());
  const [byAge, setByAge] = useState(false);
  const [aheadMin, setAheadMin] = useState<number | null>(null);
  const [toleranceCents, setTolerance] = useState(TOLERANCE_CENTS);
  const [holdMin, setHold] = useState(HOLD_MIN);
  /** Readings that were pointed at: one is corrected, of several one is chosen first. */
  const [pointed, point] = useState<readonly string[]>([]);
  const curtainMs = bench.curtain?.curtainMs && bench.curtain.curtainMs > now ? bench.curtain.curtainMs : null;
  const untilMs = aheadMin === null ? (curtainMs ?? now + 180 * MINUTE) + 90 * MINUTE : now + aheadMin * MINUTE;
  const { data: story, error } = useAsked({
    question: 'story',
    subject: instrumentId,
    of: life,
    ask: {
      instrumentId,
      wish: { nowMs: now, untilMs, priors: priorsFor(instrumentId) },
    },
  });
  const shown = useCallback((id: string) => !hidden.has(id), [hidden]);
  const readings = useMemo(
    () => life.strings.flatMap((s) => s.readings).filter((r) => pointed.includes(r.id)),
    [life, pointed],
  );
  const [reading, other] = readings;
  const raw = reading && stored(reading.id, instrumentId);
  const said = useSaid(life, now, { toleranceCents, holdMin });
  const atShow = curtainMs === null ? 'Show' : `At ${clockTime(curtainMs, zone)}`;
  const sets = setsFor(instrumentId);
  const choose = 'rounded-md border border-ink2 bg-sheet px-2 py-1';
  const isUnread = life.strings.every((s) => s.readings.length === 0);
  const undrawn = story?.strings.reduce((sum, s) => sum + s.undrawn, 0) ?? 0;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_430px] max-lg:grid-cols-[minmax(0,1fr)] max-lg:overflow-y-auto">
      <section aria-label="Falls" className="flex min-h-0 min-w-0 flex-col px-4 py-2">
        <NotWorkedOut
          error={error ?? said.error ?? unlearned}
          waiting={!story && !isUnread}
          what="How these strings settle"
          kept="Readings are saved as usual."
        />
        {isUnread && (
          <FirstStep to={`${basePath}/bench/${instrumentId}`} words="Start check" drawing={<FallSketch />}>
            Nothing is read yet. Check all strings now and again in ten minutes. Then you see here how far each has
            fallen, and when it will hold.
          </FirstStep>
        )}
        <div className="min-h-72 flex-1">
          {story && (
            <FallChart
              story={story}
              shown={shown}
              byAge={byAge}
              curtainMs={curtainMs}
              zone={zone}
              chart={document.documentElement.dataset['chart'] ?? ''}
              onPoints={point}
            />
          )}
        </div>
        <div className="flex flex-wrap items-center gap-2 pt-2 text-sm">
          <Button aria-pressed={byAge} onClick={() => setByAge((v) => !v)}>
            {byAge ? 'By time' : 'By age'}
          </Button>
          <span className="pl-2 text-ink2">Ahead</span>
          <Button aria-pressed={aheadMin === null} strong={aheadMin === null} onClick={() => setAheadMin(null)}>
            {curtainMs ? 'the show' : '4 h'}
          </Button>
          {AHEAD.map(([words, min]) => (
            <Button
              key={min}
              aria-pressed={aheadMin === min}
              strong={aheadMin === min}
              onClick={() => setAheadMin(min)}
            >
              {words}
            </Button>
          ))}
          <span className="text-xs text-ink2">
            ● as found ▲ as left ■ after a stretch ✕ moved at once; bands 50 and 90 %
            {byAge ? '' : '; broad line: what all strings do together'}. Click a point to correct it.
          </span>
        </div>
      </section>
      <aside
        aria-label="Strings"
        className="min-h-0 overflow-y-auto border-l border-line bg-sheet px-4 py-3 max-lg:border-l-0"
      >
        <div className="flex flex-wrap items-center gap-x-4 gap-y-2 pb-2 text-sm">
          <label>
            Within ±
            <select value={toleranceCents} onChange={(e) => setTolerance(Number(e.target.value))} className={choose}>
              {[1, 2, 3, 5, 10].map((c) => (
                <option key={c} value={c}>
                  {c} cents
                </option>
              ))}
            </select>
          </label>
          <label>
            for{' '}
            <select value={holdMin} onChange={(e) => setHold(Number(e.target.value))} className={choose}>
              {[10, 30, 45, 90, 180, 1440].map((m) => (
                <option key={m} value={m}>
                  {m < 180 ? `${m} min` : `${m / 60} h`}
                </option>
              ))}
            </select>
          </label>
          <label className="flex items-center gap-1.5">
            <input type="checkbox" checked={learns} onChange={(e) => setLearns(e.target.checked)} />
            {sets > 0 ? `from ${counted(sets, 'earlier set')}` : 'learn from earlier sets'}
          </label>
        </div>
        <table className="w-full border-collapse">
          <thead className="border-b border-line text-xs font-normal text-ink2">
            <tr>
              <th scope="col" className="text-left font-normal">
                String
              </th>
              {['Fallen', 'An hour', atShow, 'Holds', 'Ready'].map((column) => (
                <th key={column} scope="col" className="px-1.5 text-right font-normal">
                  {column}
                </th>
              ))}
              <td />
            </tr>
          </thead>
          {life.strings.map(({ plan }, i) => (
            <StringRow
              key={plan.stringId}
              stringId={plan.stringId}
              note={plan.note}
              said={said}
              showMs={curtainMs}
              index={i}
              shown={shown(plan.stringId)}
              onShow={() =>
                setHidden((h) => {
                  const next = new Set(h);
                  if (!next.delete(plan.stringId)) next.add(plan.stringId);
                  return next;
                })
              }
            />
          ))}
        </table>
        <p className="pt-2 text-xs text-ink2">{columnsWords(toleranceCents, holdMin)}</p>
        {undrawn > 0 && (
          <p className="pt-2 text-xs text-ink2">
            {undrawn} readings in between are not drawn: they say nothing else of how it settles. All are in History.
          </p>
        )}
      </aside>
      {other && (
        <WhichReading life={life} readings={readings} onChoose={(id) => point([id])} onClose={() => point([])} />
      )}
      {raw?.type === 'reading' && !other && (
        <EditReading
          key={raw.id}
          life={life}
          reading={raw}
          zone={zone}
          planAt={planAt}
          nowMs={nowMs}
          trouble={trouble}
          onSave={(draft) => void write([draft], () => point([]))}
          onClose={() => point([])}
        />
      )}
    </div>
  );
}
