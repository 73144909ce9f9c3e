import { cents } from '../music';
import { partialOf, WITHIN_CENTS } from './comb';
import type { Theta } from './lines';
import type { PairOptions } from './take';

/** How two strings stand to one another. */
export interface Standing {
  /** First partials, Hz. */
  aHz: number;
  bHz: number;
  /** How far b over a stands from the pure ratio, cents. */
  cents: number;
  /** Where they meet lowest: the partials that beat, and how fast, Hz. */
  meetHz: [number, number];
  beatsHz: number;
}

/** Further from what is asked than it is searched for, cents. */
const OTHER_CENTS = WITHIN_CENTS + 15;

/** How both strings stand by their laws; undefined where they are other notes than were asked for. */
export function standingOf(
  { a, b }: Theta,
  { aHz: askedA, bHz: askedB, ratio: [p, q] }: PairOptions,
): Standing | undefined {
  const [aHz, bHz] = [partialOf(a, 1), partialOf(b, 1)];
  if ([cents(aHz, askedA), cents(bHz, askedB)].some((c) => Math.abs(c) > OTHER_CENTS)) return undefined;
  const meetHz: [number, number] = [partialOf(a, p), partialOf(b, q)];
  return { aHz, bHz, cents: cents(bHz, (aHz * p) / q), meetHz, beatsHz: Math.abs(meetHz[1] - meetHz[0]) };
}
