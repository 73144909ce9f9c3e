import { sum } from 'simple-statistics';
import { creepShapes, SETTLING_PRIORS, type SettlingMaterial } from '../settling';

/** Total fall of a string at an age: min since strung, cents (flat positive). */
export interface TrialReading {
  t: number;
  fall: number;
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
}

/** Straight line by least squares with Huber weights (Huber 1964), the scale given. */
function robustLine(x: readonly number[], y: readonly number[], scale: number): Line {
  let w = x.map(() => 1);
  let line: Line = { slope: 0, rest: 0, spread: 0 };
  for (let round = 0; round < 4; round++) {
    const total = sum(w);
    const mx = sum(w.map((v, i) => v * x[i]!)) / total;
    const my = sum(w.map((v, i) => v * y[i]!)) / total;
    const spread = sum(w.map((v, i) => v * (x[i]! - mx) ** 2));
    const slope = sum(w.map((v, i) => v * (x[i]! - mx) * (y[i]! - my))) / spread;
    const residuals = y.map((v, i) => v - my - slope * (x[i]! - mx));
    line = { slope, rest: sum(w.map((v, i) => v * residuals[i]! ** 2)), spread };
    w = residuals.map((r) => Math.min(1, (HUBER * scale) / Math.max(Math.abs(r), 1e-9)));
  }
  return line;
}

/**
 * Slopes of many strings against one common shape of creep, the one of the grid that fits all of them best, so that the
 * ratio of two slopes holds at any age. Errors come from the residuals of all strings together.
 * @param strings readings of each string, oldest first, at least three at different ages
 * @returns slopes in the same order
 */
export function slopesOf(strings: readonly (readonly TrialReading[])[], material: SettlingMaterial): Slope[] {
  const falls = strings.map((s) => s.map((r) => r.fall));
  const freedom = Math.max(1, sum(strings.map((s) => s.length - 2)));
  let best: { lines: Line[]; sigma: number } | undefined;
  for (const { f } of creepShapes(SETTLING_PRIORS[material])) {
    const xs = strings.map((s) => s.map((r) => f(r.t)));
    // The scale is found with ordinary lines first, then the outliers lose weight.
    let sigma = Infinity;
    let lines: Line[] = [];
    for (let round = 0; round < 3; round++) {
      lines = xs.map((x, i) => robustLine(x, falls[i]!, sigma));
      sigma = Math.max(READING_CENTS, Math.sqrt(sum(lines.map((l) => l.rest)) / freedom));
    }
    if (!best || sigma < best.sigma) best = { lines, sigma };
  }
  const { lines, sigma } = best!;
  return lines.map((l, i) => ({
    slope: l.slope,
    sigma: sigma / Math.sqrt(l.spread),
    readings: strings[i]!.length,
  }));
}
