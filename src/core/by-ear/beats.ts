/** Beats this few stand still, a second; a change of less is none. */
const STILL_HZ = 0.25;
const CHANGE_HZ = 0.3;
const CHANGE_SHARE = 0.08;
/** Nearer to pure than this a unison may have passed it; nearer to what was read it still stands there, cents. */
const NEAR_CENTS = 1.5;
/** Less than this off is right, cents. */
const RIGHT_CENTS = 1;

export type BeatTrend = 'slower' | 'faster' | '';

/** Whether so few beats stand still. */
export const standStill = (beatsHz: number): boolean => beatsHz < STILL_HZ;

/** Whether beats go slower or faster than they did; '' for a change that says nothing. */
export function beatTrend(beatsHz: number, thenHz: number): BeatTrend {
  const change = beatsHz - thenHz;
  if (Math.abs(change) < Math.max(CHANGE_HZ, CHANGE_SHARE * thenHz)) return '';
  return change < 0 ? 'slower' : 'faster';
}

/**
 * What the size of a unison's beats says of its way, which they do not tell by themselves: near to pure it may have passed it, and nothing is
 * known any more; where it still stands as far apart as both strings did when they were read alone, it is that way.
 * @param knownCents how far the two stood apart when each was read alone; undefined where that is not sure
 * @returns 0 for nothing any more, −1 flat, 1 sharp; undefined where it says nothing new
 */
export function unisonWay(sizeCents: number, knownCents: number | undefined): number | undefined {
  if (sizeCents < NEAR_CENTS) return 0;
  const isThere = knownCents !== undefined && Math.abs(sizeCents - Math.abs(knownCents)) < NEAR_CENTS;
  return isThere ? Math.sign(knownCents) : undefined;
}

/** Whether it stands where the two belong. @param offCents from there */
export const isRight = (offCents: number): boolean => Math.abs(offCents) < RIGHT_CENTS;

/** Which way the tuner goes, in two or three words. @param blind a unison whose way nothing tells @param offCents from where the two belong, sharp positive */
export function turnWords(blind: boolean, offCents: number, isStill: boolean, trend: BeatTrend): string {
  if (blind) return isStill ? 'still' : trend || 'slower is right';
  if (isRight(offCents)) return 'right';
  return `${offCents > 0 ? '↓ down' : '↑ up'}${trend ? `, ${trend}` : ''}`;
}
