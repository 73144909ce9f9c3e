import type { StringLife } from '../log';

/** A verdict wants so many pairs at least. */
export const FEWEST_PAIRS = 4;

/** What a comparison cannot do, before it starts; '' where nothing is in its way. */
export function warningOf(pairs: number): string {
  if (pairs >= FEWEST_PAIRS) return '';
  const more = FEWEST_PAIRS - pairs;
  return `${pairs === 1 ? 'One pair gives' : `${pairs} pairs give`} no verdict: ${FEWEST_PAIRS} are needed. Add ${
    more === 1 ? 'one more pair' : `${more} more pairs`
  } from another instrument, or from its next set.`;
}

/** From when a pair counts: what was read before the treated string was treated tells nothing of it. Playing is no treatment. */
export const countedFromMs = ({ treatments }: Pick<StringLife, 'treatments'>): number =>
  treatments.find((t) => t.treatment !== 'played')?.atMs ?? -Infinity;

/** Readings of both strings that count. @param fromMin ages of each string from which they do */
export const countedFrom = <R extends { t: number }>(falls: readonly R[], fromMin: number): R[] =>
  falls.filter((f) => f.t >= fromMin);
