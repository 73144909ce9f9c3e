import { clamp } from '../../../core/base';

const WIDE = 560;
const TALL = 158;
const PIVOT = { x: 330, y: 60 };
/** The tilt is drawn so much larger than it is. */
const LARGER = 8;

/** The bridge from the side, to scale but for its tilt: strings to the left, springs and claw below. */
export function BridgeDrawing({
  angle,
  level,
  springs,
  turns,
}: {
  angle: number;
  level: number;
  springs: number;
  turns: number;
}) {
  const tilt = clamp(((angle - level) * LARGER * 180) / Math.PI, -24, 24);
  const claw = 96 - clamp(3 * turns, -14, 14);
  const block = PIVOT.y + 12;
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${TALL}`}
      className="w-full max-w-2xl"
      role="img"
      aria-label={`The bridge from the side, ${Math.abs(tilt) < 1 ? 'level' : tilt > 0 ? 'leaning forward' : 'leaning back'}, ${springs} springs`}
    >
      <rect width={WIDE} height={PIVOT.y} fill="var(--water)" opacity={0.45} />
      {/* The body: a face, and the hollow below it. */}
      <path d={`M0 ${PIVOT.y}H${PIVOT.x - 6}V${TALL - 24}H0Z`} fill="var(--land)" opacity={0.8} />
      <path d={`M470 ${PIVOT.y}H${WIDE}V${TALL - 24}H470Z`} fill="var(--land)" opacity={0.8} />
      <path d={`M0 ${TALL - 24}H${WIDE}`} stroke="var(--line)" />
      <rect x={24} y={PIVOT.y + 20} width={300} height={60} fill="var(--paper)" />
      <g transform={`rotate(${-tilt} ${PIVOT.x} ${PIVOT.y})`}>
        {/* Plate, saddle, block. */}
        <rect x={PIVOT.x} y={PIVOT.y - 14} width={118} height={14} rx={3} fill="var(--ink)" opacity={0.85} />
        <rect x={PIVOT.x + 22} y={PIVOT.y - 34} width={26} height={20} rx={3} fill="var(--ink2)" />
        <rect x={PIVOT.x + 8} y={PIVOT.y} width={34} height={66} rx={3} fill="var(--ink2)" />
        <circle cx={PIVOT.x + 16} cy={PIVOT.y + 52} r={3} fill="var(--paper)" />
      </g>
      <path d={`M${PIVOT.x - 4} ${PIVOT.y - 6}l8 6l-8 6z`} fill="var(--rust)" />
      {/* Springs from the block to the claw. */}
      {Array.from({ length: springs }, (_, k) => {
        const y = PIVOT.y + 44 + k * 5;
        const x0 = claw + 20;
        const x1 = PIVOT.x + 14 + tilt * 0.9;
        const coils = 26;
        const zig = Array.from(
          { length: coils },
          (_, c) => `L${(x0 + ((x1 - x0) * (c + 0.5)) / coils).toFixed(1)} ${(y + (c % 2 ? 3 : -3)).toFixed(1)}`,
        ).join('');
        return <path key={k} d={`M${x0} ${y}${zig}L${x1} ${y}`} fill="none" stroke="var(--deep)" strokeWidth={1.4} />;
      })}
      <rect x={claw + 12} y={PIVOT.y + 34} width={8} height={30} fill="var(--ink)" />
      <path d={`M24 ${PIVOT.y + 49}H${claw + 12}`} stroke="var(--ink)" strokeWidth={3} strokeDasharray="3 2" />
      {/* A string: to the nut, over the saddle, into the block. */}
      <path
        d={`M0 ${PIVOT.y - 34}L${PIVOT.x + 30 - tilt * 0.6} ${PIVOT.y - 34 + tilt * 0.5}`}
        stroke="var(--ink)"
        strokeWidth={1.6}
      />
      <path d={`M${PIVOT.x + 2} ${PIVOT.y}H470`} stroke="var(--ink2)" strokeDasharray="2 4" />
      <text x={30} y={block + 66} className="text-[12px]" fill="var(--ink2)">
        claw
      </text>
      <text x={PIVOT.x + 50} y={block + 40} className="text-[12px]" fill="var(--ink2)">
        block
      </text>
      <text x={PIVOT.x - 92} y={PIVOT.y + 14} className="text-[12px]" fill="var(--ink2)">
        knife edge
      </text>
      <text x={WIDE - 6} y={16} textAnchor="end" className="text-[12px]" fill="var(--ink2)">
        tilt drawn {LARGER} times larger
      </text>
    </svg>
  );
}
