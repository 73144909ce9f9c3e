import { once } from '../base';
import { totalFall } from '../settling';
import { alignedCents } from './aligned';
import type { ReadingRecord } from '../log';

/** Total fall at each reading: what the string was brought up since its first one, less where it stands, cents. */
export const totalFallSeries = once((readings: ReadingRecord[]): number[] => {
  const aligned = alignedCents(readings);
  return totalFall(readings.map((r, i) => ({ cents: aligned[i]!, left: r.purpose === 'as-left' })));
});

/** The last reading at which a string was left, and the last at which it had moved at once. */
export const lastLeft = once((readings: readonly ReadingRecord[]) => readings.findLast((r) => r.purpose === 'as-left'));
export const lastSlip = once((readings: readonly ReadingRecord[]) => readings.findLast((r) => r.slip));

/** Total fall at the last reading, cents; null before one. */
export function totalFallCents(readings: ReadingRecord[]): number | null {
  return totalFallSeries(readings).at(-1) ?? null;
}
