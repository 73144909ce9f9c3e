import type { TouchPlace } from '../../core/causes';

const X: Record<Exclude<TouchPlace, 'none'>, number> = {
  tuner: 16,
  'behind-tree': 34,
  'behind-nut': 62,
  middle: 150,
  'behind-saddle': 262,
  bar: 250,
};

/** Where the hand is: the string from its tuner over nut and saddle to its anchor, and a finger. */
export function PlaceDrawing({ place, tree, title }: { place: TouchPlace; tree: boolean; title: string }) {
  if (place === 'none') return null;
  const x = X[place];
  const side = place === 'middle' || place === 'bar';
  return (
    <svg viewBox="0 0 290 64" className="w-full" role="img" aria-label={`Where: ${title.toLowerCase()}`} fill="none">
      <rect x={80} y={40} width={160} height={10} fill="var(--land)" />
      <circle cx={16} cy={36} r={6} stroke="var(--ink)" strokeWidth={2} />
      {tree && <path d="M48 24v8" stroke="var(--ink)" strokeWidth={3} />}
      <path d="M76 32V50M246 32V50" stroke="var(--ink)" strokeWidth={4} />
      <path
        d={
          place === 'middle'
            ? 'M16 36L76 32Q150 8 246 32L278 42'
            : place === 'behind-nut' || place === 'behind-tree' || place === 'behind-saddle'
              ? `M16 36L${Math.min(x, 76)} ${x < 76 ? 44 : 32}L76 32H246L${x > 246 ? `${x} 46L` : ''}278 42`
              : 'M16 36L76 32H246L278 42'
        }
        stroke="var(--deep)"
        strokeWidth={2.2}
      />
      <path
        d={side ? `M${x} 26V8m-5 6l5 -6l5 6` : `M${x} 6v18m-5 -6l5 6l5 -6`}
        stroke="var(--rust)"
        strokeWidth={2.4}
        strokeLinecap="round"
      />
    </svg>
  );
}
