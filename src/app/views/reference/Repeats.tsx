import type { ToneAverage, ToneReading } from '../../../core/reference';
import { cents } from '../../../core/music';
import { symlog } from '../../parts/format';

const WIDE = 560;
const TALL = 84;
const FULL = 60;
const x = (c: number) => WIDE / 2 + symlog(c, FULL) * (WIDE / 2 - 20);

/** Every repeat against the reference in force, and the average with its doubt. */
export function Repeats({
  readings,
  average,
  a4Hz,
}: {
  readings: readonly ToneReading[];
  average: ToneAverage | undefined;
  a4Hz: number;
}) {
  const at = (hz: number) => x(cents(hz, a4Hz));
  const middle = average && at(average.frequencyHz);
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${TALL}`}
      className="my-2 w-full max-w-2xl"
      role="img"
      aria-label={`${readings.length} repeats against the reference in force`}
    >
      <rect width={WIDE / 2} height={60} fill="var(--water)" opacity={0.7} />
      <rect x={WIDE / 2} width={WIDE / 2} height={60} fill="var(--land)" opacity={0.7} />
      <path d={`M${WIDE / 2} 0V60`} stroke="var(--ink)" strokeWidth={1.5} />
      {[-20, -5, 5, 20].map((c) => (
        <g key={c}>
          <path d={`M${x(c)} 54V60`} stroke="var(--ink2)" />
          <text x={x(c)} y={76} textAnchor="middle" className="figure text-[12px]" fill="var(--ink2)">
            {c < 0 ? `−${-c}` : `+${c}`}
          </text>
        </g>
      ))}
      {readings.map((r, i) => (
        <circle key={i} cx={at(r.frequencyHz)} cy={14 + (i % 4) * 11} r={4} fill="var(--deep)" opacity={0.8} />
      ))}
      {average && middle !== undefined && (
        <path d={`M${middle} 4V58`} stroke="var(--rust)" strokeWidth={2} strokeLinecap="round" />
      )}
    </svg>
  );
}
