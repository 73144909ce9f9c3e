import { FRAME_OVERLAP, type PartialTrack } from './demodulate';

/*
 * One partial as the sum of two decaying tones: the string's two polarisations, of which the second is let go weaker,
 * lies a little off and rings longer (Weinreich, J. Acoust. Soc. Am. 62, 1977; Fletcher & Rossing, ch. 9):
 *   s(t) = e^(i c g h(t)) (u e^((-a + i w) t) + v e^((-a (1 - rho) + i (w + d)) t)),  h(t) = tau (1 - e^(-t / tau)),
 * with t from the onset, g and tau the sharp start common to all partials, c the phase a second that one cent makes.
 * Own parameters of a partial, in this order; their priors are house estimates.
 */
const U_RE = 0;
const U_IM = 1;
const V_RE = 2;
const V_IM = 3;
const DECAY = 4;
const RHO = 5;
const APART = 6;
const OMEGA = 7;
/** Own parameters of a partial. */
export const OWN = 8;
/** Own parameters, then the sharp start's size g and the logarithm of its time constant. */
const ALL = OWN + 2;

/** Second polarisation against the first at the onset: standard deviation of its real and of its imaginary part. */
const SECOND_SD = 0.22;
/** Share of the decay that the second polarisation is spared. */
const RHO_MEAN = 0.55;
const RHO_SD = 0.2;
/** How far the second polarisation lies from the first, cents. */
const APART_SD_CENTS = 0.35;
/** The decay against its first estimate, which the slower tone has flattened: mean and spread, as shares. */
const DECAY_MEAN = 1.2;
const DECAY_SD = 0.7;
/** What the law leaves out (body, neighbours), as a share of the partial. */
const LAW_ERROR = 0.02;
/** Frames below this share of the loudest are left out. */
const FAINTEST = 0.03;
const MOST_FRAMES = 32;
const LEAST_FRAMES = 5;
/** The start's linear prediction reaches over these shares of the frames: long for accuracy, short against a lost turn. */
const REACHES = [1 / 3, 1 / 6, 1 / 12];
const LN_CENT = Math.LN2 / 1200;

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

/**
 * Takes the usable frames of a track.
 * @param noise amplitude of the noise in the track's band, same units as the track
 * @param omega first estimate of the angular frequency against the carrier, rad/s
 * @returns undefined where too few frames stand above the noise
 */
export function twoToneOf(track: PartialTrack, noise: number, onsetS: number, omega: number): TwoTone | undefined {
  const top = Math.max(...track.amplitude);
  const least = Math.max(3 * noise, FAINTEST * top);
  let used = 0;
  while (used < track.amplitude.length && track.amplitude[used]! > least) used++;
  const stride = Math.max(2, Math.ceil(used / MOST_FRAMES));
  const count = Math.ceil(used / stride);
  if (count < LEAST_FRAMES || used < 6) return undefined;
  // Neighbouring frames share samples; a Hann window's worth is longer than its overlap tells.
  const worth = Math.min(1, (1.6 * stride) / FRAME_OVERLAP);
  const array = () => new Float64Array(count);
  const [timeS, re, im, phase, weight] = [array(), array(), array(), array(), array()];
  const norm = 1 / track.amplitude[0]!;
  for (let k = 0; k < count; k++) {
    const i = k * stride;
    const a = track.amplitude[i]! * norm;
    timeS[k] = track.timeS[i]! - onsetS;
    phase[k] = track.phase[i]!;
    re[k] = a * Math.cos(phase[k]!);
    im[k] = a * Math.sin(phase[k]!);
    weight[k] = worth / (0.5 * (noise * norm) ** 2 + (LAW_ERROR * a) ** 2);
  }
  const half = count >> 1;
  const fall = Math.log(track.amplitude[0]! / track.amplitude[half * stride]!) / (timeS[half]! - timeS[0]!);
  return {
    n: track.n,
    carrierHz: track.carrierHz,
    count,
    timeS,
    re,
    im,
    phase,
    weight,
    perCent: 2 * Math.PI * track.carrierHz * LN_CENT,
    firstDecay: Math.max(0.05, fall),
    firstOmega: omega,
    own: new Float64Array(OWN),
    trial: new Float64Array(OWN),
    saved: new Float64Array(OWN),
    cost: 0,
    factor: new Float64Array(ALL * ALL),
    right: new Float64Array(ALL),
  };
}

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

const bend = (t: number, tau: number): number => (tau > 0 ? tau * (1 - Math.exp(-t / tau)) : 0);

const slopeRe = new Float64Array(ALL);
const slopeIm = new Float64Array(ALL);
const hessian = new Float64Array(ALL * ALL);
const gradient = new Float64Array(ALL);

