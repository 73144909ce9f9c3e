import { ratioOfCents } from '../../music';
import type { Peaks } from '../signal/peaks';

/** A stiff-string comb laid over a set of peaks. */
export interface Comb {
  f0Hz: number;
  b: number;
  /** For each matched partial: its number and the index of its peak. */
  matches: { n: number; peak: number }[];
  /** Explained share of the compressed peaks times the share of predicted partials that are present, 0 to 1. */
  score: number;
}

export interface CombRange {
  targetHz: number;
  lowCents: number;
  highCents: number;
  maxPartials: number;
}

/** Stiffness beyond this is no musical string (house estimate: twice that of a short thick plain bass). */
const B_MAX = 0.012;

/**
 * Stiffness is believed as far as the partials' reach carries it: this much is added to the spread of n^2, as if partials
 * scattered by 1 % about a string of B = 5e-4 (house estimate). Body-coupled low partials would feign a stiff string.
 */
const RIDGE = 400;
/** Peaks this far below the strongest say nothing of the string, dB (house estimate). */
const WEIGHT_RANGE_DB = 52;
/** A peak this many times the noise around it may still be noise. */
const DOUBTFUL = 7;
/** A tooth this far below the strongest peak is there for certain; fainter ones count for less: they may be the room's (house estimate). */
const PRESENT_DB = 26;

/** Weighted straight line through ((n^2), (f/n)^2): intercept f0^2, slope f0^2 B (Fletcher's stiff string). */
class StiffLine {
  private sw = 0;
  private sx = 0;
  private sy = 0;
  private sxx = 0;
  private sxy = 0;
  count = 0;

  add(n: number, frequencyHz: number, weight: number): void {
    const x = n * n;
    const y = (frequencyHz / n) ** 2;
    this.sw += weight;
    this.sx += weight * x;
    this.sy += weight * y;
    this.sxx += weight * x * x;
    this.sxy += weight * x * y;
    this.count++;
  }

  solve(): { f0Hz: number; b: number } {
    const det = this.sw * this.sxx - this.sx * this.sx + RIDGE * this.sw * (this.sw / this.count);
    const slope = this.count > 1 ? (this.sw * this.sxy - this.sx * this.sy) / det : 0;
    const mean = this.sy / this.sw;
    const meanX = this.sx / this.sw;
    // f0^2 = mean - slope * meanX, and B = slope / f0^2 within [0, B_MAX].
    const top = (B_MAX * mean) / (1 + B_MAX * meanX);
    const s = Math.min(top, Math.max(0, slope));
    const f0Squared = mean - s * meanX;
    return { f0Hz: Math.sqrt(f0Squared), b: s / f0Squared };
  }
}

/** The peak for a tooth: the strongest within the tolerance, nearer ones preferred; -1 where there is none. */
function peakNear(peaks: Peaks, expectHz: number, toleranceHz: number): number {
  const f = peaks.frequencyHz;
  let best = -1;
  let bestMerit = 0;
  for (let i = nearestPeak(peaks, expectHz - toleranceHz); i < f.length; i++) {
    const off = Math.abs(f[i]! - expectHz) / toleranceHz;
    if (f[i]! > expectHz + toleranceHz) break;
    if (off >= 1) continue;
    const merit = peaks.amplitude[i]! * (1 - off * off);
    if (merit > bestMerit) {
      best = i;
      bestMerit = merit;
    }
  }
  return best;
}

/** Index of the peak nearest to a frequency. */
function nearestPeak(peaks: Peaks, frequencyHz: number): number {
  const f = peaks.frequencyHz;
  let lo = 0;
  let hi = f.length - 1;
  while (hi - lo > 1) {
    const mid = (lo + hi) >> 1;
    if (f[mid]! < frequencyHz) lo = mid;
    else hi = mid;
  }
  return Math.abs(f[hi]! - frequencyHz) < Math.abs(f[lo]! - frequencyHz) ? hi : lo;
}

/** Follows one comb outward from its first partial, learning the stiffness as it goes. */
function layComb(
  peaks: Peaks,
  f0Hz: number,
  weights: Float64Array,
  total: number,
  sure: number,
  range: CombRange,
): Comb {
  const line = new StiffLine();
  let f0 = f0Hz;
  let b = 0;
  const matches: Comb['matches'] = [];
  let explained = 0;
  let present = 0;
  let predicted = 0;
  let predictedAtLastMatch = 0;
  const topHz = peaks.frequencyHz[peaks.frequencyHz.length - 1]! * 1.02;
  let lastPeak = -1;
  let missing = 0;
  for (let n = 1; n <= range.maxPartials && missing < 7; n++) {
    const expectHz = n * f0 * Math.sqrt(1 + b * n * n);
    if (expectHz > topHz) break;
    const tooth = 1 / Math.sqrt(n);
    predicted += tooth;
    const i = peakNear(peaks, expectHz, Math.min(0.16 * f0, 0.02 * expectHz + 0.01 * f0));
    if (i > lastPeak) {
      line.add(n, peaks.frequencyHz[i]!, Math.sqrt(peaks.amplitude[i]!) * n);
      ({ f0Hz: f0, b } = line.solve());
      matches.push({ n, peak: i });
      explained += weights[i]!;
      present += tooth * Math.min(1, Math.sqrt(peaks.amplitude[i]! / sure));
      predictedAtLastMatch = predicted;
      lastPeak = i;
      missing = 0;
    } else missing++;
  }
  const score = matches.length === 0 ? 0 : (explained / total) * (present / predictedAtLastMatch);
  return { f0Hz: f0, b, matches, score };
}

/**
 * Finds the string's comb among the peaks, only where the named string can be (target + lowCents .. highCents).
 * The score is the share of (square-rooted) peaks explained, times the share of predicted partials present, so that half
 * and double pitch both lose. House design.
 * @returns undefined when no peak supports any pitch in the range
 */
export function searchComb(peaks: Peaks, range: CombRange): Comb | undefined {
  const count = peaks.frequencyHz.length;
  if (count === 0) return undefined;
  const low = range.targetHz * ratioOfCents(range.lowCents);
  const high = range.targetHz * ratioOfCents(range.highCents);
  const weights = new Float64Array(count);
  let total = 0;
  const top = Math.max(...peaks.amplitude);
  const least = top * 10 ** (-WEIGHT_RANGE_DB / 20);
  const sure = top * 10 ** (-PRESENT_DB / 20);
  for (let i = 0; i < count; i++) {
    weights[i] = Math.sqrt(Math.max(0, peaks.amplitude[i]! - Math.max(least, DOUBTFUL * peaks.floor[i]!)));
    if (peaks.frequencyHz[i]! > 0.45 * low) total += weights[i]!;
  }
  const order = [...peaks.amplitude.keys()].sort((a, c) => peaks.amplitude[c]! - peaks.amplitude[a]!).slice(0, 12);
  const tried: number[] = [];
  let best: Comb | undefined;
  for (const i of order) {
    for (let n = 1; n <= 16; n++) {
      const f = peaks.frequencyHz[i]! / n;
      if (f < low) break;
      if (f > high || tried.some((t) => Math.abs(Math.log2(f / t)) < 0.004)) continue;
      tried.push(f);
      const comb = layComb(peaks, f, weights, total, sure, range);
      if (comb.f0Hz < low || comb.f0Hz > high) continue;
      if (comb.score > (best?.score ?? 0)) best = comb;
    }
  }
  return best;
}
