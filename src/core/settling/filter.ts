import type { HandEvent, SettlingEvent } from './history';
import type { SettlingPrior } from './materials';
import {
  agedStep,
  BACK,
  freeOffset,
  minutesOfAge,
  OFFSET,
  putOff,
  SLOPE,
  STATES,
  stepState,
  WANDER,
  WARMTH,
  type Kept,
} from './process';
import type { CreepShape } from './shapes';

/** One hypothesis: which shape, how strongly bring-ups renew creep, how fast the slope drifts, how much it wanders, what hands took. */
export interface Hypothesis {
  shape: number;
  kappa: number;
  driftShare: number;
  wanderShare: number;
  /** Of what hands took out of the string, how much was ageing. */
  ageingShare: number;
  weight: number;
}

/** Where a hypothesis ends: its state, its covariance, its weight. */
export interface FilterEnd {
  hypothesis: Hypothesis;
  mean: Float64Array;
  /** Row-major, STATES x STATES. */
  cov: Float64Array;
  logLikelihood: number;
  /** Variance of slope drift per unit of the creep clock. */
  q: number;
  /** Stationary sd of the wander, cents. */
  wanderSd: number;
  /** How much older hands have made the string, min. */
  agedMin: number;
}

/** Everything that the hypotheses share: times, clock increments, friction, readings. */
export interface FilterInput {
  prior: SettlingPrior;
  events: SettlingEvent[];
  shape: CreepShape;
  /** Creep clock at every event for the hypothesis' shape and kappa, before hands; [events.length] is at the end. */
  clock: Float64Array;
  /** End of the run, min; the state is carried there. */
  endMin: number;
  /** Was it ever pulled, warmed or played? */
  isTouched: boolean;
  /** What is kept from event i-1 to i (or the end). */
  kept: readonly Kept[];
  /** Extra fall by friction in that time: mean and sd, cents. */
  frictionMean: Float64Array;
  frictionSd: Float64Array;
  /** Temperature of each event against the reference, deg C (0 where unknown). */
  tempC: Float64Array;
  slopeMean: number;
  slopeSd: number;
  /** Slope by which drift is scaled, cents. */
  driftSlope: number;
  wanderSd: number;
}

const READING_VARIANCE = 0.49;
const OUTLIER_VARIANCE = 400;
const AFTER_RETUNE_VARIANCE = 225;
/** Further from its target than so many standard deviations a string that was just tuned was not tuned to that. */
const ELSEWHERE = 3;
/** An as-left reading comes within so long of the tuning, min. */
const AT_ONCE_MIN = 0.1;
/** Where a string stands that was pulled, warmed or played is known this badly, cents² (house). */
const AFTER_HANDS_VARIANCE = 2500;
/** A slope that is not known to be more is taken for at least this share of the material's. */
const LEAST_SLOPE = 0.2;

function normalDensity(v: number, variance: number): number {
  return Math.exp((-0.5 * v * v) / variance) / Math.sqrt(2 * Math.PI * variance);
}

/** The reading that shows what a hand took: the next one before anything else is done. */
function readingAfter(events: readonly SettlingEvent[], i: number): number | undefined {
  const next = events[i + 1];
  return next?.kind === 'read' ? next.cents : undefined;
}

/**
 * Kalman filter of one hypothesis over a string's history (Kalman 1960; outliers by variance inflation), reading
 * y = offset + warmth (T - Tref) + wander + back + e. Constants are house estimates.
 * @param onReading called with each reading's innovation and predicted variance (noise included), in order
 */
