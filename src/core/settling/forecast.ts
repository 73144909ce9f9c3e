import { errorFunction } from 'simple-statistics';
import { clockSteps, type Component, type SettlingFit } from './fit';
import {
  BACK,
  frictionBetween,
  keptOver,
  OFFSET,
  offsetNoise,
  SLOPE,
  STATES,
  WANDER,
  wanderNoise,
  WARMTH,
} from './process';
import { clamp, normalDensity } from '../base';
import { keptOf } from './kept';

/** A mixture of normal distributions: share, mean and sd of each part. */
export interface Mixture {
  share: number[];
  mean: number[];
  sd: number[];
}

const SCALE: [number, number][] = [
  [10, 0.75],
  [90, 0.98],
  [720, 1.3],
  [1440, 1.35],
  [10080, 1.45],
];

/** Factor on the forecast's sd at a horizon, linear in ln h (house calibration). */
function spreadScale(hMin: number): number {
  const h = clamp(hMin, 10, 10080);
  const i = Math.max(
    1,
    SCALE.findIndex(([at]) => h <= at),
  );
  const [h0, s0] = SCALE[i - 1]!;
  const [h1, s1] = SCALE[i]!;
  return s0 + ((s1 - s0) * Math.log(h / h0)) / Math.log(h1 / h0);
}

/** How far a day's swing may have gone in a time: 0 at once, 2 half a day on. */
const dayIn = (hMin: number): number => 1 - Math.cos((2 * Math.PI * hMin) / 1440);
/** What a room of this variance, (deg C)^2, may do to a string in a time, cents^2: it wanders, and swings with the day. */
const warmthVariance = ({ mean, cov }: Component, tempVariance: number, hMin: number): number =>
  (mean[WARMTH]! ** 2 + cov[WARMTH * STATES + WARMTH]!) * tempVariance * (1 - Math.exp(-hMin / 300) + dayIn(hMin));

/** Shares of a room's variance: much of it is seen in how the string wandered (house: a room moves wound steel by 1 to 2 cents in four hours). */
const ROOM_SHARE = { measured: 0.6, unmeasured: 0.35 };
/** What the room may have done to a string since it was read last, cents^2: nobody has looked at it since. */
const roomSince = (fit: SettlingFit, c: Component): number =>
  warmthVariance(
    c,
    ROOM_SHARE[fit.thermometer ? 'measured' : 'unmeasured'] * fit.tempVariance,
    fit.nowMin - fit.readMin,
  );

/** x' P y over the covariance of a state. @param x what of each part counts, and y */
function form({ cov }: Component, x: Float64Array, y: Float64Array): number {
  let total = 0;
  for (let i = 0; i < STATES; i++) {
    if (x[i] === 0) continue;
    let row = 0;
    for (let j = 0; j < STATES; j++) row += cov[i * STATES + j]! * y[j]!;
    total += x[i]! * row;
  }
  return total;
}
function sumOf({ mean }: Component, x: Float64Array): number {
  let total = 0;
  for (let i = 0; i < STATES; i++) total += x[i]! * mean[i]!;
  return total;
}

/** What of each part of the state makes where the string stands now. */
function partsNow(fit: SettlingFit): Float64Array {
  const parts = new Float64Array(STATES);
  parts[OFFSET] = parts[WANDER] = parts[BACK] = 1;
  parts[WARMTH] = fit.lastTempC;
  return parts;
}

/** Where a component stands now: mean and variance, cents; what came since it was read is known as well as what is still to come. */
function standing(fit: SettlingFit, c: Component, now: Float64Array): { cents: number; variance: number } {
  const since = Math.max(1, spreadScale(fit.nowMin - fit.readMin)) ** 2;
  return { cents: sumOf(c, now), variance: since * Math.max(0, form(c, now, now)) + roomSince(fit, c) };
}

/** What comes within a time, by component: mean of the fall and its variance, and how it goes with where the string stands now. */
function aheadOf(fit: SettlingFit, hMin: number, now: Float64Array) {
  const friction = frictionBetween(fit.retunes, fit.nowMin, fit.nowMin + hMin);
  const kept = keptOver(hMin);
  const clockStep = clockSteps(fit, fit.nowMin, fit.nowMin + hMin);
  // The fall is what the offset loses by its slope, and what wander and hands have put on that goes.
  const goes = new Float64Array(STATES);
  goes[WANDER] = 1 - kept.wander;
  goes[BACK] = 1 - kept.back;
  return (c: Component) => {
    const du = clockStep(c);
    goes[SLOPE] = du;
    const step = { kept, du, frictionMean: friction.mean, frictionSd: friction.sd, q: c.q, wanderSd: c.wanderSd };
    const room = fit.thermometer ? warmthVariance(c, fit.tempVariance, hMin) : 0.5 * c.wanderSd ** 2 * dayIn(hMin);
    return {
      fall: friction.mean + sumOf(c, goes),
      variance: offsetNoise(step) + wanderNoise(step) + room + form(c, goes, goes),
      withNow: form(c, goes, now),
    };
  };
}

