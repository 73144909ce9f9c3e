import { A4_RANGE } from '../../core/reference';
import { Moon, Sun } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { A4_MAX_HZ, A4_MIN_HZ, capital } from '../../core/music';
import { COLDEST_C, WARMEST_C } from '../../core/limits';
import { clockTime, span } from '../parts/format';
import { FaultyRecord, heldInMemory } from '../world/held';
import { useNow } from '../world/now';
import { useWorld } from '../world/world';
import { nextAt, DAY, MINUTE, counted } from '../../core/base';
import { temperatureC } from './facts';
import { DemoStrip } from './DemoStrip';
import { FieldButton } from './FieldButton';
import { KeyMap } from './KeyMap';
import { useChart } from './useChart';
import { tabClass } from './tabs';
import { PLACES, viewsAt, type ViewPlace, type ViewLine } from './views';
import { WantTo } from './WantTo';
/** A clock set back by more than this is told, for so long, ms. */
const CLOCK_BACK_MS = MINUTE;
const CLOCK_TOLD_MS = DAY / 2;

const Anchor = () => (
  <svg
    viewBox="0 0 24 24"
    className="h-5 w-5"
    fill="none"
    stroke="currentColor"
    strokeWidth={1.8}
    strokeLinecap="round"
    aria-hidden="true"
  >
    <path d="M3 8h18M12 8v11M6 14c0 3.3 2.7 5.5 6 5.5s6-2.2 6-5.5" />
  </svg>
);

/** Name, places, and the three facts every forecast rests on: reference, room, the show's start. */
export function Header({ view }: { view: ViewLine }) {
  const { basePath, a4Hz, bench, append, nowMs, zone, unkept, demo, trouble: closed, lastWritten } = useWorld();
  const now = useNow(10000);
  const [chart, toggleChart] = useChart();
  const [refused, setRefused] = useState<Error | undefined>(undefined);
  // What is kept by now is not said to be held.
  const trouble = refused && (refused instanceof FaultyRecord || unkept > 0) ? heldInMemory(refused) : '';
  const curtainMs = bench.curtain?.curtainMs ?? null;
  const { clockBack } = bench;
  // Seen in the log, or before the first record after it is written.
  const seenMs = clockBack && now - clockBack.atMs < CLOCK_TOLD_MS ? clockBack.byMs : 0;
  const backMs = Math.max(seenMs, (lastWritten?.atMs ?? 0) - now);
  const write = (drafts: Parameters<typeof append>[0]) =>
    append(drafts).then(
      () => setRefused(undefined),
      (error: Error) => setRefused(error),
    );
  const here: ViewPlace = view.of === 'instrument' ? 'instruments' : view.place;
  return (
    <header className="print:hidden border-b border-line bg-sheet">
      <DemoStrip className="max-sm:hidden">, the Heron</DemoStrip>
      <div className="flex h-14 items-center gap-x-5 px-5 max-lg:h-auto max-lg:flex-wrap max-lg:gap-y-0 max-lg:px-2 max-lg:py-1 max-sm:py-0 max-sm:[&_a]:py-3 max-sm:[&_button]:min-h-11 max-sm:[&_button]:min-w-11">
        <span className="flex items-center gap-2 text-lg font-bold whitespace-nowrap max-sm:sr-only">
          <Anchor />
          <span className="max-lg:sr-only">Slow Anchor</span>
        </span>
        <nav aria-label="Places" className="flex gap-1 max-sm:gap-0 max-sm:[&_a]:px-1.5 max-sm:[&_a]:text-sm">
          {(Object.keys(PLACES) as ViewPlace[]).map((place) => (
            <Link
              key={place}
              to={`${basePath}/${place === 'instruments' ? 'bench' : viewsAt(place)[0]!.path}`}
              className={tabClass(place === here)}
              aria-current={place === here ? 'page' : undefined}
            >
              {PLACES[place]}
            </Link>
          ))}
        </nav>
        <div className="ml-auto flex items-center gap-5 max-lg:w-full max-lg:justify-between max-lg:gap-2">
          <FieldButton
            name="Reference A4"
            value={`${a4Hz.toFixed(1)} Hz`}
            start={String(a4Hz)}
            help={`${capital(A4_RANGE)}.`}
            onKeep={(text) => {
              const hz = Number(text.replace(',', '.').replace(/hz/i, ''));
              if (!(hz >= A4_MIN_HZ && hz <= A4_MAX_HZ)) return `Give a reference ${A4_RANGE}.`;
              void write([{ type: 'reference', a4Hz: hz }]);
              return undefined;
            }}
          />
          <FieldButton
            name="Room"
            value={bench.room ? `${bench.room.tempC.toFixed(1)} °C` : 'not given'}
            start={bench.room ? String(bench.room.tempC) : ''}
            help="Temperature where the instruments are, in degrees Celsius, or as 68 F."
            onKeep={(text) => {
              const tempC = temperatureC(text);
              if (!(tempC >= COLDEST_C && tempC <= WARMEST_C))
                return `Give a temperature from ${COLDEST_C} to ${WARMEST_C} °C.`.replace('-', '−');
              void write([{ type: 'room', tempC }]);
              return undefined;
            }}
          />
          <FieldButton
            name={curtainMs !== null && curtainMs > now ? `Show ${clockTime(curtainMs, zone)}` : 'Show starts'}
            value={
              curtainMs === null
                ? 'not set'
                : curtainMs > now
                  ? `in ${span(curtainMs - now)}`
                  : `began ${clockTime(curtainMs, zone)}`
            }
            start={curtainMs === null ? '' : clockTime(curtainMs, zone)}
            help="When the show starts, today or tomorrow: 19:30 or 7:30 pm. Leave empty for no show."
            onKeep={(text) => {
              const at = text.trim() === '' ? null : nextAt(text, nowMs(), zone);
              if (at === undefined) return 'Write the time as hours and minutes: 19:30, or 7:30 pm.';
              void write([{ type: 'curtain', curtainMs: at }]);
              return undefined;
            }}
          />
          <WantTo />
          <button
            type="button"
            onClick={toggleChart}
            className="rounded-md border border-line p-2"
            aria-label={chart === 'night' ? 'Use the day chart' : 'Use the night chart'}
          >
            {chart === 'night' ? <Sun size={16} aria-hidden /> : <Moon size={16} aria-hidden />}
          </button>
          <KeyMap view={view} simulated={demo !== undefined} />
        </div>
      </div>
      {(unkept > 0 || trouble || closed) && (
        <p role="alert" className="bg-rust px-5 py-2 text-sm text-sheet">
          {trouble ||
            (closed && `The browser does not open its storage (${closed}). `) ||
            `${counted(unkept, 'entry is', 'entries are')} in memory only: the browser does not write. `}
          {!trouble &&
            (closed
              ? 'Earlier data cannot be shown, and new data is in memory only. Export it before you close this page.'
              : 'Export it now, then free some space.')}
        </p>
      )}
      {backMs > CLOCK_BACK_MS && (
        <p role="alert" className="bg-rust px-5 py-2 text-sm text-sheet">
          This device’s clock went back by {span(backMs)}. Earlier entries are counted by the new time. Nothing is lost.
          If the new time is wrong, correct the clock.
        </p>
      )}
    </header>
  );
}
