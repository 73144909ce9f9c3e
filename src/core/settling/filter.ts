import { normalDensity } from '../base';
import { likeliest, merged, shares, type Belief } from './belief';
import type { HandEvent, SettlingEvent } from './history';
import type { SettlingPrior } from './materials';
import { ELSEWHERE_CHANCE, GROSS_CHANCE, grossDensity, MOVED_SD_CENTS, movedChance, moveDensity } from './move';
import {
  agedStep,
  BACK,
  freeOffset,
  OFFSET,
  SLOPE,
  STATES,
  stepState,
  WANDER,
  WARMTH,
  type Remaining,
} from './process';
import type { CreepShape } from './shapes';
import { minutesOfAge, putOff } from './hands';

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

/** Where a hypothesis ends; where its newest figure is doubted there is one end for each way to take it. */
export interface FilterEnd extends Belief {
  hypothesis: Hypothesis;
  /** Variance of slope drift per unit of the creep clock. */
  q: number;
  /** Stationary sd of the wander, cents. */
  wanderSd: number;
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
  kept: readonly Remaining[];
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
/** What a hand leaves a string at, and reads at once, lies so near its target, cents² (house). */
const LEFT_VARIANCE = 16;
/** An as-left reading comes within so long of the tuning, min. */
const AT_ONCE_MIN = 0.1;
/** Where a string stands that was pulled, warmed or played is known this badly, cents² (house). */
const AFTER_HANDS_VARIANCE = 2500;
/** A slope that is not known to be more is taken for at least this share of the material's. */
const LEAST_SLOPE = 0.2;

/** The reading that shows what a hand took: the next one before anything else is done. */
function readingAfter(events: readonly SettlingEvent[], i: number): number | undefined {
  const next = events[i + 1];
  return next?.kind === 'read' ? next.cents : undefined;
}

/** What is surprising beyond so many standard deviations is a move, a wrong figure, or a law that does not fit. */
const SURPRISE = 3;
const LEAST_DENSITY = 1e-12;

/**
 * Kalman filter of one hypothesis over a string's history (Kalman 1960), reading y = offset + warmth (T - Tref) + wander + back + e.
 * A surprising figure divides what is believed (a Gaussian sum, Alspach and Sorenson 1972): the law does not fit so well, the string moved
 * at once, or the figure is wrong; what is read next tells. Constants are house estimates.
 * @param onReading called with each reading's innovation and predicted variance (noise included), in order
 */
export function runFilter(
  input: FilterInput,
  hypothesis: Hypothesis,
  onReading?: (index: number, innovation: number, variance: number) => void,
): FilterEnd[] {
  const { prior, events, shape, clock, slopeMean, wanderSd } = input;
  const q = (hypothesis.driftShare * input.driftSlope) ** 2;
  const states = input.isTouched ? STATES : BACK;
  const p = new Float64Array(STATES);
  let lastMin = 0;
  let readMin = 0;
  /** It has just been tuned, and is read at once. */
  let isLeft = false;

  const begin = (): Belief => {
    const mean = new Float64Array(STATES);
    const cov = new Float64Array(STATES * STATES);
    mean[SLOPE] = slopeMean;
    mean[WARMTH] = prior.tempMean;
    cov[SLOPE * STATES + SLOPE] = input.slopeSd ** 2;
    cov[WARMTH * STATES + WARMTH] = prior.tempSd ** 2;
    cov[WANDER * STATES + WANDER] = wanderSd ** 2;
    freeOffset(mean, cov, 0, AFTER_RETUNE_VARIANCE);
    return { mean, cov, logLikelihood: 0, agedMin: 0 };
  };
  let beliefs: Belief[] = [begin()];

  const expectedAt = ({ mean }: Belief, d: number): number =>
    mean[OFFSET]! + mean[WARMTH]! * d + mean[WANDER]! + mean[BACK]!;

  const handsOn = (b: Belief, event: HandEvent, i: number) => {
    const { mean, cov } = b;
    const expected = expectedAt(b, input.tempC[i]!);
    const { mean: off, sd } = putOff(event.kind, prior);
    const read = event.kind === 'warm' ? undefined : readingAfter(events, i);
    const taken = read === undefined ? undefined : hypothesis.ageingShare * (expected - read + off);
    const slope = Math.max(mean[SLOPE]!, LEAST_SLOPE * slopeMean);
    const at = { event, share: hypothesis.ageingShare, prior };
    b.agedMin += minutesOfAge(taken, slope, shape, event.t + b.agedMin, at);
    mean[BACK]! += off;
    cov[BACK * STATES + BACK]! += sd * sd;
    freeOffset(mean, cov, expected + (read === undefined ? off : 0), AFTER_HANDS_VARIANCE);
  };

  /** How the state goes with what is read at a temperature, into p. @returns the variance of what is expected, without noise */
  const look = ({ cov }: Belief, d: number): number => {
    for (let j = 0; j < states; j++) {
      const row = j * STATES;
      p[j] = cov[row]! + d * cov[row + WARMTH]! + cov[row + WANDER]! + cov[row + BACK]!;
    }
    return p[OFFSET]! + d * p[WARMTH]! + p[WANDER]! + p[BACK]!;
  };
  /** Takes a figure in, in place. */
  const update = (b: Belief, v: number, d: number, noise: number): Belief => {
    const { mean, cov } = b;
    const s = look(b, d) + noise;
    for (let j = 0; j < states; j++) {
      const gain = p[j]! / s;
      mean[j]! += gain * v;
      for (let k = 0; k <= j; k++) cov[k * STATES + j] = cov[j * STATES + k]! -= gain * p[k]!;
    }
    return b;
  };
  const copyOf = (b: Belief, density: number): Belief => ({
    mean: Float64Array.from(b.mean),
    cov: Float64Array.from(b.cov),
    agedMin: b.agedMin,
    // A figure that nothing explains says nothing of the hypotheses: a floor instead of minus infinity.
    logLikelihood: b.logLikelihood + Math.log(Math.max(density, LEAST_DENSITY)),
  });

  type Read = Extract<SettlingEvent, { kind: 'read' }>;
  const readInto = (b: Belief, event: Read, d: number): Belief[] => {
    const v = event.cents - expectedAt(b, d);
    const s0 = look(b, d);
    const noise = Math.max(READING_VARIANCE, (event.sigmaCents ?? 0) ** 2);
    const ordinary = 0.95 * normalDensity(v, s0 + noise);
    const z2 = (v * v) / (s0 + noise);
    if (z2 <= SURPRISE ** 2) {
      b.logLikelihood += Math.log(ordinary + 0.05 * normalDensity(v, s0 + OUTLIER_VARIANCE));
      return [update(b, v, d, noise)];
    }
    const chance = isLeft ? ELSEWHERE_CHANCE : movedChance(event.t - readMin);
    const moved = copyOf(b, chance * moveDensity(v, s0 + noise));
    moved.cov[OFFSET]! += MOVED_SD_CENTS ** 2;
    const wide = Math.min(OUTLIER_VARIANCE, (v * v) / SURPRISE ** 2);
    return [
      update(copyOf(b, ordinary), v, d, Math.max(noise, wide)),
      update(moved, v, d, noise),
      copyOf(b, GROSS_CHANCE[event.source ?? 'unknown'] * grossDensity(v, s0 + noise)),
    ];
  };
  /** How far a figure lies from what was expected: by those beliefs that it bears out, where several stood. */
  const tellReading = (i: number, event: Read, d: number) => {
    if (!onReading) return;
    const w = shares(beliefs);
    const noise = Math.max(READING_VARIANCE, (event.sigmaCents ?? 0) ** 2);
    const seen = beliefs.map((b, k) => {
      const v = event.cents - expectedAt(b, d);
      const variance = look(b, d) + noise;
      return { v, variance, share: w[k]! * Math.max(LEAST_DENSITY, normalDensity(v, variance)) };
    });
    const total = seen.reduce((sum, x) => sum + x.share, 0);
    const mean = seen.reduce((sum, x) => sum + x.share * x.v, 0) / total;
    const square = seen.reduce((sum, x) => sum + x.share * (x.v * x.v + x.variance), 0) / total;
    onReading(i, mean, square - mean * mean);
  };

  for (let i = 0; i <= events.length; i++) {
    const event = events[i];
    const t = event ? event.t : input.endMin;
    if (t > lastMin) {
      const clockStep = clock[i]! - (i > 0 ? clock[i - 1]! : 0);
      const [frictionMean, frictionSd] = [input.frictionMean[i]!, input.frictionSd[i]!];
      for (const { mean, cov, agedMin } of beliefs) {
        const du = clockStep + agedStep(shape, agedMin, lastMin, t);
        stepState(mean, cov, { kept: input.kept[i]!, du, frictionMean, frictionSd, q, wanderSd }, states);
      }
      lastMin = t;
    }
    if (!event) break;
    if (event.kind === 'retune') {
      // Where it stood before no longer matters.
      const one = merged(beliefs);
      beliefs = [one];
      // A hand that reads at once what it has done brings a string near its target; of another nobody knows.
      const next = events[i + 1];
      const read = next?.kind === 'read' && next.t - event.t < AT_ONCE_MIN ? next.cents : undefined;
      isLeft = read !== undefined && !event.anywhere;
      // What was moved anywhere stands where it is read.
      freeOffset(one.mean, one.cov, event.anywhere ? (read ?? 0) : 0, isLeft ? LEFT_VARIANCE : AFTER_RETUNE_VARIANCE);
      continue;
    }
    if (event.kind !== 'read') {
      for (const b of beliefs) handsOn(b, event, i);
      continue;
    }
    const d = input.tempC[i]!;
    tellReading(i, event, d);
    beliefs = likeliest(beliefs.flatMap((b) => readInto(b, event, d)));
    readMin = event.t;
    isLeft = false;
  }
  return beliefs.map((b) => ({ ...b, hypothesis, q, wanderSd }));
}
