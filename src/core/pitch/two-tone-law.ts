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
/** What the partials of a note share, in this order: the sharp start's size in cents and the logarithm of its time constant, */
export const GLIDE = 0;
export const LN_TAU = 1;
/** and where their second polarisations lie on the whole: cents from the first, share of the decay they are spared. */
export const APART_MEAN = 2;
export const RHO_MEAN = 3;
export const SHARED = 4;
export const ALL = OWN + SHARED;

/** Second polarisation against the first at the onset: standard deviation of its real and of its imaginary part. */
const SECOND_SD = 0.22;
/** How far one partial's second polarisation lies from their mean: share of the decay, cents. */
const RHO_SD = 0.08;
const APART_SD_CENTS = 0.15;
/** Bounds of that share. */
export const LEAST_RHO = 0.1;
export const MOST_RHO = 0.9;
/** The decay against its first estimate, which the slower tone has flattened: mean and spread, as shares. */
const DECAY_MEAN = 1.2;
const DECAY_SD = 0.7;

/** A partial has at most this many frames. */
export const MOST_FRAMES = 48;

/** A partial's frames, its parameters and the work space of its fit. Amplitudes are relative to the first frame. */
export interface TwoTone {
  n: number;
  carrierHz: number;
  count: number;
  /** The first so many stand above the noise; what the others cost at most where the law holds. */
  sure: number;
  surplus: number;
  /** s from the onset */
  timeS: Float64Array;
  re: Float64Array;
  im: Float64Array;
  /** Unwrapped, rad. */
  phase: Float64Array;
  /** Freed of the sharp start `freedOf` (size, time constant); phase per cent of its size, and per unit of ln tau. */
  freedOf: Float64Array;
  freeRe: Float64Array;
  freeIm: Float64Array;
  perGlide: Float64Array;
  perLnTau: Float64Array;
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
  /** Cholesky factor of the own block, with the rows of the shared parameters; and the forward-solved right side. */
  factor: Float64Array;
  right: Float64Array;
}

/** Normal equations: curvature ALL x ALL row by row, lower triangle; pull, which is minus the gradient. */
export interface Equations {
  hessian: Float64Array;
  gradient: Float64Array;
}
export const equations = (): Equations => ({ hessian: new Float64Array(ALL * ALL), gradient: new Float64Array(ALL) });

/** Frees the frames of the sharp start: in `freeRe`, `freeIm` both tones turn evenly. */
function unbend(p: TwoTone, shared: Float64Array): void {
  const g = shared[GLIDE]!;
  const tau = Math.exp(shared[LN_TAU]!);
  if (p.freedOf[0] === g && p.freedOf[1] === tau) return;
  p.freedOf[0] = g;
  p.freedOf[1] = tau;
  const { timeS, re, im, perCent, freeRe, freeIm, perGlide, perLnTau } = p;
  for (let k = 0; k < p.count; k++) {
    const t = timeS[k]!;
    const left = Math.exp(-t / tau);
    const h = tau * (1 - left);
    perGlide[k] = perCent * h;
    perLnTau[k] = perCent * g * (h - t * left);
    const c = Math.cos(g * perGlide[k]!);
    const s = Math.sin(g * perGlide[k]!);
    freeRe[k] = re[k]! * c + im[k]! * s;
    freeIm[k] = im[k]! * c - re[k]! * s;
  }
}

/*
 * Every own slope of the law is (alpha E + beta F) t^q, E and F the two tones of size one, alpha and beta constants of the
 * parameter, q 0 or 1: so the frames are summed once for each power of t, whatever the parameters.
 */
const POWER_OF_T = [0, 0, 0, 0, 1, 1, 1, 1];
const alphaRe = new Float64Array(OWN);
const alphaIm = new Float64Array(OWN);
const betaRe = new Float64Array(OWN);
const betaIm = new Float64Array(OWN);
/** Sums of w t^q |E|^2, w t^q |F|^2 and w t^q E* F, q 0 to 2; of w t^q E* r and w t^q F* r, real and imaginary, q 0 to 1. */
const sumE = new Float64Array(3);
const sumF = new Float64Array(3);
const sumRe = new Float64Array(3);
const sumIm = new Float64Array(3);
const pullE = new Float64Array(4);
const pullF = new Float64Array(4);
/** E, F and what is left of each frame, real and imaginary by turns. */
const toneE = new Float64Array(2 * MOST_FRAMES);
const toneF = new Float64Array(2 * MOST_FRAMES);
const rest = new Float64Array(2 * MOST_FRAMES);

function setSlope(i: number, aRe: number, aIm: number, bRe: number, bIm: number): void {
  alphaRe[i] = aRe;
  alphaIm[i] = aIm;
  betaRe[i] = bRe;
  betaIm[i] = bIm;
}

