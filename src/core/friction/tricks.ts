import { counted } from '../base';
import type { TestRecord } from '../log';
import { inCents, offsetWords, plusMinus, signedCents } from '../music';
import type { StringFriction } from './history';
import type { FrictionFigure } from './limits';

/** What can be lost at a place of a string. @param cents what lies between its limits */
export const loseWords = (cents: number, note: string, place = 'nut'): string =>
  `You can lose about ${inCents(cents)} at the ${place} of the ${note}.`;

/** What a hard bend takes, from where a string stands and from its sharp limit. */
export const bendWords = ({ bendCents, worstBendCents }: FrictionFigure): string =>
  `A bend by a whole tone takes ${signedCents(bendCents)} cents from where it stands, ${signedCents(worstBendCents)} from its sharp limit.`;

/** How long what lubricating gained lasts. */
export const lastsWords = ({ days, low, high }: { days: number; low: number; high: number }): string =>
  `Half of what lubricating gained is gone after about ${counted(days.toFixed(0), 'day')} (${low.toFixed(0)} to ${high.toFixed(0)}).`;

/** What a trick did to a string as it was read, and in the two minutes after. */
export const trickReadWords = (
  what: string,
  { firstCents, secondCents }: Pick<TestRecord, 'firstCents' | 'secondCents'>,
): string =>
  `${what}: ${offsetWords(firstCents)}, in the two minutes after ${secondCents === null ? 'not read' : offsetWords(secondCents)}`;

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

/** 'less by 8.0 ±1.4 cents'. @param gone cents that it is less @param sd of that */
export const changeOf = (gone: number, sd: number): string =>
  `${gone >= 0 ? 'less' : 'more'} by ${Math.abs(gone).toFixed(1)} ${plusMinus(sd)} cents`;

/** What a lubrication changed, with its interval. */
export function changeWords({ before, figures }: Pick<StringFriction, 'before' | 'figures'>): string {
  const after = figures.at(-1);
  if (!before || !after) return '';
  const gone = before.figure.cents - after.figure.cents;
  const sd = Math.hypot(before.figure.sdCents, after.figure.sdCents);
  return ` Lubricated: ${changeOf(gone, sd)}${Math.abs(gone) <= 2 * sd ? ', which may be nothing' : ''}.`;
}
