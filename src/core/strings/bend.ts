import type { StringLoad } from './load';
import { WARN_SHARE } from './breaking';

/** How far a string is pulled, bent or pressed sharp by hand. */
export interface Bend {
  cents: number;
  words: string;
}
/** What a hand can tell apart, the furthest first. */
const BENDS: readonly Bend[] = [
  { cents: 400, words: 'two tones' },
  { cents: 200, words: 'a whole tone' },
  { cents: 100, words: 'a semitone' },
];
/** A string of which nobody knows how near it is to breaking is bent no further than this, cents (house). */
const UNKNOWN_CENTS = 200;

/**
 * How far a string may be bent, pulled or pressed, at most so many cents: a bend of c cents multiplies its tension by 2^(c/600) (Taylor's law),
 * and that stays within WARN_SHARE of its breaking load.
 * @param load at its pitch; undefined where its physics is unknown
 * @returns undefined where not even a semitone is safe
 */
export function bendWithin(
  load: Pick<StringLoad, 'shareOfBreaking'> | undefined,
  mostCents = Infinity,
): Bend | undefined {
  const share = load?.shareOfBreaking;
  const safe = share === null || share === undefined ? UNKNOWN_CENTS : 600 * Math.log2(WARN_SHARE / share);
  return BENDS.find((b) => b.cents <= Math.min(safe, mostCents));
}

/** The least of several: what moves all strings is bounded by the one that is nearest to breaking. */
export const leastBend = (bends: readonly (Bend | undefined)[]): Bend | undefined =>
  bends.includes(undefined)
    ? undefined
    : (bends as Bend[]).reduce<Bend | undefined>((a, b) => (a && a.cents < b.cents ? a : b), undefined);
