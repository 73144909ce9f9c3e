import { useMoment, type Trace } from './trace';
import type { TunerPlace } from '../../core/strings';

/** Which tuner, which way, how far: words beside a small plan of the strings' run, the one in hand drawn bold. */
export function TunerHint({ trace, place }: { trace: Trace; place: TunerPlace }) {
  const tuner = useMoment(trace, (m) => m.tuner);
  if (!tuner) return null;
  return (
    <div data-testid="tuner" className="flex items-center gap-3 border-l-4 border-water pl-2">
      <RunDrawing place={place} up={tuner.up} />
      <p className="text-[15px] leading-snug">
        <span className="block font-semibold">{tuner.place}</span>
        {tuner.way && <span className="block">{tuner.way}</span>}
        {tuner.far && <span className="block">{tuner.far}</span>}
      </p>
    </div>
  );
}

const WIDE = 64;
const HIGH = 60;

/** Strings run from the nut, at the bottom, and end where their tuners stand; a curl round the end says that it winds up or off. */
function RunDrawing({ place: { side, at, of }, up }: { place: TunerPlace; up: boolean }) {
  const rows = side === null ? 1 : 2;
  const step = (HIGH - 24) / Math.max(1, of);
  const run = (left: boolean, n: number) => {
    const foot = rows === 1 ? 10 + ((WIDE - 24) * (n - 0.5)) / of : left ? 29 - 2 * (of - n) : 35 + 2 * (of - n);
    const y = HIGH - 16 - step * (n - 0.5);
    const x = rows === 1 ? foot : left ? 12 : WIDE - 12;
    return { d: `M${foot} ${HIGH - 4}V${y + 6}Q${foot} ${y} ${x} ${y}`, x, y };
  };
  const own = run(side === 'bass', at);
  return (
    <svg viewBox={`0 0 ${WIDE} ${HIGH}`} className="h-[60px] w-16 shrink-0" aria-hidden="true">
      <path d={`M4 ${HIGH - 4}H${WIDE - 4}`} stroke="var(--ink)" strokeWidth={2} />
      {Array.from({ length: of }, (_, i) => i + 1).map((n) => (
        <g key={n} fill="none" stroke="var(--line)" strokeWidth={1.4}>
          {rows === 2 && <path d={run(true, n).d} />}
          <path d={run(false, n).d} />
        </g>
      ))}
      <path d={own.d} fill="none" stroke="var(--deep)" strokeWidth={3} strokeLinecap="round" />
      <path
        d={
          up
            ? `M${own.x - 7} ${own.y + 2}a7 7 0 1 1 10 4m0 0l1 -5m-1 5l5 1`
            : `M${own.x + 7} ${own.y + 2}a7 7 0 1 0 -10 4m0 0l-1 -5m1 5l-5 1`
        }
        fill="none"
        stroke="var(--rust)"
        strokeWidth={1.6}
      />
    </svg>
  );
}
