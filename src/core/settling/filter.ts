import type { SettlingEvent } from './history';

/** One hypothesis: which shape, how strongly bring-ups renew creep, how fast the slope drifts, how much it wanders. */
export interface Hypothesis {
  shape: number;
  kappa: number;
  driftShare: number;
  wanderShare: number;
  weight: number;
}

/** Where a hypothesis ends: state [offset o, slope a, temperature coefficient b, wander m], its covariance, its weight. */
export interface FilterEnd {
  hypothesis: Hypothesis;
  /** o, a, b, m */
  mean: [number, number, number, number];
  /** Row-major 4 x 4. */
  cov: Float64Array;
  logLikelihood: number;
  /** Variance of slope drift per unit of the creep clock. */
  q: number;
  /** Stationary sd of the wander, cents. */
  wanderSd: number;
}

/** Everything that the hypotheses share: times, clock increments, friction, readings. */
export interface FilterInput {
  events: SettlingEvent[];
  /** Creep clock at every event (before it) for the hypothesis' shape and kappa; [events.length] is at the end. */
  clock: Float64Array;
  /** End of the run, min; the state is carried there. */
  endMin: number;
  /** Extra fall by friction between event i-1 and i (or the end): mean and sd, cents. */
  frictionMean: Float64Array;
  frictionSd: Float64Array;
  /** Temperature of each event against the reference, deg C (0 where unknown). */
  tempC: Float64Array;
  slopeMean: number;
  slopeSd: number;
  tempMean: number;
  tempSd: number;
  /** Slope by which drift is scaled, cents. */
  driftSlope: number;
  wanderSd: number;
}

/** Wander forgets itself with this time constant, min. */
export const WANDER_MIN = 360;
const READING_VARIANCE = 0.49;
const OUTLIER_VARIANCE = 400;
const AFTER_RETUNE_VARIANCE = 225;

function normalDensity(v: number, variance: number): number {
  return Math.exp((-0.5 * v * v) / variance) / Math.sqrt(2 * Math.PI * variance);
}

/**
 * Kalman filter of one hypothesis over a string's history (Kalman 1960; outliers by variance inflation), state
 * [o, a, b, m], reading y = o + b (T - Tref) + m + e. Constants are house estimates.
 * @param onReading called with each reading's innovation and predicted variance (noise included), in order
 */
export function runFilter(
  input: FilterInput,
  hypothesis: Hypothesis,
  onReading?: (index: number, innovation: number, variance: number) => void,
): FilterEnd {
  const q = (hypothesis.driftShare * input.driftSlope) ** 2;
  const stationary = input.wanderSd ** 2;
  let o = 0;
  let a = input.slopeMean;
  let b = input.tempMean;
  let m = 0;
  let oo = AFTER_RETUNE_VARIANCE + stationary;
  let oa = 0;
  let ob = 0;
  let om = -stationary;
  let aa = input.slopeSd ** 2;
  let ab = 0;
  let am = 0;
  let bb = input.tempSd ** 2;
  let bm = 0;
  let mm = stationary;
  let logLikelihood = 0;
  let lastMin = 0;
  const count = input.events.length;
  for (let i = 0; i <= count; i++) {
    const event = input.events[i];
    const t = event ? event.t : input.endMin;
    const dt = t - lastMin;
    if (dt > 0) {
      lastMin = t;
      const du = input.clock[i]! - (i > 0 ? input.clock[i - 1]! : 0);
      o -= a * du + input.frictionMean[i]!;
      oo += du * du * aa - 2 * du * oa + (q * du ** 3) / 3 + 0.0625 * Math.min(2, du) + input.frictionSd[i]! ** 2;
      oa -= du * aa + (q * du * du) / 2;
      ob -= du * ab;
      om -= du * am;
      aa += q * du;
      const e = Math.exp(-dt / WANDER_MIN);
      m *= e;
      om *= e;
      am *= e;
      bm *= e;
      mm = mm * e * e + stationary * (1 - e * e);
    }
    if (!event) break;
    if (event.kind === 'retune') {
      o = -m;
      oo = AFTER_RETUNE_VARIANCE + mm;
      oa = 0;
      ob = 0;
      om = -mm;
      continue;
    }
    const d = input.tempC[i]!;
    const po = oo + d * ob + om;
    const pa = oa + d * ab + am;
    const pb = ob + d * bb + bm;
    const pm = om + d * bm + mm;
    const s0 = po + d * pb + pm;
    const v = event.cents - (o + b * d + m);
    let noise = Math.max(READING_VARIANCE, (event.sigmaCents ?? 0) ** 2);
    onReading?.(i, v, s0 + noise);
    const density = 0.95 * normalDensity(v, s0 + noise) + 0.05 * normalDensity(v, s0 + OUTLIER_VARIANCE);
    // A figure hundreds of cents off (a typing slip) says nothing of the hypotheses: a floor instead of minus infinity.
    logLikelihood += Math.log(Math.max(density, 1e-12));
    if ((v * v) / (s0 + noise) > 9) noise = Math.min(OUTLIER_VARIANCE, (v * v) / 9);
    const s = s0 + noise;
    o += (po * v) / s;
    a += (pa * v) / s;
    b += (pb * v) / s;
    m += (pm * v) / s;
    oo -= (po * po) / s;
    oa -= (po * pa) / s;
    ob -= (po * pb) / s;
    om -= (po * pm) / s;
    aa -= (pa * pa) / s;
    ab -= (pa * pb) / s;
    am -= (pa * pm) / s;
    bb -= (pb * pb) / s;
    bm -= (pb * pm) / s;
    mm -= (pm * pm) / s;
  }
  return {
    hypothesis,
    mean: [o, a, b, m],
    cov: Float64Array.of(oo, oa, ob, om, oa, aa, ab, am, ob, ab, bb, bm, om, am, bm, mm),
    logLikelihood,
    q,
    wanderSd: input.wanderSd,
  };
}
