import { carryTo, chanceWhenTuned, type SettlingFit } from '../settling';

/** From this chance to hold on a string counts as holding, and is said to be ready (house; held against the truth by bench/audit). */
export const READY = 0.85;
/** Later than this it is not said when, min. */
const LONGEST_MIN = 14 * 1440;

/** Waiting time until a string, brought to pitch then, holds the wanted time with the chance READY, min; null beyond a fortnight. */
export function readyAfterMin(fit: SettlingFit, wish: { holdMin: number; toleranceCents: number }): number | null {
  const isReady = (wait: number) =>
    chanceWhenTuned(carryTo(fit, fit.nowMin + wait), wish.holdMin, wish.toleranceCents) >= READY;
  if (isReady(0)) return 0;
  if (!isReady(LONGEST_MIN)) return null;
  let low = 1;
  let high = LONGEST_MIN;
  while (high / low > 1.06) {
    const middle = Math.sqrt(low * high);
    if (isReady(middle)) high = middle;
    else low = middle;
  }
  return high;
}
