import { errorFunction } from 'simple-statistics';
import { WANDER_MIN } from './filter';
import { clockSteps, frictionBetween, type SettlingFit } from './fit';

/** A mixture of normal distributions: share, mean and sd of each part. */
export interface Mixture {
  share: number[];
  mean: number[];
  sd: number[];
}

const SCALE: [number, number][] = [
  [10, 0.75],
  [90, 0.98],
  [720, 1.18],
  [1440, 1.2],
  [10080, 1.3],
];

/** Factor on the forecast's sd at a horizon, linear in ln h (house calibration). */
function spreadScale(hMin: number): number {
  const h = Math.min(10080, Math.max(10, hMin));
  const i = Math.max(
    1,
    SCALE.findIndex(([at]) => h <= at),
  );
  const [h0, s0] = SCALE[i - 1]!;
  const [h1, s1] = SCALE[i]!;
  return s0 + ((s1 - s0) * Math.log(h / h0)) / Math.log(h1 / h0);
}

/** Distribution of the fall in cents (flat positive) from now until hMin later, if the string is left alone. */
export function fallAhead(fit: SettlingFit, hMin: number): Mixture {
  const { components, retunes, nowMin } = fit;
  const e = Math.exp(-hMin / WANDER_MIN);
  const day = 1 - Math.cos((2 * Math.PI * hMin) / 1440);
  const friction = frictionBetween(retunes, nowMin, nowMin + hMin);
  const scale = spreadScale(hMin) * (nowMin < 60 ? 1.2 : 1);
  const clockStep = clockSteps(fit, nowMin, nowMin + hMin);
  const mix: Mixture = { share: [], mean: [], sd: [] };
  for (const c of components) {
    const du = clockStep(c.hypothesis);
    const [, a, b, m] = c.mean;
    const stationary = c.wanderSd ** 2;
    const room = fit.thermometer
      ? (b * b + c.cov[10]!) * fit.tempVariance * (1 - Math.exp(-hMin / 300) + day)
      : 0.5 * stationary * day;
    const variance =
      c.cov[5]! * du * du +
      (c.q * du ** 3) / 3 +
      friction.sd ** 2 +
      0.0625 * Math.min(4, du) +
      c.cov[15]! * (1 - e) ** 2 +
      stationary * (1 - e * e) +
      2 * du * (1 - e) * c.cov[7]! +
      room;
    mix.share.push(c.share);
    mix.mean.push(a * du + friction.mean + m * (1 - e));
    mix.sd.push(scale * Math.sqrt(Math.max(1e-6, variance)));
  }
  return mix;
}

/** Where the string stands now against its target, cents, from all it has shown. */
export function offsetNow(fit: SettlingFit): { cents: number; sigmaCents: number } {
  let mean = 0;
  let square = 0;
  const d = fit.lastTempC;
  for (const c of fit.components) {
    const [o, , b, m] = c.mean;
    const y = o + b * d + m;
    const p = c.cov;
    const variance = p[0]! + d * d * p[10]! + p[15]! + 2 * (d * p[2]! + p[3]! + d * p[11]!);
    mean += c.share * y;
    square += c.share * (y * y + variance);
  }
  return { cents: mean, sigmaCents: Math.sqrt(Math.max(0, square - mean * mean)) };
}

export function mixtureMean(mix: Mixture): number {
  return mix.share.reduce((s, w, i) => s + w * mix.mean[i]!, 0);
}

/** Mean and standard deviation of a whole mixture. */
export function mixtureMoments(mix: Mixture): { mean: number; sd: number } {
  const mean = mixtureMean(mix);
  const square = mix.share.reduce((s, w, i) => s + w * (mix.sd[i]! ** 2 + mix.mean[i]! ** 2), 0);
  return { mean, sd: Math.sqrt(Math.max(1e-6, square - mean * mean)) };
}

/** Probability that a normal distribution lies below x. */
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

/** Quantile of the mixture by bisection, to 0.001 cent. */
export function mixtureQuantile(mix: Mixture, p: number): number {
  let low = Infinity;
  let high = -Infinity;
  mix.mean.forEach((m, i) => {
    low = Math.min(low, m - 8 * mix.sd[i]!);
    high = Math.max(high, m + 8 * mix.sd[i]!);
  });
  while (high - low > 1e-3) {
    const middle = 0.5 * (low + high);
    if (mixtureBelow(mix, middle) < p) low = middle;
    else high = middle;
  }
  return 0.5 * (low + high);
}

/** Probability that a string standing at offsetCents now is within +-tolerance hMin from now. */
export function chanceToHold(fit: SettlingFit, hMin: number, toleranceCents: number, offsetCents: number): number {
  const mix = fallAhead(fit, hMin);
  return mixtureBelow(mix, toleranceCents + offsetCents) - mixtureBelow(mix, offsetCents - toleranceCents);
}

/** Fall by creep alone between two ages: mean, and variance by what is not known of its course, cents and cents². */
export function creepBetween(fit: SettlingFit, fromMin: number, toMin: number): { mean: number; variance: number } {
  const step = clockSteps(fit, fromMin, toMin);
  let mean = 0;
  let square = 0;
  for (const { share, hypothesis, mean: state, cov } of fit.components) {
    const du = step(hypothesis);
    mean += share * state[1] * du;
    square += share * du * du * (state[1] ** 2 + cov[5]!);
  }
  return { mean, variance: Math.max(0, square - mean * mean) };
}

/** How much of its age's creep a bring-up of so many cents sets going again, as far as the record tells (0: none). */
export function renewalOf(fit: SettlingFit): number {
  return fit.components.reduce((s, c) => s + c.share * c.hypothesis.kappa, 0);
}