/** Cost of parameters `own` at the shared ones, and the own block of the normal equations. */
export function evaluate(p: TwoTone, own: Float64Array, shared: Float64Array, into: Equations): number {
  unbend(p, shared);
  const ur = own[U_RE]!;
  const ui = own[U_IM]!;
  const vr = own[V_RE]!;
  const vi = own[V_IM]!;
  const decay = own[DECAY]!;
  const rho = own[RHO]!;
  const apart = own[APART]!;
  const omega = own[OMEGA]!;
  const { timeS, freeRe, freeIm, weight, perCent } = p;
  // The frames are equally spaced: both tones turn and shrink by the same factor each.
  const t0 = timeS[0]!;
  const spacing = timeS[1]! - t0;
  const slow = decay * (1 - rho);
  const turn1r = Math.exp(-decay * spacing) * Math.cos(omega * spacing);
  const turn1i = Math.exp(-decay * spacing) * Math.sin(omega * spacing);
  const turn2r = Math.exp(-slow * spacing) * Math.cos((omega + apart) * spacing);
  const turn2i = Math.exp(-slow * spacing) * Math.sin((omega + apart) * spacing);
  let er = Math.exp(-decay * t0) * Math.cos(omega * t0);
  let ei = Math.exp(-decay * t0) * Math.sin(omega * t0);
  let fr = Math.exp(-slow * t0) * Math.cos((omega + apart) * t0);
  let fi = Math.exp(-slow * t0) * Math.sin((omega + apart) * t0);
  let cost = 0;
  // Sums in plain variables: the hottest loop of the whole estimator.
  let e0 = 0, e1 = 0, e2 = 0, f0 = 0, f1 = 0, f2 = 0; // prettier-ignore
  let c0 = 0, c1 = 0, c2 = 0, s0 = 0, s1 = 0, s2 = 0; // prettier-ignore
  let pe0r = 0, pe0i = 0, pe1r = 0, pe1i = 0, pf0r = 0, pf0i = 0, pf1r = 0, pf1i = 0; // prettier-ignore
  for (let k = 0; k < p.count; k++) {
    const rr = freeRe[k]! - ur * er + ui * ei - vr * fr + vi * fi;
    const ri = freeIm[k]! - ur * ei - ui * er - vr * fi - vi * fr;
    const w = weight[k]!;
    const t = timeS[k]!;
    toneE[2 * k] = er;
    toneE[2 * k + 1] = ei;
    toneF[2 * k] = fr;
    toneF[2 * k + 1] = fi;
    rest[2 * k] = rr;
    rest[2 * k + 1] = ri;
    cost += w * (rr * rr + ri * ri);
    let x = w * (er * er + ei * ei);
    e0 += x;
    e1 += x *= t;
    e2 += x * t;
    x = w * (fr * fr + fi * fi);
    f0 += x;
    f1 += x *= t;
    f2 += x * t;
    x = w * (er * fr + ei * fi);
    c0 += x;
    c1 += x *= t;
    c2 += x * t;
    x = w * (er * fi - ei * fr);
    s0 += x;
    s1 += x *= t;
    s2 += x * t;
    x = w * (er * rr + ei * ri);
    pe0r += x;
    pe1r += x * t;
    x = w * (er * ri - ei * rr);
    pe0i += x;
    pe1i += x * t;
    x = w * (fr * rr + fi * ri);
    pf0r += x;
    pf1r += x * t;
    x = w * (fr * ri - fi * rr);
    pf0i += x;
    pf1i += x * t;
    const nextE = er * turn1r - ei * turn1i;
    ei = er * turn1i + ei * turn1r;
    er = nextE;
    const nextF = fr * turn2r - fi * turn2i;
    fi = fr * turn2i + fi * turn2r;
    fr = nextF;
  }
  cost *= 0.5;
  store(sumE, e0, e1, e2);
  store(sumF, f0, f1, f2);
  store(sumRe, c0, c1, c2);
  store(sumIm, s0, s1, s2);
  store(pullE, pe0r, pe0i, pe1r, pe1i);
  store(pullF, pf0r, pf0i, pf1r, pf1i);
  setSlope(U_RE, 1, 0, 0, 0);
  setSlope(U_IM, 0, 1, 0, 0);
  setSlope(V_RE, 0, 0, 1, 0);
  setSlope(V_IM, 0, 0, 0, 1);
  setSlope(DECAY, -ur, -ui, (rho - 1) * vr, (rho - 1) * vi);
  setSlope(RHO, 0, 0, decay * vr, decay * vi);
  setSlope(APART, 0, 0, -vi, vr);
  setSlope(OMEGA, -ui, ur, -vi, vr);
  assemble(into);
  const power = ur * ur + ui * ui;
  const secondWorth = 1 / (SECOND_SD ** 2 * power);
  const apartWorth = 1 / (APART_SD_CENTS * perCent) ** 2;
  const rhoWorth = 1 / RHO_SD ** 2;
  const decayWorth = 1 / (DECAY_SD * p.firstDecay) ** 2;
  const offRho = rho - shared[RHO_MEAN]!;
  const offApart = apart - shared[APART_MEAN]! * perCent;
  const offDecay = decay - DECAY_MEAN * p.firstDecay;
  addPrior(into, V_RE, secondWorth, vr);
  addPrior(into, V_IM, secondWorth, vi);
  addPrior(into, DECAY, decayWorth, offDecay);
  addPrior(into, RHO, rhoWorth, offRho);
  addPrior(into, APART, apartWorth, offApart);
  return (
    cost +
    Math.log(power) +
    0.5 *
      (secondWorth * (vr * vr + vi * vi) +
        apartWorth * offApart * offApart +
        rhoWorth * offRho * offRho +
        decayWorth * offDecay * offDecay)
  );
}

