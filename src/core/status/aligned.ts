import { once, MINUTE } from '../base';
import { changeBetween } from '../pitch';
import type { ReadingRecord } from '../log';

/** Within this much of each other two readings are compared partial by partial: stiffness has not changed, cents (house estimate). */
const NEAR_CENTS = 40;

/**
 * The readings' offsets in cents with their changes taken partial by partial: a reading is carried from the first one near
 * it by the change of their common partials, so that stiffness and the body's pull cancel. Readings without common partials
 * (typed ones) keep their own figure.
 * @param readings of one string, oldest first
 * @returns cents from target, one a reading
 */
export const alignedCents = once((readings: ReadingRecord[]): number[] => align(readings));

function align(readings: readonly ReadingRecord[]): number[] {
  const anchors: { reading: ReadingRecord; cents: number }[] = [];
  return readings.map((reading) => {
    const anchor = anchors.find(
      (a) => a.reading.targetHz === reading.targetHz && Math.abs(a.cents - reading.cents) < NEAR_CENTS,
    );
    if (anchor) {
      const change = changeBetween(anchor.reading, reading);
      return change.partials > 0 ? anchor.cents + change.cents : reading.cents;
    }
    if (reading.partials.length > 0) anchors.push({ reading, cents: reading.cents });
    return reading.cents;
  });
}

/** Readings this close without a tuner touched between them tell how well the string repeats, ms. */
const REPEAT_MS = 3 * MINUTE;
const FEWEST_PAIRS = 3;
/** So many of the newest pairs are enough. */
const MOST_PAIRS = 100;

export interface Repeatability {
  /** Standard deviation of one reading, cents. */
  cents: number;
  pairs: number;
}

/**
 * How well a string's readings repeat: from pairs of readings within three minutes of a string that nobody turned or pulled between them,
 * root mean square of their changes over root two.
 * @returns null before three such pairs
 */
export const repeatability = once((readings: ReadingRecord[]): Repeatability | null => {
  let sum = 0;
  let pairs = 0;
  for (let i = readings.length - 1; i > 0 && pairs < MOST_PAIRS; i--) {
    const [before, reading] = [readings[i - 1]!, readings[i]!];
    const isTouched = reading.purpose !== 'as-found' || reading.slip || reading.stretched;
    if (isTouched || reading.atMs - before.atMs > REPEAT_MS) continue;
    if (before.source === 'typed' || reading.source === 'typed') continue;
    sum += changeBetween(before, reading).cents ** 2;
    pairs++;
  }
  return pairs < FEWEST_PAIRS ? null : { cents: Math.sqrt(sum / pairs / 2), pairs };
});
