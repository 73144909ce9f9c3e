import { ratioOfCents } from '../../music';
import { B_USUAL, fitStiffString } from '../partials/law';
import type { Peaks } from '../signal/peaks';
import type { StrummedString } from './strings';

/** How far a string is looked for about where it should be, cents: at least, in standard deviations of that, and at most. */
const LOOK = { least: 70, sd: 4, most: 160 };
const STEP_CENTS = 1;
/** A peak counts for a partial within so many Hz of it, and within so many cents (house estimates). */
const NEAR_HZ = 1.1;
const NEAR_CENTS = 2.5;
/** What another string explains counts for this little; so far about its partials it explains, Hz and cents. */
const EXPLAINED = 0.1;
const MASK_HZ = 1.2;
const MASK_CENTS = 2;
/** Partials above the known ones, by the string's own law, are taken for its own too. */
const MASK_PARTIALS = 45;
const ROUNDS = 4;
/** A step away from where it should be has to be earned: so much of its score at the edge of what is usual (house estimate). */
const USUAL_SD = 3;
const PRIOR = 0.06;

/** One string's partials among those of all strings, as ratios to its target. */
export interface StringComb {
  string: StrummedString;
  /** Known ones first, then by the law up to where they matter. */
  all: { n: number; ratio: number; sigmaCents: number; known: boolean }[];
  cents: number;
  /** Square-root amplitudes of peaks that no other string explains. */
  score: number;
}

/** Known partials, and those beyond by the stiff string's law (Fletcher 1964). */
function combOf(string: StrummedString, maxHz: number): StringComb {
  const { partials, targetHz } = string;
  const known = partials.map((p) => ({ ...p, known: true }));
  const law =
    partials.length > 1
      ? fitStiffString(
          partials.map((p) => ({
            n: p.n,
            frequencyHz: p.ratio,
            sigmaHz: hzOfCents(p.ratio, p.sigmaCents),
            amplitude: 1 / p.n,
          })),
        )
      : { firstPartialHz: 1, b: B_USUAL };
  const first = law.firstPartialHz / Math.sqrt(1 + law.b);
  const all: StringComb['all'] = [...known];
  for (let n = 1; n <= MASK_PARTIALS; n++) {
    const ratio = n * first * Math.sqrt(1 + law.b * n * n);
    if (ratio * targetHz > maxHz) break;
    if (!partials.some((p) => p.n === n)) all.push({ n, ratio, sigmaCents: 3, known: false });
  }
  return { string, all: all.filter((p) => p.ratio * targetHz < maxHz), cents: string.expectedCents, score: 0 };
}

/** Hz that so many cents are at a frequency. */
export const hzOfCents = (hz: number, c: number): number => (hz * c) / CENTS_PER_NEPER;
const CENTS_PER_NEPER = 1200 / Math.LN2;
/** Cents that so few Hz are at a frequency. */
export const centsOfHz = (hz: number, few: number): number => (few / hz) * CENTS_PER_NEPER;

/** Where a partial lies, Hz. @param ratio of it to the target @param at where the string stands, cents */
export const hzOf = ({ string, cents }: StringComb, ratio: number, at = cents): number =>
  string.targetHz * ratio * ratioOfCents(at);

/** The peak nearest to a frequency, by its index; peaks are in rising order. */
function nearest(peaks: Peaks, hz: number): number {
  const f = peaks.frequencyHz;
  let low = 0;
  let high = f.length;
  while (low < high) {
    const mid = (low + high) >> 1;
    if (f[mid]! < hz) low = mid + 1;
    else high = mid;
  }
  return low > 0 && (low === f.length || hz - f[low - 1]! < f[low]! - hz) ? low - 1 : low;
}

/** The peak nearest to a frequency, by its index, where it lies within so many Hz of it; −1 where none does. */
export function peakAt(peaks: Peaks, hz: number, withinHz: number): number {
  const k = nearest(peaks, hz);
  return k < peaks.frequencyHz.length && Math.abs(peaks.frequencyHz[k]! - hz) < withinHz ? k : -1;
}

/** Where each string stands, roughly: the shift by which most of its partials lie on peaks that no other string explains. */
export function placeStrings(strings: readonly StrummedString[], peaks: Peaks, maxHz: number): StringComb[] {
  const combs = strings.map((s) => combOf(s, maxHz));
  const worth = peaks.amplitude.map(Math.sqrt);
  const bound = (hz: number, sigmaCents: number) => Math.max(MASK_HZ, hzOfCents(hz, MASK_CENTS + sigmaCents));
  for (let round = 0; round < ROUNDS; round++) {
    for (const comb of combs) {
      if (comb.string.partials.length === 0) continue;
      const weight = worth.slice();
      for (const other of combs) {
        // At first every string is where it should be, and nobody knows it.
        if (other === comb || (round === 0 && other.score === 0)) continue;
        for (const { ratio, sigmaCents } of other.all) {
          const hz = hzOf(other, ratio);
          const k = peakAt(peaks, hz, bound(hz, sigmaCents));
          if (k >= 0) weight[k] = EXPLAINED * worth[k]!;
        }
      }
      const { expectedCents, expectedSigmaCents: sd } = comb.string;
      const reach = Math.min(LOOK.most, Math.max(LOOK.least, LOOK.sd * sd));
      const own = comb.all.filter((p) => p.known);
      let best = -1;
      for (let d = -reach; d <= reach; d += STEP_CENTS) {
        const cents = expectedCents + d;
        let score = 0;
        for (const { ratio } of own) {
          const hz = hzOf(comb, ratio, cents);
          const near = Math.max(NEAR_HZ, hzOfCents(hz, NEAR_CENTS));
          const k = peakAt(peaks, hz, near);
          if (k >= 0) score += weight[k]! * (1 - Math.abs(peaks.frequencyHz[k]! - hz) / near);
        }
        score /= 1 + PRIOR * Math.log1p((d / (USUAL_SD * Math.max(1, sd))) ** 2);
        if (score > best) {
          best = score;
          comb.cents = cents;
        }
      }
      comb.score = best;
    }
  }
  return combs;
}
