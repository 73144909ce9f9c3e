import { mean, sum } from 'simple-statistics';
import { runFilter, type FilterEnd, type FilterInput, type Hypothesis } from './filter';
import { inOrder, retunesOf, type Retune, type StringHistory } from './history';
import { SETTLING_PRIORS, type SettlingPrior } from './materials';
import { agedStep, creepClock, frictionBetween, keptOver, SLOPE } from './process';
import { creepShapes, type CreepShape } from './shapes';
import { AGEING_SHARES } from './hands';

/** One surviving hypothesis with its share of belief. */
export interface Component extends FilterEnd {
  share: number;
}

/** What the record says of a string at one moment: a mixture over the hypotheses. */
export interface SettlingFit {
  prior: SettlingPrior;
  nowMin: number;
  /** When it was read last, min; at its beginning where it never was. */
  readMin: number;
  components: Component[];
  shapes: CreepShape[];
  retunes: Retune[];
  /** Was it ever pulled, warmed or played? */
  isTouched: boolean;
  thermometer: boolean;
  /** Temperature against the reference at the last reading, deg C. */
  lastTempC: number;
  /** Variance of the room's temperature, (deg C)^2. */
  tempVariance: number;
  /** For each event, in order of time, the surprise of its reading: innovation and its variance, averaged over hypotheses; null for others. */
  surprises: ({ innovationCents: number; varianceCents2: number } | null)[];
}

/** Where no hand has taken anything. */
const NOTHING_TAKEN: typeof AGEING_SHARES = [[0, 1]];
const KAPPAS: [number, number][] = [
  [0, 0.7],
  [1, 0.3],
];
const DRIFTS: [number, number][] = [
  [0.05, 0.45],
  [0.2, 0.4],
  [0.5, 0.15],
];
const WANDERS: [number, number][] = [
  [0.2, 0.3],
  [0.5, 0.4],
  [1, 0.3],
];
const ROOM_SD_C = 1.1;
/** How far the creep clock of a component goes on between two ages after the last event; each kind of clock is read once. */
export function clockSteps(
  { shapes, retunes }: SettlingFit,
  fromMin: number,
  toMin: number,
): (c: Pick<FilterEnd, 'hypothesis' | 'agedMin'>) => number {
  const steps = new Map<string, number>();
  return ({ hypothesis: { shape, kappa }, agedMin }) => {
    const key = `${shape}/${kappa}`;
    const own = shapes[shape]!;
    const du = steps.get(key) ?? creepClock(own, kappa, retunes, toMin) - creepClock(own, kappa, retunes, fromMin);
    steps.set(key, du);
    return du + agedStep(own, agedMin, fromMin, toMin);
  };
}

function normalise(ends: FilterEnd[]): Component[] {
  const top = Math.max(...ends.map((e) => e.logLikelihood));
  const raw = ends.map((e) => e.hypothesis.weight * Math.exp(e.logLikelihood - top));
  const total = sum(raw);
  return ends.map((e, i) => ({ ...e, share: raw[i]! / total }));
}

/** How much each hypothesis is believed, however many ends it has. */
function sharesOf(components: readonly Component[]): (hypothesis: Hypothesis) => number {
  const shares = new Map<Hypothesis, number>();
  for (const { hypothesis, share } of components) shares.set(hypothesis, (shares.get(hypothesis) ?? 0) + share);
  return (hypothesis) => shares.get(hypothesis) ?? 0;
}

/**
 * Fits a string's whole history: a Kalman filter for each hypothesis (shape of creep, renewal, drift, wander), averaged
 * by likelihood times prior weight, in two passes. House design, measured in bench/forecast.
 * @param nowMin min since strung at which the state is wanted, not before the last event
 */
