import { NORMAL_Q95, counted } from '../base';
import { FEWEST_PAIRS } from './setup';
import { mean, sampleStandardDeviation } from 'simple-statistics';
import jstat from 'jstat';
import type { SettlingMaterial } from '../settling';
import { FEWEST_READINGS, slopesOf, type Slope, type TrialReading } from './slopes';

export type { TrialReading } from './slopes';

/** Two strings that differ in the treatment only: matched by position, read at like ages. */
export interface TrialPair {
  treated: readonly TrialReading[];
  control: readonly TrialReading[];
}

export type TrialVerdict = 'less' | 'more' | 'cannot-tell';

export interface Trial {
  /** Slope of the treated strings over that of the untreated ones at equal age: median and 90 % interval. */
  ratio: { q05: number; q50: number; q95: number };
  /** ln ratio and its standard error, one a usable pair, in the order given; null for a pair that cannot be used. */
  pairs: ({ logRatio: number; sigma: number } | null)[];
  usable: number;
  verdict: TrialVerdict;
  /** What would settle it, as a sentence; '' where it is settled. */
  more: string;
}

/** A verdict wants this much on both sides together: one in twenty trials without effect is judged wrongly. */
const LEVEL = 0.95;
/** Spread of the ln slopes of two like strings of one instrument, for a single pair (house estimate). */
const PAIR_SPREAD = 0.4;
const MOST_MORE = 40;

const studentQuantile = (p: number, freedom: number): number => jstat.studentt.inv(p, freedom);

/** ln slope; a slope lost in its own error counts as that error. */
const logSlope = ({ slope, sigma }: Slope) => ({
  value: Math.log(Math.max(slope, sigma)),
  sigma: Math.min(1, sigma / Math.max(slope, sigma)),
});

/** Readings at ages that both strings have seen, where enough are left. */
function atEqualAges({ treated, control }: TrialPair): TrialPair {
  const from = Math.max(treated[0]!.t, control[0]!.t);
  const to = Math.min(treated[treated.length - 1]!.t, control[control.length - 1]!.t);
  const cut = (list: readonly TrialReading[]) => list.filter((r) => r.t >= from - 1 && r.t <= to * 1.05 + 1);
  const both = { treated: cut(treated), control: cut(control) };
  return both.treated.length >= FEWEST_READINGS && both.control.length >= FEWEST_READINGS ? both : { treated, control };
}

const isUsable = (list: readonly TrialReading[]) => new Set(list.map((r) => r.t)).size >= FEWEST_READINGS;
const byAge = (list: readonly TrialReading[]) => [...list].sort((a, b) => a.t - b.t);

/**
 * Does the treatment change how much strings fall? The paired t test on ln slope at equal age (Student 1908): for each pair the
 * difference of ln slopes; their mean with its 90 % interval is the ratio, and a verdict wants the 95 % interval to leave
 * out 1, from four pairs on. It never says which treatment is safe.
 * @returns undefined when no pair has three readings a string
 */
export function judgeTrial(pairs: readonly TrialPair[], material: SettlingMaterial = 'unknown'): Trial | undefined {
  const ready = pairs.map((p) => {
    const sorted = { treated: byAge(p.treated), control: byAge(p.control) };
    return isUsable(sorted.treated) && isUsable(sorted.control) ? atEqualAges(sorted) : undefined;
  });
  const used = ready.filter((p) => p !== undefined);
  if (used.length === 0) return undefined;
  const slopes = slopesOf(
    used.flatMap((p) => [p.treated, p.control]),
    material,
  );
  const differences = used.map((_, i) => {
    const treated = logSlope(slopes[2 * i]!);
    const control = logSlope(slopes[2 * i + 1]!);
    return { logRatio: treated.value - control.value, sigma: Math.hypot(treated.sigma, control.sigma) };
  });
  const n = differences.length;
  const d = differences.map((x) => x.logRatio);
  const middle = mean(d);
  // One pair shows no spread of its own: the house's stands in.
  const own = n > 1 ? sampleStandardDeviation(d) : Math.hypot(PAIR_SPREAD, differences[0]!.sigma);
  const error = Math.max(own, 1e-6) / Math.sqrt(n);
  const freedom = Math.max(n - 1, 1);
  const reach = (n > 1 ? studentQuantile(0.95, freedom) : NORMAL_Q95) * error;
  const needed = studentQuantile(1 - (1 - LEVEL) / 2, freedom) * error;
  const told = n >= FEWEST_PAIRS && Math.abs(middle) > needed;
  let at = 0;
  return {
    ratio: { q05: Math.exp(middle - reach), q50: Math.exp(middle), q95: Math.exp(middle + reach) },
    pairs: ready.map((p) => (p ? differences[at++]! : null)),
    usable: n,
    verdict: !told ? 'cannot-tell' : middle < 0 ? 'less' : 'more',
    more: told
      ? ''
      : whatWouldTell(
          n,
          middle,
          own,
          differences.map((x) => x.sigma),
          slopes,
        ),
  };
}

/** How many more readings, or pairs, would tell an effect of the size seen: readings help as far as their errors are to blame. */
function whatWouldTell(n: number, middle: number, own: number, sigmas: number[], slopes: Slope[]): string {
  if (n < FEWEST_PAIRS) {
    const wanted = FEWEST_PAIRS - n;
    return `Cannot tell yet: ${FEWEST_PAIRS} pairs are needed, ${wanted} more.`;
  }
  const readings = mean(slopes.map((s) => s.readings));
  const fromReadings = mean(sigmas.map((s) => s * s));
  const fromStrings = Math.max(0, own * own - fromReadings);
  const tells = (pairs: number, variance: number) =>
    Math.abs(middle) > studentQuantile(1 - (1 - LEVEL) / 2, pairs - 1) * Math.sqrt(variance / pairs);
  for (let k = 1; k <= MOST_MORE; k++)
    if (tells(n, fromStrings + (fromReadings * readings) / (readings + k)))
      return `Cannot tell yet: about ${counted(k, 'more reading')} of each string ${k > 1 ? 'are' : 'is'} needed.`;
  for (let k = 1; k <= MOST_MORE; k++)
    if (tells(n + k, own * own))
      return `Cannot tell yet: about ${counted(k, 'more pair is', 'more pairs are')} needed. More readings would not help.`;
  return 'Cannot tell: if there is an effect, it is too small to see with your strings.';
}
