import type { Retune } from './history';
import type { CreepShape } from './shapes';

/** Where a string is believed to be: what each number of the state is. */
export const OFFSET = 0;
/** Cents of fall for a unit of the creep clock. */
export const SLOPE = 1;
/** Cents per degree. */
export const WARMTH = 2;
/** What comes and goes by itself, cents. */
export const WANDER = 3;
/** What hands have put off and comes back by itself: a pull's elastic rest, warmth that goes; cents. */
export const BACK = 4;
export const STATES = 5;

/** Wander forgets itself with this time constant, min. */
const WANDER_MIN = 360;
/** What hands put off comes back with this time constant, min: half of a string's warmth has gone in about ten minutes. House estimate. */
const BACK_MIN = 15;
/** Small slips at nut and windings: variance a unit of the creep clock, cents², and the most of it that one stretch of time brings. House. */
const SLIP_VARIANCE = 0.0625;
const MOST_SLIPS = 2;
/** A bring-up of a full octave of strain renews creep fully; 866 cents is half the speed in cents per unit of ln tension. */
export const RENEWAL_CENTS = 866;
const FRICTION_MIN = 1.5;
/** Share of a bring-up that friction gives back, and the largest that counts, cents (house estimates). */
export const FRICTION_SHARE = 0.02;
export const FRICTION_MOST_CENTS = 60;

/**
 * Creep clock U at a time: age of the string plus what each bring-up before it renewed.
 * @param kappa how much of the clock a bring-up of a full octave renews, 0 to 1
 */
export function creepClock(shape: CreepShape, kappa: number, retunes: readonly Retune[], tMin: number): number {
  let u = shape.f(tMin);
  if (kappa > 0) {
    for (const r of retunes) {
      if (r.t >= tMin) break;
      if (r.sizeCents > 0) u += kappa * (r.sizeCents / RENEWAL_CENTS) * shape.f(tMin - r.t);
    }
  }
  return u;
}

/** What the clock goes on by more, or less, between two times in a string that hands have made so many minutes older. */
export const agedStep = ({ f }: CreepShape, agedMin: number, fromMin: number, toMin: number): number =>
  agedMin === 0 ? 0 : f(toMin + agedMin) - f(fromMin + agedMin) - f(toMin) + f(fromMin);

/** Extra fall by friction at nut and saddle after a bring-up, between two times: mean and sd in cents. */
export function frictionBetween(
  retunes: readonly Retune[],
  fromMin: number,
  toMin: number,
): { mean: number; sd: number } {
  let last: Retune | undefined;
  for (const r of retunes) if (r.t <= fromMin) last = r;
  if (!last) return { mean: 0, sd: 0 };
  const part = Math.exp(-(fromMin - last.t) / FRICTION_MIN) - Math.exp(-(toMin - last.t) / FRICTION_MIN);
  const size = Math.min(last.sizeCents, FRICTION_MOST_CENTS);
  return { mean: (0.3 + FRICTION_SHARE * size) * part, sd: (0.15 + 0.01 * size) * part };
}

/** What is left of wander, and of what hands put off, after a time. */
export interface Remaining {
  wander: number;
  back: number;
}
/** What is left after a time. @param dtMin min */
export const keptOver = (dtMin: number): Remaining => ({
  wander: Math.exp(-dtMin / WANDER_MIN),
  back: Math.exp(-dtMin / BACK_MIN),
});

/** A stretch of time as the state goes through it. */
export interface Step {
  kept: Remaining;
  /** Of the creep clock. */
  du: number;
  frictionMean: number;
  frictionSd: number;
  /** Variance of the slope's drift a unit of the clock. */
  q: number;
  wanderSd: number;
}

/** What a step adds to the variance of the offset, cents²: the slope's drift, small slips, friction. */
export const offsetNoise = ({ q, du, frictionSd }: Step): number =>
  (q * du ** 3) / 3 + SLIP_VARIANCE * Math.min(MOST_SLIPS, du) + frictionSd ** 2;
/** And to that of the wander. */
export const wanderNoise = ({ wanderSd, kept }: Step): number => wanderSd ** 2 * (1 - kept.wander ** 2);

/**
 * The one law of how a state goes on: filter, carry and forecast all go by it. Carries a state and its covariance (row-major,
 * STATES x STATES) through a step, in place.
 * @param states where nothing was put off, the last one need not be looked at
 */
export function stepState(mean: Float64Array, cov: Float64Array, step: Step, states = STATES): void {
  const { du, q, kept } = step;
  const hasBack = states > BACK;
  mean[OFFSET]! -= mean[SLOPE]! * du + step.frictionMean;
  mean[WANDER]! *= kept.wander;
  if (hasBack) mean[BACK]! *= kept.back;
  // F P F': rows, then columns; F is one but for offset on slope, wander and what comes back.
  for (let j = 0; j < states; j++) {
    cov[j]! -= du * cov[SLOPE * STATES + j]!;
    cov[WANDER * STATES + j]! *= kept.wander;
    if (hasBack) cov[BACK * STATES + j]! *= kept.back;
  }
  for (let row = 0; row < states * STATES; row += STATES) {
    cov[row]! -= du * cov[row + SLOPE]!;
    cov[row + WANDER]! *= kept.wander;
    if (hasBack) cov[row + BACK]! *= kept.back;
  }
  cov[0]! += offsetNoise(step);
  const drift = -(q * du * du) / 2;
  cov[SLOPE]! += drift;
  cov[SLOPE * STATES]! += drift;
  cov[SLOPE * STATES + SLOPE]! += q * du;
  cov[WANDER * STATES + WANDER]! += wanderNoise(step);
}

/** Forgets where the string stands; it stands within this variance of its target, its wander left out. */
export function freeOffset(mean: Float64Array, cov: Float64Array, at: number, variance: number): void {
  for (let j = 0; j < STATES; j++) cov[j] = cov[j * STATES] = 0;
  mean[OFFSET] = at - mean[WANDER]! - mean[BACK]!;
  // The sum of the three is what a hand brings to a place.
  for (let j = 0; j < STATES; j++) {
    const both = -cov[WANDER * STATES + j]! - cov[BACK * STATES + j]!;
    if (j !== OFFSET) cov[j] = cov[j * STATES] = both;
  }
  cov[0] = variance - cov[WANDER]! - cov[BACK]!;
}
