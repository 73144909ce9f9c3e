import type { ExerciseRecord } from '../../../core/log';
import { signed } from '../../parts/format';

const WIDE = 90;
const HIGH = 22;
/** So many of the newest are drawn. */
const DRAWN = 20;

const figure = (r: ExerciseRecord): string =>
  r.practice === 'hands'
    ? signed(r.value)
    : r.practice === 'ear'
      ? r.value.toFixed(1)
      : r.practice === 'hunt'
        ? `${r.right ? 'found' : 'not found'}, ${r.value}`
        : r.value.toFixed(1);

/** The last figure of an exercise and its course over time: nearer to the line is better. */
export function ExerciseCourse({ records }: { records: readonly ExerciseRecord[] }) {
  const shown = records.slice(-DRAWN);
  const last = shown.at(-1);
  if (!last) return <span className="text-xs text-ink2">not done yet</span>;
  const sizes = shown.map((r) => Math.log1p(Math.abs(r.value)));
  const most = Math.max(1, ...sizes);
  const x = (k: number) => (shown.length === 1 ? WIDE / 2 : (WIDE * k) / (shown.length - 1));
  return (
    <>
      <svg viewBox={`-3 -3 ${WIDE + 6} ${HIGH + 6}`} className="h-6 w-24" aria-hidden="true">
        <path d={`M0 ${HIGH}H${WIDE}`} stroke="var(--line)" />
        <path
          d={sizes
            .map((s, k) => `${k === 0 ? 'M' : 'L'}${x(k).toFixed(1)} ${(HIGH - (HIGH * s) / most).toFixed(1)}`)
            .join('')}
          fill="none"
          stroke="var(--deep)"
          strokeWidth={2}
        />
        {sizes.map((s, k) => (
          <circle key={k} cx={x(k)} cy={HIGH - (HIGH * s) / most} r={2} fill="var(--deep)" />
        ))}
      </svg>
      <span className="figure w-24 text-right text-sm">{figure(last)}</span>
    </>
  );
}
