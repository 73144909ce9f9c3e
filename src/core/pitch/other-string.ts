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
