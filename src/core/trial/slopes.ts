import { mean, sum } from 'simple-statistics';
import { creepShapes, SETTLING_PRIORS, type SettlingMaterial, type SettlingPrior } from '../settling';

/** Total fall of a string at an age: min since strung, cents (flat positive). */
export interface TrialReading {
  t: number;
  fall: number;
  /** Of the room, deg C, where it was read. */
  tempC?: number | undefined;
}

/** A string's slope against a shape of creep, cents per e-fold of age, with its standard error. */
export interface Slope {
  slope: number;
  sigma: number;
  readings: number;
}

/** A line through two points tells nothing of its error. */
export const FEWEST_READINGS = 3;
/** Smallest standard error of one reading, cents (house estimate). */
const READING_CENTS = 0.3;
/** Residuals beyond this many standard errors lose weight (Huber's k). */
const HUBER = 2;

interface Line {
  slope: number;
  /** Sum of weighted squares about the line. */
  rest: number;
  /** Sum of weighted squares of the regressor about its mean. */
  spread: number;
  at: (x: number) => number;
}

/** Straight line by least squares with Huber weights (Huber 1964), the scale given. */
function robustLine(x: readonly number[], y: readonly number[], scale: number): Line {
  let w = x.map(() => 1);
  let line: Line = { slope: 0, rest: 0, spread: 0, at: () => 0 };
  for (let round = 0; round < 4; round++) {
    const total = sum(w);
    const mx = sum(w.map((v, i) => v * x[i]!)) / total;
    const my = sum(w.map((v, i) => v * y[i]!)) / total;
    const spread = sum(w.map((v, i) => v * (x[i]! - mx) ** 2));
    const slope = sum(w.map((v, i) => v * (x[i]! - mx) * (y[i]! - my))) / spread;
    const residuals = y.map((v, i) => v - my - slope * (x[i]! - mx));
    line = {
      slope,
      rest: sum(w.map((v, i) => v * residuals[i]! ** 2)),
      spread,
      at: (v) => my + slope * (v - mx),
    };
    w = residuals.map((r) => Math.min(1, (HUBER * scale) / Math.max(Math.abs(r), 1e-9)));
  }
  return line;
}

/** Warmth is taken off in so many turns between slopes and cents a degree. */
const WARMTH_TURNS = 8;

/** Degrees against a string's own middle; none where not every reading has its temperature. */
function warmer(string: readonly TrialReading[]): number[] {
  const temps = string.flatMap((r) => r.tempC ?? []);
  return temps.length < string.length ? string.map(() => 0) : temps.map((c) => c - mean(temps));
}

/**
 * What a degree does to all these strings alike, cents (sharp positive), by what their lines leave and what is usual for the material.
 * @param left falls less their lines, by string
 */
function centsPerC(left: readonly number[][], degrees: readonly number[][], sigma: number, usual: SettlingPrior) {
  const flat = degrees.flat();
  const held = (sigma / usual.tempSd) ** 2;
  const weight = sum(flat.map((d) => d * d)) + held;
  const told = sum(left.flat().map((r, i) => -r * flat[i]!)) + held * usual.tempMean;
  return { cents: told / weight, sd: sigma / Math.sqrt(weight) };
}

/**
 * Slopes of many strings against one common shape of creep, the one of the grid that fits all of them best, so that the
 * ratio of two slopes holds at any age. Errors come from the residuals of all strings together.
 * @param strings readings of each string, oldest first, at least three at different ages
 * @returns slopes in the same order
 */
export function slopesOf(strings: readonly (readonly TrialReading[])[], material: SettlingMaterial): Slope[] {
  const prior = SETTLING_PRIORS[material];
  const degrees = strings.map(warmer);
  const freedom = Math.max(1, sum(strings.map((s) => s.length - 2)));
  let best: Fitted | undefined;
  for (const { f } of creepShapes(prior)) {
    const fitted = fitShape(
      strings.map((s) => s.map((r) => f(r.t))),
      strings.map((s) => s.map((r) => r.fall)),
      degrees,
      freedom,
      prior,
    );
    if (!best || fitted.sigma < best.sigma) best = fitted;
  }
  const { lines, sigma, sways, warmthSd } = best!;
  return lines.map((l, i) => ({
    slope: l.slope,
    sigma: Math.hypot(sigma / Math.sqrt(l.spread), sways[i]! * warmthSd),
    readings: strings[i]!.length,
  }));
}

interface Fitted {
  lines: Line[];
  /** Standard error of a reading, cents. */
  sigma: number;
  /** What a cent a degree more would make of each slope. */
  sways: number[];
  warmthSd: number;
}

/** All strings against one shape of creep: lines and warmth in turns. */
function fitShape(
  xs: readonly number[][],
  falls: readonly number[][],
  degrees: readonly number[][],
  freedom: number,
  prior: SettlingPrior,
): Fitted {
  // The scale is found with ordinary lines first, then the outliers lose weight.
  let sigma = Infinity;
  let warmth = { cents: degrees.flat().some((d) => d !== 0) ? prior.tempMean : 0, sd: 0 };
  let lines: Line[] = [];
  for (let round = 0; round < WARMTH_TURNS; round++) {
    const cool = falls.map((fall, i) => fall.map((y, k) => y + warmth.cents * degrees[i]![k]!));
    lines = xs.map((x, i) => robustLine(x, cool[i]!, sigma));
    sigma = Math.max(READING_CENTS, Math.sqrt(sum(lines.map((l) => l.rest)) / freedom));
    if (warmth.cents === 0 && round === 2) break;
    if (warmth.cents === 0) continue;
    const left = lines.map((l, i) => xs[i]!.map((x, k) => falls[i]![k]! - l.at(x)));
    warmth = centsPerC(left, degrees, sigma, prior);
  }
  const sways = xs.map((x, i) => {
    const middle = mean(x);
    return Math.abs(sum(x.map((v, k) => (v - middle) * degrees[i]![k]!))) / sum(x.map((v) => (v - middle) ** 2));
  });
  return { lines, sigma, sways, warmthSd: warmth.sd };
}
