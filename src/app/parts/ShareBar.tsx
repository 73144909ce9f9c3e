interface Props {
  /** Of the breaking load, 1 is the break. */
  share: number;
  warn: number;
  refuse: number;
  label: string;
}

const FULL = 1.05;
const percent = (x: number) => `${Math.min(100, (100 * x) / FULL)}%`;

/** A string's share of its breaking load, as a bar that runs towards two upright limits. */
export function ShareBar({ share, warn, refuse, label }: Props) {
  return (
    <span role="img" aria-label={label} className="relative block h-3.5 w-full bg-water/70">
      <span
        className={share > warn ? 'absolute inset-y-0 left-0 bg-rust' : 'absolute inset-y-0 left-0 bg-deep'}
        style={{ width: percent(share) }}
      />
      {[warn, refuse].map((limit) => (
        <span key={limit} className="absolute -inset-y-1 w-0.5 bg-ink" style={{ left: percent(limit) }} />
      ))}
    </span>
  );
}
