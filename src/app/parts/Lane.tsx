import { scaleLog } from 'd3-scale';
import { area, line } from 'd3-shape';
import { memo } from 'react';
import type { ReadingRecord } from '../../core/log';
import { symlog } from './format';
import { MINUTE } from '../../core/base';
import type { ForecastBand } from '../../core/status';

export interface LaneProps {
  readings: ReadingRecord[];
  /** From when its age counts, ms. */
  bornMs: number | undefined;
  nowMs: number;
  ahead: ForecastBand[];
  curtainMs: number | null;
  toleranceCents: number;
  height: number;
  label: string;
}

const WIDTH = 440;
/** Room at the left for the cents' words. */
const LABELS = 26;
const FULL = 60;
const GRID_MIN = [1, 2, 5, 10, 20, 60, 120, 300, 720, 1440, 4320, 10080, 43200];
/** Marks that say their age where there is room. */
const AGE_WORDS: [number, string][] = [
  [1, '1 min'],
  [10, '10 min'],
  [60, '1 h'],
  [300, '5 h'],
  [1440, '1 day'],
  [10080, '1 week'],
  [43200, '1 month'],
];
const CENT_MARKS = [10, -10];
/** A lane lower than this has no room for words, px. */
const WORDS_FROM = 60;

/** A kind of reading's dots are one path: a hundred of them cost no more than one. */
const DOTS: { of: (r: ReadingRecord) => boolean; stroke: string; width: number }[] = [
  { of: (r) => !r.slip && r.purpose === 'as-left', stroke: 'var(--ink)', width: 4 },
  { of: (r) => !r.slip && r.purpose === 'as-found', stroke: 'var(--deep)', width: 6 },
  { of: (r) => r.slip === true, stroke: 'var(--rust)', width: 6 },
];

/** One string's history on the chart: water below its target, land above; saw-teeth of falls and bring-ups; what comes. */
export const Lane = memo(function Lane({
  readings,
  bornMs,
  nowMs,
  ahead,
  curtainMs,
  toleranceCents,
  height,
  label,
}: LaneProps) {
  const y = (cents: number) => height / 2 - symlog(cents, FULL) * (height / 2 - 4);
  // A set that was old when its record began is drawn from there: its life before would leave no room for it.
  const recordMs = readings[0] ? nowMs - readings[0].atMs : 0;
  const born = readings[0] ? Math.max(bornMs ?? 0, readings[0].atMs - Math.max(MINUTE, 0.01 * recordMs)) : nowMs;
  const first = readings[0] ? Math.max(0.5, (readings[0].atMs - born) / MINUTE) : 1;
  const now = Math.max(first * 1.5, (nowMs - born) / MINUTE);
  const end = Math.max(now * 1.15, ((curtainMs ?? 0) - born) / MINUTE, now + 30) * 1.08;
  const x = scaleLog()
    .domain([first * 0.85, end])
    .range([LABELS, WIDTH])
    .clamp(true);
  const at = (ms: number) => x(Math.max(first * 0.85, (ms - born) / MINUTE));
  const trace = line<ReadingRecord>()
    .x((r) => at(r.atMs))
    .y((r) => y(r.cents))(readings);
  const band = [
    { atMs: nowMs, cents: ahead[0]?.cents ?? 0, low: ahead[0]?.cents ?? 0, high: ahead[0]?.cents ?? 0 },
    ...ahead,
  ];
  const wide = area<ForecastBand>()
    .x((b) => at(b.atMs))
    .y0((b) => y(b.low))
    .y1((b) => y(b.high))(band);
  const middle = line<ForecastBand>()
    .x((b) => at(b.atMs))
    .y((b) => y(b.cents))(band);
  const percent = (px: number, of: number) => `${((100 * px) / of).toFixed(2)}%`;
  const words = AGE_WORDS.filter(([m]) => height >= WORDS_FROM && m > first && x(m) < 0.86 * WIDTH);
  return (
    <span className="relative block">
      <svg
        viewBox={`0 0 ${WIDTH} ${height}`}
        preserveAspectRatio="none"
        className="block w-full"
        style={{ height: height - 2 }}
        role="img"
        aria-label={label}
      >
        <rect width={WIDTH} height={height / 2} fill="var(--land)" opacity={0.75} />
        <rect y={height / 2} width={WIDTH} height={height / 2} fill="var(--water)" opacity={0.75} />
        <rect
          y={y(toleranceCents)}
          width={WIDTH}
          height={y(-toleranceCents) - y(toleranceCents)}
          fill="var(--ink)"
          opacity={0.07}
        />
        {GRID_MIN.filter((m) => m > first && m < end).map((m) => (
          <line
            key={m}
            x1={x(m)}
            x2={x(m)}
            y1={0}
            y2={height}
            stroke="var(--line)"
            strokeWidth={1}
            vectorEffect="non-scaling-stroke"
          />
        ))}
        <line
          x1={0}
          x2={WIDTH}
          y1={height / 2}
          y2={height / 2}
          stroke="var(--ink)"
          strokeWidth={1.2}
          vectorEffect="non-scaling-stroke"
        />
        {ahead.length > 0 && (
          <>
            <path d={wide ?? ''} fill="var(--ink2)" opacity={0.28} />
            <path
              d={middle ?? ''}
              fill="none"
              stroke="var(--ink2)"
              strokeWidth={1.5}
              vectorEffect="non-scaling-stroke"
            />
          </>
        )}
        {trace && (
          <path
            d={trace}
            fill="none"
            stroke="var(--ink)"
            strokeWidth={1.4}
            strokeLinejoin="round"
            vectorEffect="non-scaling-stroke"
          />
        )}
        {DOTS.map(({ of, stroke, width }) => (
          <path
            key={stroke}
            d={readings
              .filter(of)
              .map((r) => `M${at(r.atMs).toFixed(1)} ${y(r.cents).toFixed(1)}h0`)
              .join('')}
            stroke={stroke}
            strokeWidth={width}
            strokeLinecap="round"
            vectorEffect="non-scaling-stroke"
          />
        ))}
        {curtainMs !== null && curtainMs > nowMs && (
          <line
            x1={at(curtainMs)}
            x2={at(curtainMs)}
            y1={0}
            y2={height}
            stroke="var(--rust)"
            strokeWidth={1.4}
            strokeDasharray="4 4"
            vectorEffect="non-scaling-stroke"
          />
        )}
      </svg>
      {height >= WORDS_FROM && (
        <span aria-hidden="true" className="figure text-xs leading-none text-ink2">
          {CENT_MARKS.map((c) => (
            <span key={c} className="absolute left-1 -translate-y-1/2" style={{ top: percent(y(c), height) }}>
              {c > 0 ? `+${c}` : `−${-c}`}
            </span>
          ))}
          {words.map(([m, word]) => (
            <span key={m} className="absolute top-1 whitespace-nowrap pl-1" style={{ left: percent(x(m), WIDTH) }}>
              {word}
            </span>
          ))}
        </span>
      )}
    </span>
  );
});
