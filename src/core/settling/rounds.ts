import { NORMAL_Q90 } from '../base';
import { inCents } from '../music';

/** What to do after the stretch rounds so far. */
export interface RoundsAdvice {
  /** The next drop's median and 80 % interval, cents; null before the third round. */
  next: { q10: number; q50: number; q90: number } | null;
  stop: boolean;
  advice: string;
}

const FIRST_PREDICTED = 3;
const SMALL_CENTS = 2;
/** Drops shrink by this factor a round, give or take this much in its logarithm (house estimates). */
const SHRINK = Math.log(0.6);
const SHRINK_SD = 0.35;
/** Scatter of the logarithm of a drop, and the reading's own error, cents (house estimates). */
const SCATTER = 0.3;
const READING_CENTS = 0.5;

/**
 * Advice after stretch rounds: the next drop from a geometric law, ln d = a + b k, fitted by least squares with a prior on b
 * (Gelman et al., Bayesian Data Analysis, normal linear model); stop after two drops in a row under 2 cents. House design.
 * @param dropsCents fall after each round, flat positive, in order
 */
export function adviseRounds(dropsCents: readonly number[]): RoundsAdvice {
  const n = dropsCents.length;
  const last = dropsCents[n - 1];
  const before = dropsCents[n - 2];
  const next = n < FIRST_PREDICTED ? null : nextDrop(dropsCents);
  if (last === undefined) return { next, stop: false, advice: 'Stretch once, read the drop, bring it up from below.' };
  if (n === 2 && last < SMALL_CENTS && before! < SMALL_CENTS)
    return { next, stop: false, advice: 'Two small drops: perhaps pulled too gently. Once more, harder.' };
  if (before !== undefined && last < SMALL_CENTS && before < SMALL_CENTS)
    return { next, stop: true, advice: 'Two drops in a row under 2 cents. Stop stretching.' };
  if (before !== undefined && last >= before && last > 2 * SMALL_CENTS)
    return {
      next,
      stop: false,
      advice: 'The drops do not get smaller. Look at the winding and the knot before you stretch again.',
    };
  return {
    next,
    stop: false,
    advice: next
      ? `Stretch once more. Expect a drop of about ${inCents(next.q50)}.`
      : 'Stretch once more. The next drop can be foretold from the third round on.',
  };
}

function nextDrop(dropsCents: readonly number[]): { q10: number; q50: number; q90: number } {
  const n = dropsCents.length;
  const x = dropsCents.map((_, k) => k - (n - 1) / 2);
  const y = dropsCents.map((d) => Math.log(Math.max(d, READING_CENTS)));
  const w = dropsCents.map((d) => 1 / (SCATTER ** 2 + (READING_CENTS / Math.max(d, READING_CENTS)) ** 2));
  const sum = (f: (i: number) => number) => w.reduce((s, v, i) => s + v * f(i), 0);
  const s0 = sum(() => 1);
  const s1 = sum((i) => x[i]!);
  const s2 = sum((i) => x[i]! ** 2) + 1 / SHRINK_SD ** 2;
  const t0 = sum((i) => y[i]!);
  const t1 = sum((i) => x[i]! * y[i]!) + SHRINK / SHRINK_SD ** 2;
  const det = s0 * s2 - s1 * s1;
  const a = (s2 * t0 - s1 * t1) / det;
  const b = (s0 * t1 - s1 * t0) / det;
  const at = (n + 1) / 2;
  const middle = a + b * at;
  const fromFit = (s2 - 2 * at * s1 + at * at * s0) / det;
  const sd = Math.sqrt(fromFit + SCATTER ** 2 + (READING_CENTS / Math.max(Math.exp(middle), READING_CENTS)) ** 2);
  return { q10: Math.exp(middle - NORMAL_Q90 * sd), q50: Math.exp(middle), q90: Math.exp(middle + NORMAL_Q90 * sd) };
}
