import type { PartialFit } from './glide';

/**
 * How much the whole string's pitch moved about its fitted course, rms cents: vibrato, a finger, a turned tuner. All
 * partials together: residual phases are brought to one time scale (phase / 2 pi f), averaged by information, smoothed
 * over three frames and differentiated; beats of single partials average out.
 * @param timeS frame times shared by all partials, s
 */
export function unsteadinessCents(partials: PartialFit[], timeS: Float64Array): number {
  const frames = Math.max(...partials.map((p) => p.residual.length));
  const lag = new Float64Array(frames);
  const weight = new Float64Array(frames);
  for (const p of partials) {
    const toSeconds = 1 / (2 * Math.PI * p.frequencyHz);
    for (let k = 0; k < p.residual.length; k++) {
      const w = (p.weight[k]! / toSeconds ** 2) * Math.sqrt(p.amplitude);
      lag[k]! += w * p.residual[k]! * toSeconds;
      weight[k]! += w;
    }
  }
  let used = 0;
  while (used < frames && weight[used]! > 0) used++;
  for (let k = 0; k < used; k++) lag[k]! /= weight[k]!;
  const stepS = (timeS[1] ?? 0) - (timeS[0] ?? 0);
  const reach = Math.max(2, Math.round(0.04 / stepS));
  let sum = 0;
  let count = 0;
  for (let k = reach; k < used - reach; k++) {
    const slope = (lag[k + reach]! - lag[k - reach]!) / (2 * reach * stepS);
    sum += (1200 / Math.LN2) ** 2 * slope * slope;
    count++;
  }
  return count < 3 ? 0 : Math.sqrt(sum / count);
}
