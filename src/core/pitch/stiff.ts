import type { PartialFit } from './glide';

export interface StiffFit {
  /** f0 sqrt(1 + B), Hz */
  firstPartialHz: number;
  b: number;
  sigmaCents: number;
  /** Robust scatter of the partials about the stiff-string law, cents. */
  scatterCents: number;
  /** Weight of every partial after the robust iterations, 0 (rejected) to 1. */
  trust: number[];
  deviationCents: number[];
}

const CENTS = 1200 / Math.LN2;
/** Typical stiffness and its spread, a weak prior that only speaks where few partials do (house estimate). */
const B_PRIOR = 8e-5;
const B_PRIOR_SD = 4e-4;
/** Wander that two polarisations and the body give a partial, in cents and in Hz (house estimates). */
const FLOOR_CENTS = 0.12;
const FLOOR_HZ = 0.02;
/** Student-t degrees of freedom of the partials' deviations: body-coupled ones lie far out. */
const NU = 2;

/** How a partial's credibility sinks with its amplitude: standard error times (top / amplitude) to this power (house estimate). */
const FAINT = 0.4;

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
 * Fits f_n = n f0 sqrt(1 + B n^2) (Fletcher 1964) to the partials, in cents: ln(f_n / n) = ln f0 + 0.5 ln(1 + B n^2),
 * by Gauss-Newton with Student-t weights whose scale comes from the data.
 */
export function fitStiffString(partials: PartialFit[], startB: number): StiffFit {
  // The robust fit has more than one resting place when some partials lie off: they are averaged by likelihood, so that
  // a near tie does not flip the reading.
  const fits = [startB, 0, 3e-5, 2e-4].flatMap((b) => [fitFrom(partials, b, false), fitFrom(partials, b, true)]);
  const best = fits.reduce((a, c) => (c.misfit < a.misfit ? c : a));
  const shares = fits.map((x) => Math.exp(best.misfit - x.misfit));
  const total = shares.reduce((a, c) => a + c, 0);
  const mean = (of: (fit: StiffFit) => number) => shares.reduce((s, w, i) => s + (w / total) * of(fits[i]!.fit), 0);
  const height = (fit: StiffFit) => CENTS * Math.log(fit.firstPartialHz);
  const middle = mean(height);
  const spread = mean((fit) => (height(fit) - middle) ** 2 + fit.sigmaCents ** 2);
  return {
    ...best.fit,
    firstPartialHz: Math.exp(middle / CENTS),
    b: mean((fit) => fit.b),
    sigmaCents: Math.sqrt(spread),
  };
}

/** One run from a stiffness; `anchored` trusts at first only what lies near the partials' weighted middle. */
function fitFrom(partials: PartialFit[], startB: number, anchored: boolean): { fit: StiffFit; misfit: number } {
  const y = partials.map((p) => CENTS * Math.log(p.frequencyHz / p.n));
  const top = Math.max(...partials.map((p) => p.amplitude));
  const own = partials.map((p) => {
    const sigma = (CENTS * p.sigmaHz) / p.frequencyHz;
    // A faint partial may be another string's, the body's or the room's: it counts for less than it seems to know.
    const floor = FLOOR_CENTS * Math.pow(top / p.amplitude, FAINT);
    return Math.hypot(sigma, floor, (CENTS * FLOOR_HZ) / p.frequencyHz);
  });
  const worthSum = own.reduce((sum, o) => sum + 1 / o, 0);
  const worth = own.map((o) => partials.length / (o * worthSum));
  let b = startB;
  let scale = 1;
  let trust = partials.map(() => 1);
  if (anchored) {
    const level = partials.map((p, i) => y[i]! - 0.5 * CENTS * Math.log(1 + b * p.n * p.n));
    const middle = weightedMedian(level, worth);
    trust = level.map((l, i) => (NU + 1) / (NU + ((l - middle) / (3 * own[i]!)) ** 2));
  }
  let a = 0;
  let covA = 1;
  let covAB = 0;
  let covB = 1;
  let dev = partials.map(() => 0);
  for (let iteration = 0; iteration < 25; iteration++) {
    let sw = 0;
    let sg = 0;
    let sgg = 1 / B_PRIOR_SD ** 2;
    let sy = 0;
    let sgy = (B_PRIOR - b) / B_PRIOR_SD ** 2;
    partials.forEach((p, i) => {
      const w = trust[i]! / (own[i]! * scale) ** 2;
      const q = 1 + b * p.n * p.n;
      const g = (0.5 * CENTS * p.n * p.n) / q;
      const r = y[i]! - 0.5 * CENTS * Math.log(q);
      sw += w;
      sg += w * g;
      sgg += w * g * g;
      sy += w * r;
      sgy += w * g * r;
    });
    const det = sw * sgg - sg * sg;
    a = (sgg * sy - sg * sgy) / det;
    const step = (sw * sgy - sg * sy) / det;
    const next = Math.max(0, b + step);
    // At the bound B = 0 the intercept is the plain mean.
    if (b + step < 0) a = (sy - sg * (next - b)) / sw;
    const moved = Math.abs(next - b);
    b = next;
    covA = sgg / det;
    covAB = -sg / det;
    covB = sw / det;
    dev = partials.map((p, i) => y[i]! - a - 0.5 * CENTS * Math.log(1 + b * p.n * p.n));
    const z = dev.map((d, i) => Math.abs(d) / own[i]!);
    const dof = partials.length > 3 ? Math.sqrt(partials.length / (partials.length - 2)) : 1.5;
    scale = Math.max(0.6, 1.4826 * dof * weightedMedian(z, worth));
    trust = dev.map((d, i) => (NU + 1) / (NU + (d / (own[i]! * scale)) ** 2));
    if (iteration > 5 && moved < 1e-9) break;
  }
  const mostTrust = Math.max(...trust, 1e-9);
  const q = 1 + b;
  const g1 = (0.5 * CENTS) / q;
  const scatter = scale * [...own].sort((u, v) => u - v)[Math.floor(own.length / 2)]!;
  // Minus the log of the Student-t likelihood, with the scale it found.
  const misfit = dev.reduce(
    (sum, d, i) =>
      sum + worth[i]! * (Math.log(scale) + 0.5 * (NU + 1) * Math.log(1 + (d / (own[i]! * scale)) ** 2 / NU)),
    0,
  );
  const fit: StiffFit = {
    firstPartialHz: Math.exp(a / CENTS) * Math.sqrt(q),
    b,
    sigmaCents: Math.sqrt(Math.max(0, covA + 2 * g1 * covAB + g1 * g1 * covB)),
    scatterCents: scatter,
    trust: trust.map((t) => t / mostTrust),
    deviationCents: dev,
  };
  return { fit, misfit };
}
