import type { PartialFit } from './glide';

export interface StiffFit {
  /** f0 sqrt(1 + B), Hz */
  firstPartialHz: number;
  b: number;
  sigmaCents: number;
  /** How far every partial lies from the likeliest law, cents. */
  deviationCents: number[];
}

const CENTS = 1200 / Math.LN2;
/** Typical stiffness and its spread, a weak prior that only speaks where few partials do; and its bound (house estimates). */
const B_PRIOR = 8e-5;
const B_PRIOR_SD = 4e-4;
const B_MOST = 5e-3;
/** Stiffnesses from which the fit sets out, besides the comb's. */
const B_STARTS = [0, 3e-5, 2e-4];
/** Wander that two polarisations and the body give a partial, in cents and in Hz (house estimates). */
const FLOOR_CENTS = 0.06;
const FLOOR_HZ = 0.02;
/** How a partial's credibility sinks with its amplitude: standard error times (top / amplitude) to this power (house estimate). */
const FAINT = 0.4;
/** The partials may scatter more or less than they claim: factors and their prior chances (house estimates). */
const SCALES = [0.5, 1, 2, 4, 8];
const SCALE_CHANCE = [0.3, 0.3, 0.2, 0.1, 0.1];
/** So many partials are moved by the body, this far, in cents: median of a Cauchy distribution (house estimates; banjo heads move 9 to 17). */
const MOVED = 0.25;
const MOVED_CENTS = 3;
/** The law is drawn through every two of so many of the strongest partials; so many of the likeliest are refined. */
const DRAWN = 9;
const REFINED = 8;
const ROUNDS = 20;

/** A law: height of ln f0 in cents, stiffness, and the factor on the partials' standard errors. */
interface Law {
  height: number;
  b: number;
  scale: number;
  /** Logarithm of likelihood times prior, up to a constant. */
  chance: number;
}

/** The partials in cents: 1200 log2(f_n / n), standard errors, squared numbers. */
interface Points {
  y: number[];
  own: number[];
  n2: number[];
}

const bend = (b: number, n2: number): number => 0.5 * CENTS * Math.log1p(b * n2);

/** Log chance of a law; sets `belongs`, the chance of every partial to follow it and not the body. */
function chanceOf({ y, own, n2 }: Points, height: number, b: number, scale: number, belongs?: Float64Array): number {
  let sum = Math.log(SCALE_CHANCE[SCALES.indexOf(scale)]!) - 0.5 * ((b - B_PRIOR) / B_PRIOR_SD) ** 2;
  for (let i = 0; i < y.length; i++) {
    const d = y[i]! - height - bend(b, n2[i]!);
    const s = own[i]! * scale;
    const follows = ((1 - MOVED) * Math.exp(-0.5 * (d / s) ** 2)) / (Math.sqrt(2 * Math.PI) * s);
    const moved = MOVED / (Math.PI * MOVED_CENTS * (1 + (d / MOVED_CENTS) ** 2));
    if (belongs) belongs[i] = follows / (follows + moved);
    sum += Math.log(follows + moved);
  }
  return sum;
}

/** The likeliest scale for a height and a stiffness. */
function judged(points: Points, height: number, b: number): Law {
  let best: Law | undefined;
  for (const scale of SCALES) {
    const chance = chanceOf(points, height, b, scale);
    if (!best || chance > best.chance) best = { height, b, scale, chance };
  }
  return best!;
}

/** Laws to start from: through every two of the strongest partials, and through the weighted middle for some stiffnesses. */
function drawn(points: Points, strongest: number[], startB: number): Law[] {
  const { y, own, n2 } = points;
  const laws: Law[] = [];
  strongest.forEach((i, at) => {
    for (const j of strongest.slice(0, at)) {
      const slope = (y[j]! - y[i]!) / (0.5 * CENTS * (n2[j]! - n2[i]!));
      const b = Math.max(0, Math.min(B_MOST, slope));
      laws.push(judged(points, y[i]! - bend(b, n2[i]!), b));
    }
  });
  for (const b of [startB, ...B_STARTS]) {
    const level = y.map((v, i) => v - bend(b, n2[i]!));
    const worth = own.map((s) => 1 / s);
    laws.push(judged(points, weightedMedian(level, worth), b));
  }
  return laws;
}