export function fitSettling(history: StringHistory, nowMin: number): SettlingFit {
  const prior = history.prior ?? SETTLING_PRIORS[history.material];
  const events = inOrder(history.events);
  const isTouched = events.some((e) => e.kind !== 'read' && e.kind !== 'retune');
  const shapes = creepShapes(prior);
  const retunes = retunesOf(events);
  const temps = events.flatMap((e) => (e.kind === 'read' && e.tempC !== undefined ? [e.tempC] : []));
  const reads = events.filter((e) => e.kind === 'read').length;
  const thermometer = temps.length > 0 && temps.length >= 0.6 * reads;
  const refC = thermometer ? mean(temps) : 0;
  const tempC = new Float64Array(events.length);
  let lastTempC = 0;
  events.forEach((e, i) => {
    if (e.kind === 'read' && e.tempC !== undefined && thermometer) lastTempC = e.tempC - refC;
    tempC[i] = lastTempC;
  });
  const times = [...events.map((e) => e.t), nowMin];
  const frictionMean = new Float64Array(times.length);
  const frictionSd = new Float64Array(times.length);
  times.forEach((t, i) => {
    const f = frictionBetween(retunes, i > 0 ? times[i - 1]! : 0, t);
    frictionMean[i] = f.mean;
    frictionSd[i] = f.sd;
  });
  const kept = times.map((t, i) => keptOver(t - (i > 0 ? times[i - 1]! : 0)));
  const clocks = new Map<string, Float64Array>();
  const clockFor = (shape: number, kappa: number): Float64Array => {
    const key = `${shape}/${kappa}`;
    let c = clocks.get(key);
    if (!c) clocks.set(key, (c = Float64Array.from(times, (t) => creepClock(shapes[shape]!, kappa, retunes, t))));
    return c;
  };
  const wanderUnit = thermometer ? prior.wanderCents : Math.hypot(prior.wanderCents, ROOM_SD_C * prior.tempMean);
  const slopeMean = prior.slopeCents * Math.exp(prior.slopeSpread ** 2 / 2);
  const slopeSd = prior.slopeCents * Math.min(0.9, Math.sqrt(Math.expm1(prior.slopeSpread ** 2)));
  const inputFor = (h: Hypothesis, driftSlope: number): FilterInput => ({
    prior,
    events,
    shape: shapes[h.shape]!,
    clock: clockFor(h.shape, h.kappa),
    endMin: nowMin,
    isTouched,
    kept,
    frictionMean,
    frictionSd,
    tempC,
    slopeMean,
    slopeSd,
    driftSlope,
    wanderSd: h.wanderShare * wanderUnit,
  });

  const first: Hypothesis[] = [];
  shapes.forEach((s, shape) => {
    for (const [kappa, kw] of KAPPAS)
      for (const [driftShare, dw] of DRIFTS)
        for (const [ageingShare, aw] of isTouched ? AGEING_SHARES : NOTHING_TAKEN)
          first.push({ shape, kappa, driftShare, wanderShare: 0.5, ageingShare, weight: s.weight * kw * dw * aw });
  });
  const pass1 = normalise(first.flatMap((h) => runFilter(inputFor(h, prior.slopeCents), h)));
  const meanSlope = sum(pass1.map((c) => c.share * c.mean[SLOPE]!));
  const driftSlope = Math.min(6 * prior.slopeCents, Math.max(0.25 * prior.slopeCents, Math.abs(meanSlope)));
  const believed = sharesOf(pass1);
  const second = first
    .filter((h) => believed(h) >= 0.002)
    .flatMap((h) => WANDERS.map(([wanderShare, ww]): Hypothesis => ({ ...h, wanderShare, weight: h.weight * ww })));
  const innovations: number[][] = second.map(() => []);
  const variances: number[][] = second.map(() => []);
  const ends = second.map((h, k) =>
    runFilter(inputFor(h, driftSlope), h, (i, v, s) => {
      innovations[k]![i] = v;
      variances[k]![i] = s;
    }),
  );
  const components = normalise(ends.flat());
  const beliefs = second.map(sharesOf(components));
  const surprises = events.map((e, i) => {
    if (e.kind !== 'read') return null;
    let v = 0;
    let square = 0;
    beliefs.forEach((share, k) => {
      v += share * innovations[k]![i]!;
      square += share * (innovations[k]![i]! ** 2 + variances[k]![i]!);
    });
    return { innovationCents: v, varianceCents2: square - v * v };
  });
  const tempMeanC = thermometer ? mean(temps) : 0;
  const spread = thermometer ? sum(temps.map((t) => (t - tempMeanC) ** 2)) : 0;
  const n = thermometer ? temps.length : 0;
  return {
    prior,
    nowMin,
    readMin: events.findLast((e) => e.kind === 'read')?.t ?? 0,
    components,
    shapes,
    retunes,
    isTouched,
    thermometer,
    lastTempC,
    tempVariance: (6 * ROOM_SD_C ** 2 + spread) / (6 + n),
    surprises,
  };
}
