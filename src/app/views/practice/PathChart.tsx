import { HAND_TOLERANCE_CENTS, type HandRun } from '../../../core/practice';
import { symlog } from '../../parts/format';
import { dashArray, strokeOf } from '../../parts/strokes';

const WIDE = 460;
const HIGH = 220;
const FULL = 900;

/** Where the strings stood over time, against their target. */
export function PathChart({ run, endS }: { run: HandRun; endS: number }) {
  const x = (tS: number) => 40 + ((WIDE - 50) * tS) / Math.max(1, endS);
  const y = (cents: number) => HIGH * 0.42 - symlog(cents, FULL) * HIGH * 0.4;
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      role="img"
      aria-label="The path of pitch over time"
      className="w-full max-w-2xl"
    >
      <rect x={40} y={0} width={WIDE - 50} height={y(0)} fill="var(--land)" opacity={0.6} />
      <rect x={40} y={y(0)} width={WIDE - 50} height={HIGH - y(0)} fill="var(--water)" opacity={0.6} />
      <rect
        x={40}
        y={y(HAND_TOLERANCE_CENTS)}
        width={WIDE - 50}
        height={y(-HAND_TOLERANCE_CENTS) - y(HAND_TOLERANCE_CENTS)}
        fill="var(--ink2)"
        opacity={0.25}
      />
      <path d={`M40 ${y(0)}H${WIDE - 10}`} stroke="var(--ink)" strokeWidth={1.5} />
      {[100, 10, -10, -100].map((c) => (
        <text key={c} x={34} y={y(c) + 4} textAnchor="end" className="figure" fontSize={13} fill="var(--ink2)">
          {c > 0 ? `+${c}` : `−${-c}`}
        </text>
      ))}
      {run.strings.map((s, i) => {
        const stroke = strokeOf(i);
        const points = [...s.path, { tS: endS, cents: s.path.at(-1)!.cents }];
        const d = points
          .map(
            (p, k) =>
              `${k === 0 ? 'M' : `H${x(p.tS).toFixed(1)}V`}${k === 0 ? `${x(p.tS).toFixed(1)} ` : ''}${y(p.cents).toFixed(1)}`,
          )
          .join('');
        return (
          <path
            key={i}
            d={d}
            fill="none"
            stroke={`var(--${stroke.token})`}
            strokeDasharray={dashArray[stroke.dash]}
            strokeWidth={2}
          />
        );
      })}
    </svg>
  );
}
