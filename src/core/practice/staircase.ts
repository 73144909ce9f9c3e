/** What is known of a listener after some trials. */
export interface Threshold {
  /** Difference that is told rightly three times in four, cents: median, and nine of ten lie between. */
  cents: number;
  low: number;
  high: number;
  trials: number;
}

/** One answer: how large the difference was, cents, and whether it was told rightly. */
export interface StaircaseAnswer {
  cents: number;
  right: boolean;
}

const range = (low: number, high: number, n: number) =>
  Array.from({ length: n }, (_, k) => low * (high / low) ** (k / (n - 1)));
/** Thresholds, slopes and lapses that are thought of; differences that are played, cents. */
const THRESHOLDS = range(0.25, 60, 56);
const SLOPES = [0.9, 1.3, 1.8, 2.5, 3.5];
const LAPSES = [0.01, 0.04, 0.08];
const LEVELS = range(0.3, 80, 28);
/** By chance: two answers. */
const GUESSED = 0.5;

/**
 * Chance of a right answer (Weibull's function with guesses and lapses): three in four at the threshold, were there no lapses.
 * @param cents how large the difference is
 * @param threshold three in four are right there, cents
 * @param slope of Weibull's function, a number
 * @param lapse share of answers that are wrong whatever sounds
 */
export const chanceRight = (cents: number, threshold: number, slope: number, lapse: number): number =>
  GUESSED + (1 - GUESSED - lapse) * (1 - Math.exp(-Math.LN2 * (cents / threshold) ** slope));

const PARAMS = THRESHOLDS.flatMap((t) => SLOPES.flatMap((s) => LAPSES.map((l) => ({ t, s, l }))));
let table: Float64Array[] | undefined;
/** Chance of a right answer, level by level, for every listener thought of. */
const right = (): Float64Array[] =>
  (table ??= LEVELS.map((x) => Float64Array.from(PARAMS, ({ t, s, l }) => chanceRight(x, t, s, l))));

/** Chances of a right answer at a difference that is played or another one. */
const rightAt = (cents: number): Float64Array =>
  right()[LEVELS.indexOf(cents)] ?? Float64Array.from(PARAMS, ({ t, s, l }) => chanceRight(cents, t, s, l));

/** Chances of all listeners thought of, after the answers so far; before any, small thresholds are as likely as large ones. */
function posteriorOf(trials: readonly StaircaseAnswer[]): Float64Array {
  const p = new Float64Array(PARAMS.length).fill(1 / PARAMS.length);
  for (const { cents, right: told } of trials) {
    const chances = rightAt(cents);
    let sum = 0;
    for (let i = 0; i < p.length; i++) sum += p[i]! *= told ? chances[i]! : 1 - chances[i]!;
    for (let i = 0; i < p.length; i++) p[i]! /= sum;
  }
  return p;
}

/** Listeners of one threshold stand together: so many slopes and lapses. */
const EACH = SLOPES.length * LAPSES.length;

/** Chances of the thresholds alone: slopes and lapses are summed over. */
function marginalOf(p: Float64Array): Float64Array {
  const m = new Float64Array(THRESHOLDS.length);
  for (let i = 0; i < p.length; i++) m[Math.floor(i / EACH)]! += p[i]!;
  return m;
}

/** Entropy of chances that do not sum to one, times their sum, in natural units. */
function entropyOf(p: Float64Array): number {
  let sum = 0;
  let plogp = 0;
  for (const x of p) {
    sum += x;
    if (x > 0) plogp += x * Math.log(x);
  }
  return sum > 0 ? sum * Math.log(sum) - plogp : 0;
}

/**
 * The difference to be played next: the one after whose answer the threshold is expected to be known best (psi method, Kontsevich
 * and Tyler 1999; slope and lapse as nuisance, Prins 2013).
 */
export function nextCents(trials: readonly StaircaseAnswer[]): number {
  const p = posteriorOf(trials);
  const yes = new Float64Array(p.length);
  const no = new Float64Array(p.length);
  let best = { cents: LEVELS[0]!, expected: Infinity };
  LEVELS.forEach((cents, k) => {
    const told = right()[k]!;
    for (let i = 0; i < p.length; i++) {
      yes[i] = p[i]! * told[i]!;
      no[i] = p[i]! - yes[i]!;
    }
    const expected = entropyOf(marginalOf(yes)) + entropyOf(marginalOf(no));
    if (expected < best.expected) best = { cents, expected };
  });
  return best.cents;
}

/** What the answers so far say of the threshold. */
export function thresholdOf(trials: readonly StaircaseAnswer[]): Threshold {
  const m = marginalOf(posteriorOf(trials));
  const quantile = (q: number): number => {
    let sum = 0;
    for (let k = 0; k < m.length; k++) {
      const next = sum + m[k]!;
      if (next >= q) {
        // Between two of the grid, evenly in logarithms.
        const share = (q - sum) / m[k]!;
        const step = THRESHOLDS[1]! / THRESHOLDS[0]!;
        return THRESHOLDS[k]! * step ** (share - 0.5);
      }
      sum = next;
    }
    return THRESHOLDS.at(-1)!;
  };
  return { cents: quantile(0.5), low: quantile(0.05), high: quantile(0.95), trials: trials.length };
}

/** A listener is known well enough after so many answers (house). */
export const ENOUGH_TRIALS = 40;
