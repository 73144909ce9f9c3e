import { clamp } from '../base';
import {
  broughtUp,
  carryTo,
  chanceWhenTuned,
  creepBetween,
  LARGEST_CENTS,
  offsetNow,
  type SettlingFit,
} from '../settling';

/** From this chance to hold on a string counts as holding, and is said to be ready (house; held against the truth by bench/audit). */
export const READY = 0.85;
/** Of strings whose forecast gives them this much, READY hold: just after a bring-up it is a little too wide (house calibration, bench/audit). */
const ENOUGH = 0.8;
/** Later than this it is not said when, min. */
const LONGEST_MIN = 14 * 1440;

/** Kept in tune, a string was brought up no longer ago than this, min. */
const KEPT_MIN = 60;

/** Looked at after so many times the wait before. */
const LONGER = 1.5;

/**
 * Waiting time until a string that is brought to pitch then holds the wanted time with the chance READY, min; null where no wait within
 * a fortnight is enough.
 * @param till left alone till then: the longer it waits, the more slowly it falls, and the more a hand has to bring it up; or kept in
 * tune, so that little is left to bring up
 */
export function readyAfterMin(
  fit: SettlingFit,
  wish: { holdMin: number; toleranceCents: number },
  till: 'left alone' | 'kept in tune',
): number | null {
  const isReady = (wait: number) => {
    const then = carryTo(fit, fit.nowMin + wait);
    const flat = -offsetNow(then).cents;
    const since = creepBetween(fit, Math.max(fit.nowMin, then.nowMin - KEPT_MIN), then.nowMin).mean;
    const size = till === 'left alone' ? flat : Math.min(flat, since);
    const up = broughtUp(then, clamp(size, 0, LARGEST_CENTS));
    return chanceWhenTuned(up, wish.holdMin, wish.toleranceCents) >= ENOUGH;
  };
  if (isReady(0)) return 0;
  let low = 1;
  let high = low;
  while (!isReady(high)) {
    if (high === LONGEST_MIN) return null;
    low = high;
    high = Math.min(LONGEST_MIN, LONGER * high);
  }
  while (high / low > 1.06) {
    const middle = Math.sqrt(low * high);
    if (isReady(middle)) high = middle;
    else low = middle;
  }
  return high;
}
