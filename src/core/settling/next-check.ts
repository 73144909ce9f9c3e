import type { SettlingFit } from './fit';
import { fallAhead, mixtureBelow } from './forecast';
import { clamp } from '../base';
import { keptOf } from './kept';

export interface CheckRule {
  toleranceCents: number;
  /** Present offset from target, cents. */
  offsetCents: number;
  /** Time since the check before this one, min. */
  lastIntervalMin: number;
  /** .9, or .97 for the careful. */
  confidence: number;
}

const SHORTEST_MIN = 2;
const LONGEST_GROWTH = 6;
const LONGEST_MIN = 14 * 1440;

/**
 * Time until the string should be read again, min: the longest for which it stays within tolerance with the wanted
 * confidence on either side, at most six times the last interval, at least 2 min. House design.
 */
export const nextCheckMin = keptOf((fit: SettlingFit, rule: CheckRule): number => {
  const within = (h: number): boolean => {
    const mix = fallAhead(fit, h);
    const [least, most] = [rule.offsetCents - rule.toleranceCents, rule.offsetCents + rule.toleranceCents];
    return mixtureBelow(mix, most) >= rule.confidence && mixtureBelow(mix, least) <= 1 - rule.confidence;
  };
  const limit = clamp(LONGEST_GROWTH * rule.lastIntervalMin, SHORTEST_MIN, LONGEST_MIN);
  let low = SHORTEST_MIN;
  if (!within(low)) return SHORTEST_MIN;
  let high = low;
  while (high < limit) {
    high = Math.min(limit, high * 1.6);
    if (!within(high)) break;
    low = high;
  }
  if (low >= limit) return limit;
  for (let i = 0; i < 6; i++) {
    const middle = Math.sqrt(low * high);
    if (within(middle)) low = middle;
    else high = middle;
  }
  return low;
});
