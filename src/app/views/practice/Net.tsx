import { signed } from '../../parts/format';

const WIDE = 360;
const ROW = 26;
const NAMES = 40;

/** Where every string was left, about the line where it should be. */
export function NetResult({ strings }: { strings: readonly { name: string; cents: number }[] }) {
  const most = Math.max(6, ...strings.map((s) => Math.abs(s.cents)));
  const middle = NAMES + (WIDE - NAMES) / 2;
  const x = (cents: number) => middle + (0.36 * (WIDE - NAMES) * cents) / most;
  const high = ROW * strings.length;
  return (
    <figure>
      <figcaption className="pb-1 text-sm text-ink2">Cents from the target</figcaption>
      <svg
        viewBox={`0 0 ${WIDE} ${high + 4}`}
        className="w-full max-w-md"
        role="img"
        aria-label="Where the strings stand"
      >
        <path d={`M${middle} 0V${high}`} stroke="var(--ink2)" />
        {strings.map(({ name, cents }, i) => {
          const y = ROW * (i + 0.5);
          return (
            <g key={name}>
              <text x={0} y={y + 5} fontSize={14} fill="var(--ink)">
                {name}
              </text>
              <path d={`M${middle} ${y}H${x(cents)}`} stroke="var(--deep)" strokeWidth={3} />
              <circle cx={x(cents)} cy={y} r={5} fill="var(--deep)" />
              <text
                x={x(cents) + (cents < 0 ? -10 : 10)}
                y={y + 5}
                fontSize={13}
                textAnchor={cents < 0 ? 'end' : 'start'}
                fill="var(--ink)"
              >
                {signed(cents)}
              </text>
            </g>
          );
        })}
      </svg>
    </figure>
  );
}
