/*
 * One partial as the sum of two decaying tones: the string's two polarisations, of which the second is let go weaker,
 * lies a little off and rings longer (Weinreich, J. Acoust. Soc. Am. 62, 1977; Fletcher & Rossing, ch. 9):
 *   s(t) = e^(i c g h(t)) (u e^((-a + i w) t) + v e^((-a (1 - rho) + i (w + d)) t)),  h(t) = tau (1 - e^(-t / tau)),
 * with t from the onset, g and tau the sharp start common to all partials, c the phase a second that one cent makes.
 * Own parameters of a partial, in this order; their priors are house estimates.
 */
export const U_RE = 0;
export const U_IM = 1;
export const V_RE = 2;
export const V_IM = 3;
export const DECAY = 4;
export const RHO = 5;
export const APART = 6;
export const OMEGA = 7;
/** Own parameters of a partial. */
export const OWN = 8;
/** Own parameters, then the sharp start's size g and the logarithm of its time constant. */
export const ALL = OWN + 2;

/** Second polarisation against the first at the onset: standard deviation of its real and of its imaginary part. */
const SECOND_SD = 0.22;
/** Share of the decay that the second polarisation is spared. */
export const RHO_MEAN = 0.55;
const RHO_SD = 0.2;
/** How far the second polarisation lies from the first, cents. */
export const APART_SD_CENTS = 0.35;
/** The decay against its first estimate, which the slower tone has flattened: mean and spread, as shares. */
const DECAY_MEAN = 1.2;
const DECAY_SD = 0.7;

/** A partial's frames, its parameters and the work space of its fit. Amplitudes are relative to the first frame. */
export interface TwoTone {
  n: number;
  carrierHz: number;
  count: number;
  /** s from the onset */
  timeS: Float64Array;
  re: Float64Array;
  im: Float64Array;
  /** Unwrapped, rad. */
  phase: Float64Array;
  /** Inverse variance of the frames' real and imaginary parts. */
  weight: Float64Array;
  /** Phase per second that one cent makes, rad/s. */
  perCent: number;
  /** First estimates: decay 1/s, angular frequency against the carrier rad/s. */
  firstDecay: number;
  firstOmega: number;
  own: Float64Array;
  trial: Float64Array;
  saved: Float64Array;
  /** Half the squared misfit in standard errors, and what the priors add. */
  cost: number;
  /** Cholesky factor of the own block, with the rows of g and ln tau; and the forward-solved right side. */
  factor: Float64Array;
  right: Float64Array;
}

/** Angular frequency of the first polarisation against the carrier, rad/s. */
export const omegaOf = (p: TwoTone): number => p.own[OMEGA]!;
/** Variance of the angular frequency at a given sharp start, (rad/s)^2; valid after `linearise`. */
export const omegaVariance = (p: TwoTone): number => 1 / p.factor[OMEGA * ALL + OMEGA]! ** 2;
/** What a change of g (0) or of ln tau (1) does to the angular frequency; valid after `linearise`. */
export const omegaPull = (p: TwoTone, which: 0 | 1): number =>
  -p.factor[(OWN + which) * ALL + OMEGA]! / p.factor[OMEGA * ALL + OMEGA]!;
/** Log of the root of the own block's determinant; valid after `linearise`. */
export function logRootDeterminant(p: TwoTone): number {
  let sum = 0;
  for (let k = 0; k < OWN; k++) sum += Math.log(p.factor[k * ALL + k]!);
  return sum;
}

const slopeRe = new Float64Array(ALL);
const slopeIm = new Float64Array(ALL);
const hessian = new Float64Array(ALL * ALL);
const gradient = new Float64Array(ALL);

