import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useCallback, useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';
import { Button } from '../../parts/Button';
import { InstrumentLinks } from '../../parts/InstrumentLinks';
import { clockTime } from '../../parts/format';
import { useNow } from '../../store/now';
import { usePriors } from '../../store/priors';
import { HOLD_MIN, TOLERANCE_CENTS } from '../../store/status';
import { useWorld } from '../../store/world';
import { EditReading } from './EditReading';
import { FallChart } from './FallChart';
import { StringFacts } from './StringFacts';

const AHEAD: [string, number][] = [
  ['3 h', 180],
  ['1 day', 1440],
  ['1 week', 10080],
];
const STEP_MS = 30000;

/** How far each string has fallen, how fast it falls, and until when it holds. */
export function SettlingView() {
  const { instrumentId } = useParams();
  const { bench, basePath, zoneMin, ask } = useWorld();
  const now = Math.ceil(useNow(10000) / STEP_MS) * STEP_MS;
  const { priorsFor, basis, learns, setLearns, setsFor } = usePriors();
  const life = bench.instruments.find((i) => i.record.instrumentId === instrumentId) ?? bench.instruments[0];
  const [hidden, setHidden] = useState<ReadonlySet<string>>(new Set());
  const [byAge, setByAge] = useState(false);
  const [aheadMin, setAheadMin] = useState<number | null>(null);
  const [toleranceCents, setTolerance] = useState(TOLERANCE_CENTS);
  const [holdMin, setHold] = useState(HOLD_MIN);
  const [editing, setEditing] = useState<string | undefined>(undefined);
  const curtainMs = bench.curtain?.curtainMs && bench.curtain.curtainMs > now ? bench.curtain.curtainMs : null;
  const untilMs = aheadMin === null ? (curtainMs ?? now + 180 * 60000) + 90 * 60000 : now + aheadMin * 60000;
  const { data: story } = useQuery({
    queryKey: [
      'story',
      life?.record.id,
      life?.strings.map((s) => [
        s.strungMs,
        s.readings.length,
        s.readings.at(-1)?.id,
        s.rounds.length,
        s.treatments.length,
      ]),
      life?.strings.map((s) => s.readings.map((r) => r.supersedes ?? '').join('')),
      now,
      toleranceCents,
      holdMin,
      curtainMs,
      untilMs,
      basis,
    ],
    queryFn: ({ signal }) =>
      ask(
        'story',
        {
          instrumentId: life!.record.instrumentId,
          wish: {
            nowMs: now,
            toleranceCents,
            holdMin,
            curtainMs,
            untilMs,
            priors: priorsFor(life!.record.instrumentId),
            zoneMin,
          },
        },
        { signal },
      ),
    enabled: life !== undefined,
    placeholderData: keepPreviousData,
    gcTime: 30000,
  });
  const shown = useCallback((id: string) => !hidden.has(id), [hidden]);
  const reading = useMemo(
    () => life?.strings.flatMap((s) => s.readings).find((r) => r.id === editing),
    [life, editing],
  );
  if (!life) {
    return (
      <div className="p-10">
        <h1 className="text-2xl font-bold">Nothing settles yet</h1>
        <Link to={`${basePath}/instrument`} className="text-deep underline">
          Add an instrument
        </Link>
      </div>
    );
  }
  const sets = setsFor(life.record.instrumentId);
  const choose = 'rounded-md border border-ink2 bg-sheet px-2 py-1';
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[1fr_400px] max-lg:grid-cols-1 max-lg:overflow-y-auto">
      <section aria-labelledby="settling-name" className="flex min-h-0 min-w-0 flex-col px-5 py-3">
        <InstrumentLinks
          instruments={bench.instruments.map(({ record }) => ({ id: record.instrumentId, name: record.name }))}
          to={`${basePath}/settling`}
          current={life.record.instrumentId}
        />
        <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1 pb-2">
          <h1 id="settling-name" className="text-2xl font-bold">
            {life.record.name}: settling
          </h1>
          <Link to={`${basePath}/bench/${life.record.instrumentId}`} className="text-sm text-deep underline">
            Bench
          </Link>
          <Link to={`${basePath}/trial`} className="text-sm text-deep underline">
            Treated against untreated
          </Link>
        </div>
        <div className="min-h-72 flex-1">
          {story && (
            <FallChart
              story={story}
              shown={shown}
              byAge={byAge}
              curtainMs={curtainMs}
              zoneMin={zoneMin}
              chart={document.documentElement.dataset['chart'] ?? ''}
              onPoint={setEditing}
            />
          )}
        </div>
        <div className="flex flex-wrap items-center gap-2 pt-2 text-sm">
          <Button aria-pressed={byAge} onClick={() => setByAge((v) => !v)}>
            {byAge ? 'By the clock' : 'By age, logarithmic'}
          </Button>
          <span className="pl-2 text-ink2">Ahead</span>
          <Button aria-pressed={aheadMin === null} strong={aheadMin === null} onClick={() => setAheadMin(null)}>
            {curtainMs ? 'the curtain' : '4 h'}
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
            ● as found ▲ as left ■ after a stretch ✕ slipped; bands 50 and 90 %
            {byAge ? '' : '; the broad line is what all strings do alike'}. Choose a point to put it right.
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
            {sets > 0 ? `from ${sets} earlier ${sets === 1 ? 'set' : 'sets'}` : 'learn from earlier sets'}
          </label>
        </div>
        <ol>
          {story?.strings.map((s, i) => (
            <StringFacts
              key={s.stringId}
              story={s}
              index={i}
              shown={shown(s.stringId)}
              onShow={() =>
                setHidden((h) => {
                  const next = new Set(h);
                  if (!next.delete(s.stringId)) next.add(s.stringId);
                  return next;
                })
              }
              nowMs={now}
              zoneMin={zoneMin}
              curtain={curtainMs === null ? null : clockTime(curtainMs, zoneMin)}
            />
          ))}
        </ol>
      </aside>
      {reading && <EditReading key={reading.id} life={life} reading={reading} onClose={() => setEditing(undefined)} />}
    </div>
  );
}
