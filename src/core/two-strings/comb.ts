import { ratioOfCents } from '../music';
import type { Peaks } from '../pitch';

/** Both strings as combs of stiff partials. */
export interface StiffComb {
  /** n-th partial: n f0 sqrt(1 + B n^2), Hz. */
  f0: number;
  b: number;
}
/** The n-th partial of a stiff string, Hz: n f0 sqrt(1 + b n²) (Fletcher 1964). */
export const partialOf = ({ f0, b }: StiffComb, n: number): number => n * f0 * Math.sqrt(1 + b * n * n);

export const MOST_PARTIALS = 14;
/** Further off than this it is another note, cents. */
export const WITHIN_CENTS = 60;
const SEARCH_CENTS = 75;
/** Stiffness that strings have (house estimates). */
export const STIFF = [0, 1e-5, 3e-5, 6e-5, 1.2e-4, 2.5e-4, 5e-4, 1e-3];
/** A stiffer string must earn itself. */
export const DEAR = 100;
/**
 * Comb that the peaks fit best around a frequency. @param numbers which partials are looked at
 * @param hzPerBin width of a bin, Hz
 */
export function combNear(
  peaks: Peaks,
  aroundHz: number,
  numbers: readonly number[],
  topHz: number,
  hzPerBin: number,
): StiffComb {
  let best = { comb: { f0: aroundHz, b: 0 }, score: 0 };
  const strength = peaks.amplitude.map((a, i) => Math.log1p(a / (3 * peaks.floor[i]!)));
  for (const b of STIFF)
    for (let c = -SEARCH_CENTS; c <= SEARCH_CENTS; c += 1) {
      const comb = { f0: (aroundHz * ratioOfCents(c)) / Math.sqrt(1 + b), b };
      let score = 0;
      for (const n of numbers) {
        const f = partialOf(comb, n);
        if (f > topHz) break;
        const at = nearestPeak(peaks.frequencyHz, f);
        if (at < 0) continue;
        const off = Math.abs(peaks.frequencyHz[at]! - f);
        const reach = Math.max(1.2 * hzPerBin, f * 0.0015);
        if (off < 2 * reach) score += (strength[at]! * (1 - (off / (2 * reach)) ** 2)) / Math.sqrt(n);
      }
      // A stiffer comb must earn itself.
      score *= 1 - DEAR * b;
      if (score > best.score) best = { comb, score };
    }
  return best.comb;
}
function nearestPeak(sorted: readonly number[], f: number): number {
  let low = 0;
  let high = sorted.length;
  while (low < high) {
    const mid = (low + high) >> 1;
    if (sorted[mid]! < f) low = mid + 1;
    else high = mid;
  }
  const before = low > 0 ? Math.abs(sorted[low - 1]! - f) : Infinity;
  const after = low < sorted.length ? Math.abs(sorted[low]! - f) : Infinity;
  return Math.min(before, after) === Infinity ? -1 : before < after ? low - 1 : low;
}
