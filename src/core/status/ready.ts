import { clamp } from '../base';
import { carryTo, chanceWhenTuned, offsetNow, type SettlingFit } from '../settling';

/** From this chance to hold on a string counts as holding, and is said to be ready (house; held against the truth by bench/audit). */
export const READY = 0.85;
/** Of strings whose forecast gives them this much, READY hold: just after a bring-up it is a little too wide (house calibration, bench/audit). */
const ENOUGH = 0.8;
/** No bring-up counts as more, cents. */
const LARGEST_CENTS = 300;
/** Later than this it is not said when, min. */
const LONGEST_MIN = 14 * 1440;

/** The fit of a string that is brought up now, by as much as it is believed to stand flat. */
function broughtUp(fit: SettlingFit): SettlingFit {
  const sizeCents = clamp(-offsetNow(fit).cents, 0, LARGEST_CENTS);
  return { ...fit, retunes: [...fit.retunes, { t: fit.nowMin, sizeCents }] };
}

/** Looked at after so many times the wait before. */
const LONGER = 1.5;

/**
 * Waiting time until a string, left alone and brought to pitch then, holds the wanted time with the chance READY, min; null where no
 * wait within a fortnight is enough. The longer it waits, the more slowly it falls, and the more a hand has to bring it up.
 */
export function readyAfterMin(fit: SettlingFit, wish: { holdMin: number; toleranceCents: number }): number | null {
  const isReady = (wait: number) =>
    chanceWhenTuned(broughtUp(carryTo(fit, fit.nowMin + wait)), wish.holdMin, wish.toleranceCents) >= ENOUGH;
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
