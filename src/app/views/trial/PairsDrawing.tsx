import { ratioWords } from '../../../core/trial';
import { NORMAL_Q95 } from '../../../core/base';
import { scaleLinear } from 'd3-scale';
import type { Trial } from '../../../core/trial';

const WIDTH = 640;
const LEFT = 150;
const ROW = 34;
const MARKS = [0.25, 0.5, 0.75, 1, 1.5, 2, 4];

/** Every pair as a ratio of its slopes, and all together below: left of the line the treated one fell less. */
export function PairsDrawing({ trial, names }: { trial: Trial; names: string[] }) {
  const reach = Math.log(4.5);
  const x = scaleLinear()
    .domain([-reach, reach])
    .range([LEFT, WIDTH - 16])
    .clamp(true);
  const height = (names.length + 1) * ROW + 44;
  const bottom = names.length * ROW + 30;
  const { q05, q50, q95 } = trial.ratio;
  return (
    <svg viewBox={`0 0 ${WIDTH} ${height}`} className="w-full max-w-3xl" role="img" aria-label={ratioWords(trial)}>
      <rect x={LEFT} width={x(0) - LEFT} height={bottom + ROW} fill="var(--land)" opacity={0.7} />
      <rect x={x(0)} width={WIDTH - 16 - x(0)} height={bottom + ROW} fill="var(--water)" opacity={0.7} />
      {MARKS.map((m) => (
        <g key={m}>
          <path
            d={`M${x(Math.log(m))} 0V${bottom + ROW}`}
            stroke={m === 1 ? 'var(--ink)' : 'var(--line)'}
            strokeWidth={m === 1 ? 2 : 1}
          />
          <text
            x={x(Math.log(m))}
            y={height - 2}
            textAnchor="middle"
            fontSize={12}
            fill="var(--ink2)"
            className="figure"
          >
            {m}
          </text>
        </g>
      ))}
      {trial.pairs.map((p, i) => (
        <g key={i}>
          <text x={4} y={i * ROW + 24} fontSize={12} fill="var(--ink)">
            {names[i]}
          </text>
          {p ? (
            <>
              <path
                d={`M${x(p.logRatio - NORMAL_Q95 * p.sigma)} ${i * ROW + 20}H${x(p.logRatio + NORMAL_Q95 * p.sigma)}`}
                stroke="var(--ink)"
                strokeWidth={1.4}
              />
              <circle cx={x(p.logRatio)} cy={i * ROW + 20} r={5} fill="var(--deep)" stroke="var(--ink)" />
            </>
          ) : (
            <text x={x(0) + 8} y={i * ROW + 24} fontSize={12} fill="var(--ink2)">
              three readings each are needed
            </text>
          )}
        </g>
      ))}
      <text x={4} y={bottom + 12} fontSize={13} fontWeight={700} fill="var(--ink)">
        All together
      </text>
      <path
        d={`M${x(Math.log(q05))} ${bottom + 8}L${x(Math.log(q50))} ${bottom}L${x(Math.log(q95))} ${bottom + 8}L${x(Math.log(q50))} ${bottom + 16}Z`}
        fill="var(--ink)"
      />
    </svg>
  );
}