function addPrior({ hessian, gradient }: Equations, i: number, worth: number, off: number): void {
  hessian[i * ALL + i]! += worth;
  gradient[i]! -= worth * off;
}

function store(into: Float64Array, a: number, b: number, c: number, d = 0): void {
  into[0] = a;
  into[1] = b;
  into[2] = c;
  if (into.length > 3) into[3] = d;
}

/** From the sums over the frames to the own block. */
function assemble({ hessian, gradient }: Equations): void {
  for (let i = 0; i < OWN; i++) {
    const ar = alphaRe[i]!;
    const ai = alphaIm[i]!;
    const br = betaRe[i]!;
    const bi = betaIm[i]!;
    const q = POWER_OF_T[i]!;
    gradient[i] = ar * pullE[2 * q]! + ai * pullE[2 * q + 1]! + br * pullF[2 * q]! + bi * pullF[2 * q + 1]!;
    for (let j = 0; j <= i; j++) {
      const both = q + POWER_OF_T[j]!;
      const cr = alphaRe[j]!;
      const ci = alphaIm[j]!;
      const dr = betaRe[j]!;
      const di = betaIm[j]!;
      hessian[i * ALL + j] =
        (ar * cr + ai * ci) * sumE[both]! +
        (br * dr + bi * di) * sumF[both]! +
        (ar * dr + ai * di + br * cr + bi * ci) * sumRe[both]! -
        (ar * di - ai * dr - br * ci + bi * cr) * sumIm[both]!;
    }
  }
}

/** After `evaluate` of the own parameters: the rows of the shared ones. */
export function addSharedRows(p: TwoTone, shared: Float64Array, { hessian, gradient }: Equations): void {
  const { own, weight, timeS, perGlide, perLnTau, perCent } = p;
  hessian.fill(0, OWN * ALL);
  gradient.fill(0, OWN);
  const g = OWN + GLIDE;
  const tau = OWN + LN_TAU;
  for (let k = 0; k < p.count; k++) {
    const er = toneE[2 * k]!;
    const ei = toneE[2 * k + 1]!;
    const fr = toneF[2 * k]!;
    const fi = toneF[2 * k + 1]!;
    const sr = p.freeRe[k]! - rest[2 * k]!;
    const si = p.freeIm[k]! - rest[2 * k + 1]!;
    const w = weight[k]!;
    // The slope by the phase: i s.
    const pull = w * (sr * rest[2 * k + 1]! - si * rest[2 * k]!);
    gradient[g]! += perGlide[k]! * pull;
    gradient[tau]! += perLnTau[k]! * pull;
    const power = w * (sr * sr + si * si);
    hessian[g * ALL + g]! += perGlide[k]! ** 2 * power;
    hessian[tau * ALL + g]! += perLnTau[k]! * perGlide[k]! * power;
    hessian[tau * ALL + tau]! += perLnTau[k]! ** 2 * power;
    for (let j = 0; j < OWN; j++) {
      const dr = alphaRe[j]! * er - alphaIm[j]! * ei + betaRe[j]! * fr - betaIm[j]! * fi;
      const di = alphaRe[j]! * ei + alphaIm[j]! * er + betaRe[j]! * fi + betaIm[j]! * fr;
      const both = w * (sr * di - si * dr) * (POWER_OF_T[j] ? timeS[k]! : 1);
      hessian[g * ALL + j]! += perGlide[k]! * both;
      hessian[tau * ALL + j]! += perLnTau[k]! * both;
    }
  }
  const addMean = (which: number, of: number, sd: number, scale: number): void => {
    const i = OWN + which;
    const worth = scale / sd ** 2;
    hessian[i * ALL + i] = worth * scale;
    hessian[i * ALL + of] = -worth;
    gradient[i] = worth * (own[of]! - shared[which]! * scale);
  };
  addMean(RHO_MEAN, RHO, RHO_SD, 1);
  addMean(APART_MEAN, APART, APART_SD_CENTS * perCent, perCent);
}
