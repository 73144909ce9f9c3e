import { type Zone, MINUTE } from '../../../core/base';
import { scaleTime } from 'd3-scale';
import type { DoneWalk, PlanItem } from '../../../core/plan';
import { clockTime } from '../../parts/format';
import { ADVICE, STEP_WORDS } from './words';
const WIDTH = 1000;
const LEFT = 4;
const ROW = 46;
const TOP = 30;

interface Props {
  items: readonly PlanItem[];
  done: readonly DoneWalk[];
  instruments: readonly { id: string; name: string }[];
  fromMs: number;
  nowMs: number;
  curtainMs: number;
  intervalMs: number | null;
  endMs: number;
  zone: Zone;
}

/** From now to the end: a line of water for each instrument, its work as buoys on it, the show as land at the right. */
export function TimeLine({ items, done, instruments, fromMs, nowMs, curtainMs, intervalMs, endMs, zone }: Props) {
  const height = TOP + instruments.length * ROW + 8;
  const x = scaleTime()
    .domain([fromMs, endMs])
    .range([LEFT, WIDTH - 26]);
  const hours = x.ticks(10);
  const rowOf = (id: string) => TOP + 30 + instruments.findIndex((i) => i.id === id) * ROW;
  const work = items.filter((i) => !ADVICE.has(i.what));
  return (
    <div className="overflow-x-auto" tabIndex={-1}>
      <svg
        viewBox={`0 0 ${WIDTH} ${height}`}
        className="w-full min-w-[740px]"
        role="img"
        aria-label={`Time line to the end at ${clockTime(endMs, zone)}: ${done.length} walks done, ${work.length} items to do`}
      >
        <rect x={x(curtainMs)} y={TOP} width={x(endMs) - x(curtainMs)} height={height - TOP} fill="var(--land)" />
        <rect
          x={LEFT}
          y={TOP}
          width={Math.max(0, x(curtainMs) - LEFT)}
          height={height - TOP}
          fill="var(--water)"
          opacity={0.45}
        />
        {hours.map((h) => (
          <g key={h.getTime()}>
            <path d={`M${x(h)} ${TOP}V${height}`} stroke="var(--line)" />
            <text x={x(h)} y={TOP - 14} textAnchor="middle" fontSize={15} fill="var(--ink2)" className="figure">
              {clockTime(h.getTime(), zone)}
            </text>
          </g>
        ))}
        {instruments.map(({ id, name }) => (
          <g key={id}>
            <path d={`M${LEFT} ${rowOf(id)}H${x(endMs)}`} stroke="var(--ink)" strokeWidth={1} opacity={0.5} />
            <text x={LEFT + 4} y={rowOf(id) - 17} fontSize={15} fontWeight={600} fill="var(--ink)">
              {name}
            </text>
          </g>
        ))}
        {done.map((d) => (
          <g key={`${d.instrumentId}/${d.atMs}`} opacity={d.atMs < fromMs ? 0 : 1}>
            <circle cx={x(d.atMs)} cy={rowOf(d.instrumentId)} r={7} fill="var(--ink)" />
            <path
              d={`M${x(d.atMs) - 3.4} ${rowOf(d.instrumentId)}l2.4 2.8l4.6 -5.4`}
              fill="none"
              stroke="var(--sheet)"
              strokeWidth={1.8}
            />
          </g>
        ))}
        {work.map((i) => (
          <Mark
            key={i.uid}
            item={i}
            x={x(i.atMs)}
            y={rowOf(i.instrumentId)}
            wide={x(i.atMs + i.minutes * MINUTE) - x(i.atMs)}
          />
        ))}
        <path d={`M${x(nowMs)} ${TOP - 6}V${height}`} stroke="var(--ink)" strokeWidth={2} />
        <path d={`M${x(curtainMs)} ${TOP - 6}V${height}`} stroke="var(--rust)" strokeWidth={2} strokeDasharray="6 4" />
        {intervalMs !== null && (
          <path d={`M${x(intervalMs)} ${TOP}V${height}`} stroke="var(--sand)" strokeWidth={1.6} strokeDasharray="2 4" />
        )}
      </svg>
    </div>
  );
}

/** One item as a mark: its form says what it is. */
function Mark({ item, x, y, wide }: { item: PlanItem; x: number; y: number; wide: number }) {
  const title = <title>{`${STEP_WORDS[item.what]}: ${item.why}`}</title>;
  const line = { stroke: item.conflict || item.late ? 'var(--rust)' : 'var(--ink)', strokeWidth: 1.6 };
  if (item.what === 'acclimatise')
    return (
      <g>
        {title}
        <path d={`M${x} ${y}h${Math.max(6, wide)}`} stroke="var(--sand)" strokeWidth={7} opacity={0.55} />
      </g>
    );
  if (item.what === 'last-tuning' || item.what === 'rounds')
    return (
      <g>
        {title}
        <rect x={x} y={y - 10} width={Math.max(8, wide)} height={20} fill="var(--deep)" {...line} />
      </g>
    );
  if (item.what === 'between')
    return (
      <g>
        {title}
        <path d={`M${x} ${y - 9}l8 15h-16z`} fill="var(--sand)" {...line} />
      </g>
    );
  return (
    <g>
      {title}
      <circle cx={x} cy={y} r={6} fill="var(--sheet)" {...line} />
    </g>
  );
}
