import { MINUTE, NORMAL_Q95 } from '../base';
import { creepBetween, keptOf } from '../settling';
import type { StringLife } from '../log';
import { totalFallSeries } from './falls';
import { raisedUnnoted, surpriseAt, type LifeFit } from './fits';
import { tellingReadings } from './telling';

/** What a string has fallen in all at one of its readings, cents, flat positive; and the variance of that. */
interface FallenAt {
  cents: number;
  varianceCents2: number;
}

/** What it fell before a hand turned it is known to this share (house estimate, held against the truth by bench/audit). */
const BEFORE_HAND_SHARE = 0.7;

/** A string is seldom brought up more often than this. */
const creepFrom = keptOf(creepBetween, 200);

/**
 * Total fall at each reading that tells of a string: what was read; what it fell, by its law, between the last figure and the hand
 * that brought it up, which nobody read; less what hands moved without a word.
 */
export function fallenSeries(life: StringLife, lived: LifeFit | undefined): FallenAt[] {
  const told = tellingReadings(life);
  const falls = totalFallSeries(told);
  let unread = 0;
  let variance = 0;
  return told.map((r, i) => {
    const before = told[i - 1];
    if (before && r.purpose === 'as-left') {
      // Found and left again: both figures count for good.
      variance += before.sigmaCents ** 2 + r.sigmaCents ** 2;
      if (lived) {
        const [from, to] = [before, r].map(({ atMs }) => (atMs - lived.startMs) / MINUTE);
        const creep = creepFrom(lived.readFit, from!, to!);
        unread += creep.mean;
        variance += creep.variance + (BEFORE_HAND_SHARE * creep.mean) ** 2;
      }
    }
    const raised = lived ? raisedUnnoted(lived, r.atMs) : 0;
    const ends = i === 0 ? 0 : told[0]!.sigmaCents ** 2 + r.sigmaCents ** 2;
    return { cents: falls[i]! + unread + raised, varianceCents2: variance + ends };
  });
}

/** From this many standard deviations on a reading may as well tell of a hand as of a fall, if it is no less than this, cents (house). */
const DOUBTED = { sd: 1.2, cents: 2 };

/** What a string has fallen in all, with nine of ten; undefined before its second reading. */
export function fallenOf(
  life: StringLife,
  lived: LifeFit | undefined,
): { cents: number; interval: [number, number] } | undefined {
  const last = fallenSeries(life, lived).at(-1);
  if (!last || life.readings.length < 2) return undefined;
  const wide = NORMAL_Q95 * Math.sqrt(last.varianceCents2 + moved(lived));
  const interval: [number, number] = [last.cents - wide, last.cents + wide];
  // A string that stood far from where it was expected fell there, or was turned.
  for (const r of lived?.told ?? []) {
    const surprise = r.purpose === 'as-found' && !r.slip ? surpriseAt(lived!, r.atMs) : undefined;
    if (!surprise || lived!.moved.some((m) => m.atMs === r.atMs)) continue;
    const { innovationCents, varianceCents2 } = surprise;
    if (Math.abs(innovationCents) < Math.max(DOUBTED.cents, DOUBTED.sd * Math.sqrt(varianceCents2))) continue;
    interval[innovationCents < 0 ? 0 : 1] += innovationCents;
  }
  return { cents: last.cents, interval };
}
/** Variance of what hands moved without a word, cents². */
const moved = (lived: LifeFit | undefined): number =>
  (lived?.moved ?? []).reduce((sum, m) => sum + m.surprise.varianceCents2, 0);
