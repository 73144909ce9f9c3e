/** An instrument in the rack: one small bar a string, above or below a line. */
export function RackBars({ cents, label }: { cents: (number | null)[]; label: string }) {
  const width = 140;
  const slot = width / Math.max(1, cents.length);
  return (
    <svg viewBox={`0 0 ${width} 30`} className="mt-1 block h-7 w-full" role="img" aria-label={label}>
      <line x1={0} x2={width} y1={12} y2={12} stroke="var(--line)" />
      {cents.map((c, i) => {
        const tall = c === null ? 0 : Math.min(14, 1 + Math.abs(c) * 1.1);
        const up = (c ?? 0) > 0;
        return (
          <rect
            key={i}
            x={i * slot + slot * 0.08}
            width={slot * 0.84}
            y={c === null ? 11.5 : up ? Math.max(0, 12 - Math.min(tall, 12)) : 12}
            height={c === null ? 1 : Math.max(1.6, Math.min(tall, up ? 12 : 18))}
            fill={c === null ? 'var(--line)' : Math.abs(c) <= 3 ? 'var(--ink)' : up ? 'var(--sand)' : 'var(--deep)'}
          />
        );
      })}
    </svg>
  );
}