/** Cost of parameters `own` under the sharp start; with `build` also the normal equations in hessian and gradient. */
export function evaluate(p: TwoTone, own: Float64Array, g: number, tau: number, build: boolean): number {
  const ur = own[U_RE]!;
  const ui = own[U_IM]!;
  const vr = own[V_RE]!;
  const vi = own[V_IM]!;
  const decay = own[DECAY]!;
  const rho = own[RHO]!;
  const apart = own[APART]!;
  const omega = own[OMEGA]!;
  const { timeS, re, im, weight, perCent } = p;
  let cost = 0;
  if (build) {
    hessian.fill(0);
    gradient.fill(0);
  }
  // The frames are equally spaced: both tones and the glide's exponential turn and shrink by the same factor each.
  const t0 = timeS[0]!;
  const spacing = timeS[1]! - t0;
  const slow = decay * (1 - rho);
  const turn1r = Math.exp(-decay * spacing) * Math.cos(omega * spacing);
  const turn1i = Math.exp(-decay * spacing) * Math.sin(omega * spacing);
  const turn2r = Math.exp(-slow * spacing) * Math.cos((omega + apart) * spacing);
  const turn2i = Math.exp(-slow * spacing) * Math.sin((omega + apart) * spacing);
  let z1r = Math.exp(-decay * t0) * Math.cos(omega * t0);
  let z1i = Math.exp(-decay * t0) * Math.sin(omega * t0);
  let z2r = Math.exp(-slow * t0) * Math.cos((omega + apart) * t0);
  let z2i = Math.exp(-slow * t0) * Math.sin((omega + apart) * t0);
  let left = tau > 0 ? Math.exp(-t0 / tau) : 0;
  const shrink = tau > 0 ? Math.exp(-spacing / tau) : 0;
  for (let k = 0; k < p.count; k++) {
    const t = timeS[k]!;
    const h = tau * (1 - left);
    const bent = perCent * g * h;
    const cg = Math.cos(bent);
    const sg = Math.sin(bent);
    const c1 = z1r * cg - z1i * sg;
    const s1 = z1r * sg + z1i * cg;
    const c2 = z2r * cg - z2i * sg;
    const s2 = z2r * sg + z2i * cg;
    const turned1 = z1r * turn1r - z1i * turn1i;
    z1i = z1r * turn1i + z1i * turn1r;
    z1r = turned1;
    const turned2 = z2r * turn2r - z2i * turn2i;
    z2i = z2r * turn2i + z2i * turn2r;
    z2r = turned2;
    const dh = g * (h - t * left);
    left *= shrink;
    const br = vr * c2 - vi * s2;
    const bi = vr * s2 + vi * c2;
    const sr = ur * c1 - ui * s1 + br;
    const si = ur * s1 + ui * c1 + bi;
    const rr = re[k]! - sr;
    const ri = im[k]! - si;
    const w = weight[k]!;
    cost += 0.5 * w * (rr * rr + ri * ri);
    if (!build) continue;
    slopeRe[U_RE] = c1;
    slopeIm[U_RE] = s1;
    slopeRe[U_IM] = -s1;
    slopeIm[U_IM] = c1;
    slopeRe[V_RE] = c2;
    slopeIm[V_RE] = s2;
    slopeRe[V_IM] = -s2;
    slopeIm[V_IM] = c2;
    slopeRe[DECAY] = -t * (sr - rho * br);
    slopeIm[DECAY] = -t * (si - rho * bi);
    slopeRe[RHO] = decay * t * br;
    slopeIm[RHO] = decay * t * bi;
    slopeRe[APART] = -t * bi;
    slopeIm[APART] = t * br;
    slopeRe[OMEGA] = -t * si;
    slopeIm[OMEGA] = t * sr;
    slopeRe[OWN] = -perCent * h * si;
    slopeIm[OWN] = perCent * h * sr;
    slopeRe[OWN + 1] = -perCent * dh * si;
    slopeIm[OWN + 1] = perCent * dh * sr;
    for (let i = 0; i < ALL; i++) {
      const x = w * slopeRe[i]!;
      const y = w * slopeIm[i]!;
      gradient[i]! += x * rr + y * ri;
      for (let j = 0; j <= i; j++) hessian[i * ALL + j]! += x * slopeRe[j]! + y * slopeIm[j]!;
    }
  }
  const power = ur * ur + ui * ui;
  const secondWorth = 1 / (SECOND_SD ** 2 * power);
  const apartWorth = 1 / (APART_SD_CENTS * perCent) ** 2;
  const rhoWorth = 1 / RHO_SD ** 2;
  const decayWorth = 1 / (DECAY_SD * p.firstDecay) ** 2;
  const offRho = rho - RHO_MEAN;
  const offDecay = decay - DECAY_MEAN * p.firstDecay;
  if (build) {
    addPrior(V_RE, secondWorth, vr);
    addPrior(V_IM, secondWorth, vi);
    addPrior(DECAY, decayWorth, offDecay);
    addPrior(RHO, rhoWorth, offRho);
    addPrior(APART, apartWorth, apart);
  }
  return (
    cost +
    Math.log(power) +
    0.5 *
      (secondWorth * (vr * vr + vi * vi) +
        apartWorth * apart * apart +
        rhoWorth * offRho * offRho +
        decayWorth * offDecay * offDecay)
  );
}

