import { clamp } from '../base';
import {
  broughtUp,
  carryTo,
  chanceWhenTuned,
  creepBetween,
  keptOf,
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

interface ReadyWish {
  holdMin: number;
  toleranceCents: number;
}

/** Looked at after so many times the wait before. */
const LONGER = 2;

type Till = 'left alone' | 'kept in tune';

/** Whether a string that is brought to pitch at an age then holds the wanted time with the chance READY. */
function isReady(fit: SettlingFit, ageMin: number, { holdMin, toleranceCents }: ReadyWish, till: Till): boolean {
  const then = carryTo(fit, ageMin);
  const flat = -offsetNow(then).cents;
  const since = creepBetween(fit, Math.max(fit.nowMin, then.nowMin - KEPT_MIN), then.nowMin).mean;
  const size = till === 'left alone' ? flat : Math.min(flat, since);
  const up = broughtUp(then, clamp(size, 0, LARGEST_CENTS));
  return chanceWhenTuned(up, holdMin, toleranceCents) >= ENOUGH;
}

/** The first age from one on at which it is ready, min; null where no wait within a fortnight is enough. */
const readyFromMin = keptOf((fit: SettlingFit, fromMin: number, wish: ReadyWish, till: Till): number | null => {
  const ready = (wait: number) => isReady(fit, fromMin + wait, wish, till);
  if (ready(0)) return fromMin;
  let low = 1;
  let high = low;
  while (!ready(high)) {
    if (high === LONGEST_MIN) return null;
    low = high;
    high = Math.min(LONGEST_MIN, LONGER * high);
  }
  while (high / low > 1.06) {
    const middle = Math.sqrt(low * high);
    if (ready(middle)) high = middle;
    else low = middle;
  }
  return fromMin + high;
});

/**
 * Waiting time until a string that is brought to pitch then holds the wanted time with the chance READY, min; null where no wait within
 * a fortnight is enough. It is looked for once a reading.
 * @param fit at its last reading
 * @param nowMin its age now
 * @param till left alone till then: the longer it waits, the more slowly it falls, and the more a hand has to bring it up; or kept in
 * tune, so that little is left to bring up
 */
export function readyAfterMin(fit: SettlingFit, nowMin: number, wish: ReadyWish, till: Till): number | null {
  const first = readyFromMin(fit, fit.nowMin, wish, till);
  if (first === null || first >= nowMin) return first && first - nowMin;
  // It was ready; left alone for long it may not be any more.
  if (isReady(fit, nowMin, wish, till)) return 0;
  const again = readyFromMin(fit, nowMin, wish, till);
  return again && again - nowMin;
}