/** Cost of parameters `own` under the sharp start; with `build` also the normal equations in hessian and gradient. */
function evaluate(p: TwoTone, own: Float64Array, g: number, tau: number, build: boolean): number {
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
  for (let i = 0; i < rounds; i++) {
    p.cost = evaluate(p, p.own, g, tau, true);
    factorise(p, damping);
    step(p, 0, 0);
    const cost = evaluate(p, p.trial, g, tau, false);
    if (cost >= p.cost) {
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

/** Starts afresh at a sharp start: from one tone, or from two by linear prediction where those fit better. */
export function start(p: TwoTone, g: number, tau: number): void {
  const { count, timeS, phase, perCent, own, trial } = p;
  const fr = new Float64Array(count);
  const fi = new Float64Array(count);
  let sw = 0;
  let st = 0;
  let stt = 0;
  let sp = 0;
  let stp = 0;
  let sl = 0;
  let stl = 0;
  for (let k = 0; k < count; k++) {
    const t = timeS[k]!;
    const a = Math.hypot(p.re[k]!, p.im[k]!);
    const level = phase[k]! - perCent * g * bend(t, tau) - p.firstOmega * t;
    fr[k] = a * Math.cos(level);
    fi[k] = a * Math.sin(level);
    const w = a * a;
    sw += w;
    st += w * t;
    stt += w * t * t;
    sp += w * level;
    stp += w * t * level;
    sl += w * Math.log(a);
    stl += w * t * Math.log(a);
  }
  const det = sw * stt - st * st;
  const slope = (sw * stp - st * sp) / det;
  const fall = (sw * stl - st * sl) / det;
  const size = Math.exp((sl - fall * st) / sw);
  const angle = (sp - slope * st) / sw;
  own[U_RE] = size * Math.cos(angle);
  own[U_IM] = size * Math.sin(angle);
  own[V_RE] = 0.02 * own[U_RE]!;
  own[V_IM] = 0.02 * own[U_IM]!;
  own[DECAY] = Math.max(0.05, -fall);
  own[RHO] = RHO_MEAN;
  own[APART] = 0;
  own[OMEGA] = p.firstOmega + slope;
  let best = evaluate(p, own, g, tau, false);
  for (const reach of REACHES) {
    if (!predict(p, fr, fi, Math.max(1, Math.floor(count * reach)), trial)) continue;
    const cost = evaluate(p, trial, g, tau, false);
    if (cost < best) {
      best = cost;
      own.set(trial);
    }
  }
}

/**
 * Two tones from the linear prediction f_k = x f_(k-m) + y f_(k-2m) (Prony 1795; least squares), then their amplitudes.
 * @param fr, fi frames with the sharp start and the first frequency taken out
 * @returns false where the poles are no two decaying tones of one partial
 */
function predict(p: TwoTone, fr: Float64Array, fi: Float64Array, m: number, out: Float64Array): boolean {
  const { count, timeS } = p;
  const pair = solvePair(count - 2 * m, (k, side) => {
    side[0] = fr[k + m]!;
    side[1] = fi[k + m]!;
    side[2] = fr[k]!;
    side[3] = fi[k]!;
    side[4] = fr[k + 2 * m]!;
    side[5] = fi[k + 2 * m]!;
  });
  if (!pair) return false;
  const [xr, xi, yr, yi] = pair;
  // Roots of z^2 - x z - y.
  const dr = xr * xr - xi * xi + 4 * yr;
  const di = 2 * xr * xi + 4 * yi;
  const size = Math.sqrt(Math.hypot(dr, di));
  const angle = 0.5 * Math.atan2(di, dr);
  const spacing = m * (timeS[1]! - timeS[0]!);
  const pole = (sign: number) => {
    const zr = (xr + sign * size * Math.cos(angle)) / 2;
    const zi = (xi + sign * size * Math.sin(angle)) / 2;
    return { decay: -Math.log(Math.hypot(zr, zi)) / spacing, omega: Math.atan2(zi, zr) / spacing };
  };
  const poles = [pole(1), pole(-1)].sort((a, b) => b.decay - a.decay);
  const [fast, slow] = [poles[0]!, poles[1]!];
  const rho = 1 - slow.decay / fast.decay;
  const apart = slow.omega - fast.omega;
  const plausible = fast.decay > 0.05 && fast.decay < 100 && rho > 0.15 && rho < 0.95;
  if (!plausible || Math.abs(apart) > 6 * APART_SD_CENTS * p.perCent) return false;
  out[DECAY] = fast.decay;
  out[RHO] = Math.min(0.85, rho);
  out[APART] = apart;
  out[OMEGA] = p.firstOmega + fast.omega;
  const slowDecay = fast.decay * (1 - out[RHO]!);
  const sizes = solvePair(count, (k, side) => {
    const t = timeS[k]!;
    const a = Math.exp(-fast.decay * t);
    const b = Math.exp(-slowDecay * t);
    side[0] = a * Math.cos(fast.omega * t);
    side[1] = a * Math.sin(fast.omega * t);
    side[2] = b * Math.cos(slow.omega * t);
    side[3] = b * Math.sin(slow.omega * t);
    side[4] = fr[k]!;
    side[5] = fi[k]!;
  });
  if (!sizes) return false;
  for (let i = 0; i < 4; i++) out[i] = sizes[i]!;
  return true;
}

const row = new Float64Array(6);

/** Complex least squares with two unknowns, f = x a + y b: rows of (a, b, f) as real and imaginary parts. */
function solvePair(
  rows: number,
  fill: (k: number, row: Float64Array) => void,
): [number, number, number, number] | undefined {
  let aa = 0;
  let bb = 0;
  let abr = 0;
  let abi = 0;
  let afr = 0;
  let afi = 0;
  let bfr = 0;
  let bfi = 0;
  for (let k = 0; k < rows; k++) {
    fill(k, row);
    const [ar, ai, br, bi, fr, fi] = row as unknown as [number, number, number, number, number, number];
    aa += ar * ar + ai * ai;
    bb += br * br + bi * bi;
    abr += ar * br + ai * bi;
    abi += ar * bi - ai * br;
    afr += ar * fr + ai * fi;
    afi += ar * fi - ai * fr;
    bfr += br * fr + bi * fi;
    bfi += br * fi - bi * fr;
  }
  const det = aa * bb - abr * abr - abi * abi;
  if (!(det > 1e-13 * aa * bb)) return undefined;
  return [
    (bb * afr - abr * bfr + abi * bfi) / det,
    (bb * afi - abr * bfi - abi * bfr) / det,
    (aa * bfr - abr * afr - abi * afi) / det,
    (aa * bfi - abr * afi + abi * afr) / det,
  ];
}
