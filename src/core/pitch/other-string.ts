import { cents } from '../music';

/** A string of the instrument as the listener needs it. */
export interface StringPlace {
  id: string;
  /** As the user calls it: 'E4'. */
  name: string;
  targetHz: number;
  /** Where it was last read, Hz; undefined when it never was. */
  lastHz?: number;
}

/** A string that was never read may be this far from its target before a match with another string counts, cents. */
const UNREAD_CENTS = 150;
const AWAY_CENTS = 60;
const MATCH_CENTS = 25;

/**
 * Which other string a sound is, with memory: it sits where that one was last read, while the named string was last read
 * elsewhere. A slack string on its way up past a neighbour's pitch is therefore still itself. House rule.
 */
export function whichOtherString(
  frequencyHz: number,
  named: StringPlace,
  others: StringPlace[],
): StringPlace | undefined {
  const fromOwn = Math.abs(cents(frequencyHz, named.lastHz ?? named.targetHz));
  if (fromOwn < (named.lastHz === undefined ? UNREAD_CENTS : AWAY_CENTS)) return undefined;
  let best: StringPlace | undefined;
  let bestCents = MATCH_CENTS;
  for (const o of others) {
    if (o.id === named.id) continue;
    const c = Math.abs(cents(frequencyHz, o.lastHz ?? o.targetHz));
    if (c < bestCents) {
      best = o;
      bestCents = c;
    }
  }
  return best;
}

/** A sound that goes on from the one before is the same string: it moved less than this, cents (house estimate). */
const SAME_SOUND_CENTS = 100;
/** So many points in a row must speak for another string before it is said. */
const POINTS_TO_SAY = 5;

/**
 * Whose sound the live trace is, while a tuner is turned: a slack string that slides up past a neighbour's pitch stays
 * itself; a new sound that sits where another string was last read is that one. House rule.
 * @param trail frequencies of the last seconds, oldest first; null where nothing was heard
 * @returns the other string, or undefined while the named one is heard
 */
export function whoseSound(
  trail: readonly { frequencyHz: number | null }[],
  named: StringPlace,
  others: StringPlace[],
): StringPlace | undefined {
  let ownHz = named.lastHz;
  let other: StringPlace | undefined;
  let inRow = 0;
  for (const { frequencyHz } of trail) {
    if (frequencyHz === null) continue;
    const goesOn = ownHz !== undefined && Math.abs(cents(frequencyHz, ownHz)) < SAME_SOUND_CENTS;
    const now = goesOn
      ? undefined
      : whichOtherString(frequencyHz, { ...named, ...(ownHz ? { lastHz: ownHz } : {}) }, others);
    inRow = now !== undefined && now === other ? inRow + 1 : now ? 1 : 0;
    other = now;
    if (!now) ownHz = frequencyHz;
  }
  return inRow >= POINTS_TO_SAY ? other : undefined;
}