/** Factor on what comes, by how long it is ahead and how young the string is (house calibration). */
const scaleAt = (fit: SettlingFit, hMin: number): number =>
  Math.max(fit.isTouched ? TOUCHED_LEAST : 0, spreadScale(hMin)) * (fit.nowMin < 60 ? 1.2 : 1);
/** After hands what comes soon is no surer than this (house calibration). */
const TOUCHED_LEAST = 1;

/** Distribution of the fall in cents (flat positive) from now until hMin later, if the string is left alone. */
export function fallAhead(fit: SettlingFit, hMin: number): Mixture {
  const scale = scaleAt(fit, hMin);
  const ahead = aheadOf(fit, hMin, partsNow(fit));
  const mix: Mixture = { share: [], mean: [], sd: [] };
  for (const c of fit.components) {
    const { fall, variance } = ahead(c);
    mix.share.push(c.share);
    mix.mean.push(fall);
    mix.sd.push(scale * Math.sqrt(Math.max(1e-6, variance)));
  }
  return mix;
}

/**
 * Distribution of where the string will stand hMin from now if it is left alone, cents from its target: where it stands, with
 * its doubt, and what comes, together.
 */
export function standAhead(fit: SettlingFit, hMin: number): Mixture {
  const scale = scaleAt(fit, Math.max(1, hMin));
  const now = partsNow(fit);
  const ahead = aheadOf(fit, hMin, now);
  const mix: Mixture = { share: [], mean: [], sd: [] };
  for (const c of fit.components) {
    const stands = standing(fit, c, now);
    const { fall, variance, withNow } = ahead(c);
    mix.share.push(c.share);
    mix.mean.push(stands.cents - fall);
    mix.sd.push(Math.sqrt(Math.max(1e-6, stands.variance + scale * scale * variance - 2 * scale * withNow)));
  }
  return mix;
}

/** Where the string stands now against its target, cents, from all it has shown: the middle of what is believed, and its spread. */
export const offsetNow = keptOf((fit: SettlingFit): { cents: number; sigmaCents: number } => {
  const now = partsNow(fit);
  const at = fit.components.map((c) => standing(fit, c, now));
  const share = fit.components.map((c) => c.share);
  const mix = { share, mean: at.map((s) => s.cents), sd: at.map((s) => Math.sqrt(Math.max(1e-6, s.variance))) };
  return { cents: mixtureQuantile(mix, 0.5), sigmaCents: mixtureMoments(mix).sd };
});

/** Where a string will stand, cents from its target: the middle, mean and spread of it, and what nine of ten lie between. */
export interface Stands {
  q05: number;
  q50: number;
  q95: number;
  mean: number;
  sd: number;
}
/** Where the string will stand hMin from now if it is left alone. */
export const standAt = keptOf((fit: SettlingFit, hMin: number): Stands => {
  const mix = standAhead(fit, hMin);
  const q = (p: number) => mixtureQuantile(mix, p);
  return { q05: q(0.05), q50: q(0.5), q95: q(0.95), ...mixtureMoments(mix) };
});

/** What is believed of one part of the state, over all hypotheses. */
function believed({ components }: SettlingFit, part: number): { mean: number; sd: number } {
  let mean = 0;
  let square = 0;
  for (const c of components) {
    const m = c.mean[part]!;
    mean += c.share * m;
    square += c.share * (c.cov[part * STATES + part]! + m * m);
  }
  return { mean, sd: Math.sqrt(Math.max(0, square - mean * mean)) };
}
/** Cents of fall for a unit of the creep clock. */
export const slopeOf = (fit: SettlingFit) => believed(fit, SLOPE);
/** Cents per degree Celsius. */
export const warmthOf = (fit: SettlingFit) => believed(fit, WARMTH);

/** Mean of a mixture, cents. */
export function mixtureMean(mix: Mixture): number {
  return mix.share.reduce((s, w, i) => s + w * mix.mean[i]!, 0);
}

