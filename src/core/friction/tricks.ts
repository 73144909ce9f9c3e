import type { StringFriction } from './history';
import type { FrictionFigure } from './limits';

/** Nearer to a limit than this, of the half way between: it stands there. */
const AT_A_LIMIT = 0.5;

/** Friction below this, cents, needs no trick. */
const NO_TRICK = 2;

/** Where the playing will leave it, and so where to end. */
export function trickWords({ cents, sdCents, at }: FrictionFigure): string {
  if (cents < NO_TRICK + sdCents) return 'Free enough. No trick is needed.';
  if (at < -AT_A_LIMIT) return 'It is where bends leave it. Stay there: end every tuning with a bend.';
  if (at > AT_A_LIMIT)
    return 'It is at its sharp limit: the first bend drops it. Bend it, then bring it up from below.';
  return 'It is between its limits: bends take it down. Bend it, then bring it up from below.';
}

/** What a lubrication changed, with its interval. */
export function changeWords({ before, figures }: Pick<StringFriction, 'before' | 'figures'>): string {
  const after = figures.at(-1);
  if (!before || !after) return '';
  const gone = before.figure.cents - after.figure.cents;
  const doubt = 2 * Math.hypot(before.figure.sdCents, after.figure.sdCents);
  return ` Lubricated: ${gone >= 0 ? 'less' : 'more'} by ${Math.abs(gone).toFixed(1)} ±${doubt.toFixed(1)} cents${Math.abs(gone) <= doubt ? ', which may be nothing' : ''}.`;
}