/** Expectation maximisation from a law (Dempster, Laird & Rubin 1977); the variance of the first partial's height beside it. */
function refined(points: Points, law: Law): { law: Law; variance: number } {
  const { y, own, n2 } = points;
  const belongs = new Float64Array(y.length);
  let { height, b, scale } = law;
  let variance = 0;
  for (let round = 0; round < ROUNDS; round++) {
    if (round % 4 === 0) scale = judged(points, height, b).scale;
    chanceOf(points, height, b, scale, belongs);
    let sw = 1e-9;
    let sg = 0;
    let sgg = 1 / B_PRIOR_SD ** 2;
    let sr = 0;
    let sgr = (B_PRIOR - b) / B_PRIOR_SD ** 2;
    for (let i = 0; i < y.length; i++) {
      const w = belongs[i]! / (own[i]! * scale) ** 2;
      const g = (0.5 * CENTS * n2[i]!) / (1 + b * n2[i]!);
      const r = y[i]! - height - bend(b, n2[i]!);
      sw += w;
      sg += w * g;
      sgg += w * g * g;
      sr += w * r;
      sgr += w * g * r;
    }
    const det = sw * sgg - sg * sg;
    const next = Math.max(0, Math.min(B_MOST, b + (sw * sgr - sg * sr) / det));
    // At a bound of the stiffness the height is the plain mean.
    const move = (sr - sg * (next - b)) / sw;
    const g1 = (0.5 * CENTS) / (1 + b);
    variance = (sgg - 2 * g1 * sg + g1 * g1 * sw) / det;
    height += move;
    const still = Math.abs(move) < 1e-5 && Math.abs(next - b) < 1e-10;
    b = next;
    if (still && round > 4) break;
  }
  return { law: { height, b, scale, chance: chanceOf(points, height, b, scale) }, variance };
}

/** The lower weighted median. */
function weightedMedian(values: number[], weights: number[]): number {
  const order = values.map((_, i) => i).sort((a, b) => values[a]! - values[b]!);
  let left = weights.reduce((a, b) => a + b, 0) / 2;
  for (const i of order) {
    left -= weights[i]!;
    if (left <= 0) return values[i]!;
  }
  return values[order[order.length - 1]!]!;
}

/**
 * Fits f_n = n f0 sqrt(1 + B n^2) (Fletcher 1964) to the partials, in cents: ln(f_n / n) = ln f0 + 0.5 ln(1 + B n^2). Each
 * partial follows the law or has been moved by the body (mixture); the likeliest laws are averaged by their chances, so
 * that a near tie does not flip the reading.
 */
export function fitStiffString(partials: PartialFit[], startB: number): StiffFit {
  const top = Math.max(...partials.map((p) => p.amplitude));
  const points: Points = {
    y: partials.map((p) => CENTS * Math.log(p.frequencyHz / p.n)),
    n2: partials.map((p) => p.n * p.n),
    own: partials.map((p) => {
      const sigma = (CENTS * p.sigmaHz) / p.frequencyHz;
      // A faint partial may be another string's, the body's or the room's: it counts for less than it seems to know.
      const floor = FLOOR_CENTS * Math.pow(top / p.amplitude, FAINT);
      return Math.hypot(sigma, floor, (CENTS * FLOOR_HZ) / p.frequencyHz);
    }),
  };
  const strongest = points.own
    .map((_, i) => i)
    .sort((a, b) => points.own[a]! - points.own[b]!)
    .slice(0, DRAWN);
  const fits = drawn(points, strongest, startB)
    .sort((a, b) => b.chance - a.chance)
    .slice(0, REFINED)
    .map((law) => refined(points, law))
    .sort((a, b) => b.law.chance - a.law.chance);
  const best = fits[0]!.law;
  // Starts that ended at one law count once.
  const apart = fits.filter(
    ({ law }, i) =>
      !fits.slice(0, i).some((f) => Math.abs(f.law.height - law.height) < 0.01 && f.law.scale === law.scale),
  );
  const shares = apart.map(({ law }) => Math.exp(law.chance - best.chance));
  const total = shares.reduce((a, c) => a + c, 0);
  const mean = (of: (fit: (typeof fits)[number]) => number) =>
    shares.reduce((s, w, i) => s + (w / total) * of(apart[i]!), 0);
  const first = (law: Law) => law.height + bend(law.b, 1);
  const middle = mean(({ law }) => first(law));
  return {
    firstPartialHz: Math.exp(middle / CENTS),
    b: mean(({ law }) => law.b),
    sigmaCents: Math.sqrt(mean(({ law, variance }) => (first(law) - middle) ** 2 + variance)),
    deviationCents: points.y.map((v, i) => v - best.height - bend(best.b, points.n2[i]!)),
  };
}