export function runFilter(
  input: FilterInput,
  hypothesis: Hypothesis,
  onReading?: (index: number, innovation: number, variance: number) => void,
): FilterEnd {
  const { prior, events, shape, clock, slopeMean, wanderSd } = input;
  const q = (hypothesis.driftShare * input.driftSlope) ** 2;
  const mean = new Float64Array(STATES);
  const cov = new Float64Array(STATES * STATES);
  mean[SLOPE] = slopeMean;
  mean[WARMTH] = prior.tempMean;
  cov[SLOPE * STATES + SLOPE] = input.slopeSd ** 2;
  cov[WARMTH * STATES + WARMTH] = prior.tempSd ** 2;
  cov[WANDER * STATES + WANDER] = wanderSd ** 2;
  freeOffset(mean, cov, 0, AFTER_RETUNE_VARIANCE);
  let agedMin = 0;
  let logLikelihood = 0;
  let lastMin = 0;
  const p = new Float64Array(STATES);
  const states = input.isTouched ? STATES : BACK;

  const handsOn = (event: HandEvent, i: number) => {
    const expected = mean[OFFSET]! + mean[WARMTH]! * input.tempC[i]! + mean[WANDER]! + mean[BACK]!;
    const { mean: off, sd } = putOff(event.kind, prior);
    const read = event.kind === 'warm' ? undefined : readingAfter(events, i);
    const taken = read === undefined ? undefined : hypothesis.ageingShare * (expected - read + off);
    const slope = Math.max(mean[SLOPE]!, LEAST_SLOPE * slopeMean);
    agedMin += minutesOfAge(taken, slope, shape, event.t + agedMin, { event, share: hypothesis.ageingShare, prior });
    mean[BACK]! += off;
    cov[BACK * STATES + BACK]! += sd * sd;
    freeOffset(mean, cov, expected + (read === undefined ? off : 0), AFTER_HANDS_VARIANCE);
  };

  for (let i = 0; i <= events.length; i++) {
    const event = events[i];
    const t = event ? event.t : input.endMin;
    if (t > lastMin) {
      const du = clock[i]! - (i > 0 ? clock[i - 1]! : 0) + agedStep(shape, agedMin, lastMin, t);
      lastMin = t;
      const [frictionMean, frictionSd] = [input.frictionMean[i]!, input.frictionSd[i]!];
      stepState(mean, cov, { kept: input.kept[i]!, du, frictionMean, frictionSd, q, wanderSd }, states);
    }
    if (!event) break;
    if (event.kind === 'retune') {
      // Read far from its target at once, it was tuned to another one, as under another reference.
      const next = events[i + 1];
      const read = next?.kind === 'read' && next.t - event.t < AT_ONCE_MIN ? next.cents : 0;
      const isElsewhere = read * read > ELSEWHERE ** 2 * AFTER_RETUNE_VARIANCE;
      freeOffset(mean, cov, isElsewhere ? read : 0, AFTER_RETUNE_VARIANCE);
      continue;
    }
    if (event.kind !== 'read') {
      handsOn(event, i);
      continue;
    }
    const d = input.tempC[i]!;
    for (let j = 0; j < states; j++) {
      const row = j * STATES;
      p[j] = cov[row]! + d * cov[row + WARMTH]! + cov[row + WANDER]! + cov[row + BACK]!;
    }
    const s0 = p[OFFSET]! + d * p[WARMTH]! + p[WANDER]! + p[BACK]!;
    const v = event.cents - (mean[OFFSET]! + mean[WARMTH]! * d + mean[WANDER]! + mean[BACK]!);
    let noise = Math.max(READING_VARIANCE, (event.sigmaCents ?? 0) ** 2);
    onReading?.(i, v, s0 + noise);
    const density = 0.95 * normalDensity(v, s0 + noise) + 0.05 * normalDensity(v, s0 + OUTLIER_VARIANCE);
    // A figure hundreds of cents off (a typing slip) says nothing of the hypotheses: a floor instead of minus infinity.
    logLikelihood += Math.log(Math.max(density, 1e-12));
    if ((v * v) / (s0 + noise) > 9) noise = Math.min(OUTLIER_VARIANCE, (v * v) / 9);
    for (let j = 0; j < states; j++) {
      const gain = p[j]! / (s0 + noise);
      mean[j]! += gain * v;
      for (let k = 0; k <= j; k++) cov[k * STATES + j] = cov[j * STATES + k]! -= gain * p[k]!;
    }
  }
  return { hypothesis, mean, cov, logLikelihood, q, wanderSd, agedMin };
}