function addPrior(i: number, worth: number, off: number): void {
  hessian[i * ALL + i]! += worth;
  gradient[i]! -= worth * off;
}

/** Cholesky factor of the own block, its diagonal raised by `damping`, and the forward-solved right side. */
function factorise(p: TwoTone, damping: number): void {
  const { factor, right } = p;
  for (let i = 0; i < ALL; i++) {
    let r = gradient[i]!;
    for (let j = 0; j < Math.min(i + 1, OWN); j++) {
      let s = hessian[i * ALL + j]!;
      if (i === j) s *= 1 + damping;
      for (let k = 0; k < j; k++) s -= factor[i * ALL + k]! * factor[j * ALL + k]!;
      factor[i * ALL + j] = i === j ? Math.sqrt(Math.max(s, 1e-12)) : s / factor[j * ALL + j]!;
      if (j < i) r -= factor[i * ALL + j]! * right[j]!;
    }
    right[i] = i < OWN ? r / factor[i * ALL + i]! : r;
  }
}

/** Linearises at the present parameters; sets the cost, factor and right side. */
export function linearise(p: TwoTone, g: number, tau: number): void {
  p.cost = evaluate(p, p.own, g, tau, true);
  factorise(p, 0);
  // What the common parameters keep once the own ones have given way (Schur complement), for `addCommon`.
  for (let i = OWN; i < ALL; i++)
    for (let j = OWN; j <= i; j++) {
      let s = hessian[i * ALL + j]!;
      for (let k = 0; k < OWN; k++) s -= p.factor[i * ALL + k]! * p.factor[j * ALL + k]!;
      p.factor[i * ALL + j] = s;
    }
}

/**
 * Adds what a linearised partial tells of g and ln tau to `sum`: curvature gg, g tau, tau tau, gradient g, tau.
 * @param worth between 0 and 1, for a partial that the law does not describe
 */
export function addCommon(p: TwoTone, sum: Float64Array, worth: number): void {
  const { factor, right } = p;
  sum[0]! += worth * factor[OWN * ALL + OWN]!;
  sum[1]! += worth * factor[(OWN + 1) * ALL + OWN]!;
  sum[2]! += worth * factor[(OWN + 1) * ALL + OWN + 1]!;
  sum[3]! += worth * right[OWN]!;
  sum[4]! += worth * right[OWN + 1]!;
}

/** Gauss-Newton step of the own parameters into `trial`, when g and ln tau move by the given amounts. */
function step(p: TwoTone, moveG: number, moveLnTau: number): void {
  const { factor, right, trial, own } = p;
  for (let i = OWN - 1; i >= 0; i--) {
    let s = right[i]! - factor[OWN * ALL + i]! * moveG - factor[(OWN + 1) * ALL + i]! * moveLnTau;
    for (let k = i + 1; k < OWN; k++) s -= factor[k * ALL + i]! * trial[k]!;
    trial[i] = s / factor[i * ALL + i]!;
  }
  for (let i = 0; i < OWN; i++) trial[i]! += own[i]!;
  trial[RHO] = Math.max(0.1, Math.min(0.9, trial[RHO]!));
  trial[DECAY] = Math.max(0.02, trial[DECAY]!);
}

/** After `linearise`: follows the sharp start to (g, tau) along the linear guess, where that helps, and settles there. */
export function follow(p: TwoTone, g: number, tau: number, moveG: number, moveLnTau: number, rounds: number): void {
  step(p, moveG, moveLnTau);
  if (evaluate(p, p.trial, g, tau, false) < evaluate(p, p.own, g, tau, false)) p.own.set(p.trial);
  settle(p, g, tau, rounds);
}

/** Own parameters at a given sharp start: damped Gauss-Newton (Levenberg 1944), at most `rounds` steps. Sets the cost. */
export function settle(p: TwoTone, g: number, tau: number, rounds: number): void {
  let damping = 1e-3;
  let moved = true;
  for (let i = 0; i < rounds; i++) {
    // A refused step leaves the normal equations as they are: only the damping changes.
    if (moved) p.cost = evaluate(p, p.own, g, tau, true);
    factorise(p, damping);
    step(p, 0, 0);
    const cost = evaluate(p, p.trial, g, tau, false);
    moved = cost < p.cost;
    if (!moved) {
      damping = Math.max(1e-3, damping * 10);
      continue;
    }
    const gain = p.cost - cost;
    p.own.set(p.trial);
    p.cost = cost;
    damping *= 0.15;
    if (gain < 0.02 + 0.003 * cost) break;
  }
}