/** Mean and standard deviation of a whole mixture. */
export function mixtureMoments(mix: Mixture): { mean: number; sd: number } {
  const mean = mixtureMean(mix);
  const square = mix.share.reduce((s, w, i) => s + w * (mix.sd[i]! ** 2 + mix.mean[i]! ** 2), 0);
  return { mean, sd: Math.sqrt(Math.max(1e-6, square - mean * mean)) };
}

/**
 * Probability that a normal distribution lies below x.
 * @param mean and sd in the unit of x
 */
export const normalBelow = (x: number, mean: number, sd: number): number =>
  0.5 * (1 + errorFunction((x - mean) / (Math.SQRT2 * sd)));

/** Probability that the mixture lies below x. */
export function mixtureBelow(mix: Mixture, x: number): number {
  let p = 0;
  for (let i = 0; i < mix.share.length; i++) {
    p += mix.share[i]! * normalBelow(x, mix.mean[i]!, mix.sd[i]!);
  }
  return p;
}

/** Probability that the mixture lies between two values; rounding makes it no chance below none or above one. */
export const mixtureBetween = (mix: Mixture, low: number, high: number): number =>
  clamp(mixtureBelow(mix, high) - mixtureBelow(mix, low), 0, 1);

/** Quantile of the mixture to 0.001 cent: Newton's steps, halved where one leaves what is left. */
export function mixtureQuantile(mix: Mixture, p: number): number {
  let low = Infinity;
  let high = -Infinity;
  mix.mean.forEach((m, i) => {
    low = Math.min(low, m - 8 * mix.sd[i]!);
    high = Math.max(high, m + 8 * mix.sd[i]!);
  });
  let at = mixtureMean(mix);
  while (high - low > 1e-3) {
    const off = mixtureBelow(mix, at) - p;
    if (off < 0) low = at;
    else high = at;
    const density = mix.share.reduce((s, w, i) => s + w * normalDensity(at - mix.mean[i]!, mix.sd[i]! ** 2), 0);
    const next = at - off / density;
    if (Math.abs(next - at) < 5e-4) return next;
    at = next > low && next < high ? next : 0.5 * (low + high);
  }
  return 0.5 * (low + high);
}

/** Probability that a string standing at offsetCents now is within +-tolerance hMin from now. */
export function chanceToHold(fit: SettlingFit, hMin: number, toleranceCents: number, offsetCents: number): number {
  return mixtureBetween(fallAhead(fit, hMin), offsetCents - toleranceCents, offsetCents + toleranceCents);
}

/** Between now and the end it is looked at so far on the way. */
const ON_THE_WAY = [0, 0.3, 0.65, 1];

/** Out between two of these moments and in at both: this share of p (1 − p) (house calibration, bench/audit). */
const BETWEEN = 0.2;

/**
 * Probability that the string stays within +-tolerance from now on for hMin if it is left alone: what is not known of where it
 * stands counts. That of its worst moment, less what goes out and comes back between.
 */
export const chanceToStay = keptOf((fit: SettlingFit, hMin: number, toleranceCents: number): number => {
  const worst = Math.min(
    ...ON_THE_WAY.map((share) => mixtureBetween(standAhead(fit, share * hMin), -toleranceCents, toleranceCents)),
  );
  return worst - BETWEEN * worst * (1 - worst);
});

/** A hand leaves a string this near to its target, standard deviation, cents (house estimate). */
const HAND_CENTS = 0.8;

/** Probability that the string stays within +-tolerance for hMin if a hand brings it to pitch now. */
export function chanceWhenTuned(fit: SettlingFit, hMin: number, toleranceCents: number): number {
  const fall = fallAhead(fit, hMin);
  const ended = { ...fall, sd: fall.sd.map((sd) => Math.hypot(sd, HAND_CENTS)) };
  return mixtureBetween(ended, -toleranceCents, toleranceCents);
}

/** Fall by creep alone between two ages: mean, and variance by what is not known of its course, cents and cents². */
export function creepBetween(fit: SettlingFit, fromMin: number, toMin: number): { mean: number; variance: number } {
  const step = clockSteps(fit, fromMin, toMin);
  let mean = 0;
  let square = 0;
  for (const c of fit.components) {
    const du = step(c);
    mean += c.share * c.mean[SLOPE]! * du;
    square += c.share * du * du * (c.mean[SLOPE]! ** 2 + c.cov[SLOPE * STATES + SLOPE]!);
  }
  return { mean, variance: Math.max(0, square - mean * mean) };
}

/** How much of its age's creep a bring-up of so many cents sets going again, as far as the record tells (0: none). */
export function renewalOf(fit: SettlingFit): number {
  return fit.components.reduce((s, c) => s + c.share * c.hypothesis.kappa, 0);
}
