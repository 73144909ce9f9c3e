import { signed, symlog } from './format';

export interface WaterlineProps {
  /** The last seconds of the live trace, oldest first. */
  trail: readonly { tS: number; cents: number | null }[];
  toleranceCents: number;
  /** How far the line lies from where the string belongs, cents: its marks count from there. */
  lineCents?: number;
  /** Where it was last heard well, when it is not heard now. */
  faded?: number | null;
  /** What sounds: 'A4'. */
  note: string;
}

const WIDTH = 276;
const HEIGHT = 186;
const SECONDS = 8;
const FULL = 100;
const MARKS = [30, 10, 3, -3, -10, -30];

/** The target as a waterline: water (flat) below, land (sharp) above; the pitch rides on it and leaves a trail of 8 s. */
export function Waterline({ trail, toleranceCents, lineCents = 0, faded = null, note }: WaterlineProps) {
  const label = `Live pitch of ${note} against ${lineCents === 0 ? 'its target' : `where to leave it, ${signed(lineCents)}`}`;
  const y = (cents: number) => HEIGHT * 0.4 - symlog(cents, FULL) * (cents > 0 ? HEIGHT * 0.38 : HEIGHT * 0.57);
  const end = trail[trail.length - 1]?.tS ?? 0;
  const x = (tS: number) => (WIDTH - 26) * (1 - (end - tS) / SECONDS);
  const segments: string[] = [];
  let open = false;
  for (const { tS, cents } of trail) {
    if (cents === null || end - tS > SECONDS) {
      open = false;
      continue;
    }
    segments.push(`${open ? 'L' : 'M'}${x(tS).toFixed(1)} ${y(cents).toFixed(1)}`);
    open = true;
  }
  const heard = trail.findLast((p) => p.cents !== null && end - p.tS < 0.4);
  const now = heard?.cents ?? faded;
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="block w-full" role="img" aria-label={label}>
      <rect width={WIDTH} height={y(0)} fill="var(--land)" opacity={0.8} />
      <rect y={y(0)} width={WIDTH} height={HEIGHT - y(0)} fill="var(--water)" opacity={0.9} />
      <rect
        y={y(toleranceCents)}
        width={WIDTH}
        height={y(-toleranceCents) - y(toleranceCents)}
        fill="var(--ink)"
        opacity={0.1}
      />
      {MARKS.map((c) => (
        <g key={c}>
          <line x1={0} x2={WIDTH} y1={y(c)} y2={y(c)} stroke="var(--ink2)" strokeWidth={0.5} opacity={0.6} />
          {Math.abs(c) > 3 && (
            <text x={4} y={y(c) - 3} fontSize={12} fill="var(--ink2)" className="figure">
              {signed(c + lineCents, 0)}
            </text>
          )}
        </g>
      ))}
      <line x1={0} x2={WIDTH} y1={y(0)} y2={y(0)} stroke="var(--ink)" strokeWidth={1.6} />
      {lineCents !== 0 && (
        <text x={4} y={y(0) - 3} fontSize={12} fontWeight={700} fill="var(--ink)" className="figure">
          {signed(lineCents)}
        </text>
      )}
      <path
        d={segments.join('')}
        fill="none"
        stroke="var(--deep)"
        strokeWidth={3}
        strokeLinejoin="round"
        strokeLinecap="round"
      />
      {now !== null && (
        <g opacity={heard ? 1 : 0.4}>
          <path d={`M${WIDTH - 26} ${y(now)}l-11 -7v14z`} fill="var(--ink)" transform={`translate(6 0)`} />
          {Math.abs(now) > toleranceCents && (
            <path
              d={`M${WIDTH - 12} ${y(now)}L${WIDTH - 12} ${y(0)}m-4 ${now < 0 ? 6 : -6}l4 ${now < 0 ? -6 : 6}l4 ${now < 0 ? 6 : -6}`}
              fill="none"
              stroke="var(--ink)"
              strokeWidth={1.4}
            />
          )}
        </g>
      )}
    </svg>
  );
}
