import { partialOf } from './comb';
import { refineDecays, clusterTones, type Cluster, type Theta } from './lines';
import { UNISON_PARTIALS } from './start';
import type { Prepared } from './take';
import { decayOf, fitTones } from './tones';

/**
 * Which string of a unison sounded alone first: what both do later, carried back to the beginning, against what is there.
 * Undefined where they began together, or where it cannot be told.
 */
export function soundsFirst(take: Prepared, { a, b }: Theta): 'a' | 'b' | undefined {
  const slices = Math.floor((take.fromS - take.onsetS - FIRST_AFTER_S) / SLICE_S);
  /** Energy by slice: of what is there less the one, less the other, less both; and all. */
  const left = { a: new Float64Array(slices), b: new Float64Array(slices), both: new Float64Array(slices) };
  const all = new Float64Array(slices);
  for (let n = 1; n <= UNISON_PARTIALS; n++) {
    const [fa, fb] = [partialOf(a, n), partialOf(b, n)];
    if (Math.max(fa, fb) > take.topHz) break;
    const centre = (fa + fb) / 2;
    const halfHz = Math.min(0.9 * a.f0, 180);
    const late = take.bands.band(centre, halfHz, take.fromS, take.toS);
    const early = take.bands.band(centre, halfHz, take.onsetS, take.fromS);
    const cluster: Cluster = { n, m: n, band: late, decays: [decayOf(late), decayOf(late)] };
    for (let round = 0; round < 3; round++) refineDecays(cluster, { a, b });
    const tones = clusterTones(cluster, a, b);
    const fit = fitTones(late, tones);
    const [loud, soft] = [Math.max(...fit.amplitude), Math.min(...fit.amplitude)];
    if (1 - fit.left / fit.energy < 0.8 || soft < 0.1 * loud) continue;
    for (let i = 0; i < early.re.length; i++) {
      const tS = early.fromS + i / early.rate;
      const slice = Math.floor((tS - take.onsetS - FIRST_AFTER_S) / SLICE_S);
      if (slice < 0 || slice >= slices) continue;
      const carried = tones.map(({ hz, decay }, k) => {
        const dt = tS - late.fromS;
        const size = Math.exp(-decay * dt);
        const angle = 2 * Math.PI * hz * dt;
        const [c, s] = [size * Math.cos(angle), size * Math.sin(angle)];
        return [fit.re[k]! * c - fit.im[k]! * s, fit.re[k]! * s + fit.im[k]! * c] as const;
      });
      const less = (of: readonly number[]) =>
        (early.re[i]! - of.reduce((s, k) => s + carried[k]![0], 0)) ** 2 +
        (early.im[i]! - of.reduce((s, k) => s + carried[k]![1], 0)) ** 2;
      // Every partial counts alike.
      const scale = 1 / (loud * loud);
      left.a[slice]! += scale * less([0]);
      left.b[slice]! += scale * less([1]);
      left.both[slice]! += scale * less([0, 1]);
      all[slice]! += scale * (early.re[i]! ** 2 + early.im[i]! ** 2);
    }
  }
  const cost = (of: 'a' | 'b', alone: number) =>
    all.reduce((s, e, k) => s + (k < alone ? left[of][k]! : left.both[k]!) / Math.max(1e-30, e), 0) /
    Math.max(1, slices);
  const best = (of: 'a' | 'b') =>
    Array.from({ length: slices + 1 }, (_, k) => ({ of, alone: k, cost: cost(of, k) })).sort(
      (x, y) => x.cost - y.cost,
    )[0]!;
  const [one, other] = [best('a'), best('b')].sort((x, y) => x.cost - y.cost) as [
    ReturnType<typeof best>,
    ReturnType<typeof best>,
  ];
  // Alone for some slices, well foretold, and clearly better than the other way round or both at once.
  const clear = one.alone >= LEAST_ALONE && one.cost < 0.35 && one.cost < 0.6 * other.cost;
  return clear ? one.of : undefined;
}
const FIRST_AFTER_S = 0.03;
const SLICE_S = 0.03;
const LEAST_ALONE = 2;
