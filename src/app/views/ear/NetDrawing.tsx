import type { Zone } from '../../../core/base';
import { netTold, type CheckedNet } from '../../../core/by-ear';
import { clockTime, signed, plusMinus } from '../../parts/format';

const ROW = 34;
const LEFT = 64;
const RIGHT = 130;
const WIDE = 560;
/** Under the strings, where the figures of the lines stand. */
const UNDER = 20;

/** The strings with the checkpoints between them: what each says, which disagrees, and where every string stands by all of them. */
export function NetDrawing({
  net,
  notes,
  ids,
  zone,
  tolerance,
}: {
  net: CheckedNet;
  notes: readonly string[];
  ids: readonly string[];
  zone: Zone;
  tolerance: number;
}) {
  const y = (index: number) => (notes.length - 1 - index) * ROW + ROW / 2;
  const at = (id: string) => ids.indexOf(id);
  return (
    <section aria-label="The checkpoints together" className="pt-2">
      <h2 className="text-sm font-semibold">The checkpoints together, {clockTime(net.atMs, zone)}</h2>
      <p data-testid="net-words" className="max-w-2xl py-1 text-sm">
        {netTold(net, notes, ids, tolerance).join(' ')}
      </p>
      <svg
        viewBox={`0 0 ${WIDE} ${notes.length * ROW + UNDER}`}
        className="w-full max-w-2xl"
        role="img"
        aria-label={`Net of ${net.checkpoints.length} checkpoints on ${notes.length} strings`}
      >
        {notes.map((note, i) => (
          <g key={i}>
            <path
              d={`M${LEFT} ${y(i)}H${WIDE - RIGHT}`}
              stroke="var(--ink)"
              strokeWidth={1 + 0.5 * (notes.length - i)}
              opacity={0.75}
            />
            <text x={8} y={y(i) + 5} className="text-[16px] font-bold" fill="var(--ink)">
              {note}
            </text>
            <text x={WIDE - 8} y={y(i) + 5} textAnchor="end" className="figure text-[14px]" fill="var(--ink)">
              {net.offsets[i] === null || net.offsets[i] === undefined
                ? 'not tied'
                : i === net.anchor
                  ? 'the anchor'
                  : `${signed(net.offsets[i]!)} ${plusMinus(net.sigma[i]!)}`}
            </text>
          </g>
        ))}
        {net.checkpoints.map((c, k) => {
          const [i, j] = [at(c.stringId), at(c.againstId)];
          const x = LEFT + 14 + (k * (WIDE - LEFT - RIGHT - 40)) / Math.max(1, net.checkpoints.length - 1);
          const residual = net.residuals[k];
          const bad = net.suspect.includes(k);
          const colour = bad ? 'var(--rust)' : 'var(--deep)';
          return (
            <g key={c.id}>
              <path
                d={`M${x} ${y(i)}V${y(j)}`}
                stroke={colour}
                strokeWidth={2}
                strokeDasharray={bad ? '4 3' : undefined}
              />
              <circle cx={x} cy={y(i)} r={4} fill={colour} />
              <circle cx={x} cy={y(j)} r={4} fill={colour} />
              {residual !== null && residual !== undefined && (
                <text
                  x={x}
                  y={notes.length * ROW + 14}
                  textAnchor="middle"
                  className="figure text-[12px]"
                  fill={colour}
                >
                  {signed(residual)}
                </text>
              )}
            </g>
          );
        })}
      </svg>
      <p className="text-xs text-ink2">Under each line: how many cents that reading differs from the result of all.</p>
    </section>
  );
}
