import { dropsWords, enoughWords } from '../../../core/fitting';
import { scaleSqrt } from 'd3-scale';
import type { RoundsAdvice } from '../../../core/settling';

const HEIGHT = 150;
const WIDE = 46;
const SMALL_CENTS = 2;

/** The drops of the rounds so far, hanging from the waterline; where it can be told, the next with its interval. */
export function Drops({ drops, next }: { drops: number[]; next: RoundsAdvice['next'] }) {
  const deepest = Math.max(12, ...drops, next?.q90 ?? 0);
  const y = scaleSqrt()
    .domain([0, deepest])
    .range([18, HEIGHT - 6])
    .clamp(true);
  const width = Math.max(6, drops.length + 1.5) * WIDE;
  return (
    <svg viewBox={`0 0 ${width} ${HEIGHT}`} className="w-full" role="img" aria-label={dropsWords(drops)}>
      <rect y={18} width={width} height={HEIGHT - 18} fill="var(--water)" opacity={0.5} />
      <rect y={18} width={width} height={y(SMALL_CENTS) - 18} fill="var(--ink)" opacity={0.1} />
      <text x={width - 6} y={HEIGHT - 5} textAnchor="end" fontSize={12} fill="var(--ink2)">
        {enoughWords(SMALL_CENTS)}
      </text>
      <path d={`M0 18H${width}`} stroke="var(--ink)" strokeWidth={1.6} />
      {drops.map((d, i) => (
        <g key={i}>
          <rect x={12 + i * WIDE} y={18} width={26} height={Math.max(1, y(Math.max(0, d)) - 18)} fill="var(--deep)" />
          <text x={25 + i * WIDE} y={12} textAnchor="middle" fontSize={12} fill="var(--ink)" className="figure">
            {d.toFixed(1)}
          </text>
        </g>
      ))}
      {next && (
        <g stroke="var(--ink)" strokeWidth={1.6} fill="none">
          <path d={`M${25 + drops.length * WIDE} ${y(next.q10)}V${y(next.q90)}`} />
          <path d={`M${17 + drops.length * WIDE} ${y(next.q10)}h16m-16 ${y(next.q90) - y(next.q10)}h16`} />
          <circle cx={25 + drops.length * WIDE} cy={y(next.q50)} r={4} fill="var(--sheet)" />
        </g>
      )}
    </svg>
  );
}
