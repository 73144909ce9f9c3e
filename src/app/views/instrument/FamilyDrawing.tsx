import { traitsOf, type FamilyPreset } from '../../../core/strings';

/** Bodies, as one sees the instrument lying with its strings upright. */
const BODIES = {
  waist: 'M30 26c9 0 10 6 8 10s0 6 2 9c4 8-2 14-10 14s-14-6-10-14c2-3 4-5 2-9s-1-10 8-10z',
  pear: 'M28 22h4c2 8 13 14 13 25a15 12 0 0 1-30 0c0-11 11-17 13-25z',
  round: 'M30 28a15 15 0 1 1 0 30a15 15 0 1 1 0-30z',
  slab: 'M24 24l-10 4c4 6 0 10-2 16c-2 9 6 15 18 15s20-6 18-15c-2-6-6-10-2-16l-10-4z',
  corners: 'M30 25c9 0 11 5 9 9l-3 3c1 3 1 4 0 7l4 3c3 8-3 12-10 12s-13-4-10-12l4-3c-1-3-1-4 0-7l-3-3c-2-4 0-9 9-9z',
  board: 'M6 56L14 12L54 40V56z',
  arms: 'M14 58c-8-14-4-34 4-48M46 58c8-14 4-34-4-48M16 12H44M14 58H46V46H14z',
} as const;

const BODY_OF: Record<string, keyof typeof BODIES> = {
  mandolin: 'pear',
  bouzouki: 'pear',
  'banjo-tenor': 'round',
  'banjo-5': 'round',
  'lyre-7': 'arms',
  'kantele-11': 'board',
  'harp-26': 'arms',
  'harp-34': 'arms',
  'zither-15': 'board',
  'dulcimer-12': 'board',
};

function bodyOf(code: string): keyof typeof BODIES {
  const traits = traitsOf({ family: code });
  return BODY_OF[code] ?? (traits.bowed ? 'corners' : traits.layout === 'line' ? 'slab' : 'waist');
}

/** A family by its body and as many strings as it has, each as long as it is. */
export function FamilyDrawing({ family: { code, strings } }: { family: Pick<FamilyPreset, 'code' | 'strings'> }) {
  const body = bodyOf(code);
  const longest = Math.max(...strings.map((s) => s.lengthMm), 1);
  const spread = body === 'board' ? 40 : body === 'arms' ? 22 : 7;
  return (
    <svg viewBox="0 0 60 62" className="h-14 w-14 shrink-0" aria-hidden="true" fill="none" stroke="var(--ink)">
      <path d={BODIES[body]} fill="var(--land)" strokeWidth={1.4} strokeLinejoin="round" />
      {strings.map(({ lengthMm }, i) => {
        const x = 30 + spread * (0.5 - (i + 0.5) / strings.length);
        const high = (46 * lengthMm) / longest;
        return (
          <path key={i} d={`M${x.toFixed(1)} 54V${(54 - high).toFixed(1)}`} stroke="var(--deep)" strokeWidth={0.9} />
        );
      })}
    </svg>
  );
}
