/**
 * Last sample of the stretch in which the recording is clipped: runs of three or more equal samples at the extreme, with
 * a steep flank before them (the smooth top of a low note is flat too, but its flanks are not steep).
 * @returns -1 when nothing is clipped
 * @param peak largest magnitude of all samples, full scale 1
 */
export function lastClippedSample(samples: ArrayLike<number>, sampleRate: number, peak: number): number {
  const near = peak * 0.99;
  const back = Math.max(2, Math.round(sampleRate * 5e-5));
  let last = -1;
  let run = 1;
  for (let i = 1; i < samples.length; i++) {
    run = Math.abs(samples[i]! - samples[i - 1]!) < 1e-6 * peak ? run + 1 : 1;
    if (run < 3 || Math.abs(samples[i]!) < near) continue;
    const flank = i - run - back;
    if (flank >= 0 && Math.abs(samples[i]! - samples[flank]!) > 0.004 * peak) last = i;
  }
  return last;
}

/** Silence that lasts longer is a pause, s. */
export const LONGEST_GAP_S = 0.3;

/**
 * Finds a drop-out: a stretch of exactly equal samples of 3 ms or more with sound on both sides.
 * @returns start of the first gap in samples, or -1
 * @param peak largest magnitude of all samples, full scale 1
 */
export function findGap(samples: ArrayLike<number>, sampleRate: number, peak: number): number {
  const least = Math.max(8, Math.round(0.003 * sampleRate));
  const longest = Math.round(LONGEST_GAP_S * sampleRate);
  const look = Math.round(0.02 * sampleRate);
  const loudest = (from: number, to: number): number => {
    let m = 0;
    for (let i = Math.max(0, from); i < Math.min(samples.length, to); i++) m = Math.max(m, Math.abs(samples[i]!));
    return m;
  };
  // Cut off at either end of the range, a loud low note rests on it for as long, and not on the same level above and below.
  let high = Math.max(0, samples[0] ?? 0);
  let low = Math.min(0, samples[0] ?? 0);
  let step = Infinity;
  for (let i = 1; i < samples.length; i++) {
    high = Math.max(high, samples[i]!);
    low = Math.min(low, samples[i]!);
    const d = Math.abs(samples[i]! - samples[i - 1]!);
    if (d > 1e-9 && d < step) step = d;
  }
  // Coarse converters rest on one step for milliseconds when the sound is faint: that is no gap.
  const faint = Math.max(12 * step, 2e-4 * peak);
  let run = 1;
  for (let i = 1; i <= samples.length; i++) {
    if (i < samples.length && samples[i] === samples[i - 1]) {
      run++;
      continue;
    }
    if (
      run >= least &&
      run < longest &&
      i < samples.length &&
      samples[i - 1]! < 0.9 * high &&
      samples[i - 1]! > 0.9 * low
    ) {
      const start = i - run;
      const level = Math.abs(samples[i - 1]!);
      if (loudest(start - look, start) > level + faint && loudest(i, i + look) > level + faint) {
        // A pluck after silence has sound on one side only; a gap has it on both.
        return start;
      }
    }
    run = 1;
  }
  return -1;
}

/** A step shows in the second difference for so long, s; the filters of a converter spread it no further. */
const STEP_S = 0.001;
/** What it is compared with on either side, in such steps. */
const STEPS_BESIDE = 20;
/** So much sound on either side is needed to see a loss, s. */
export const LOSS_SIDE_S = STEP_S * (STEPS_BESIDE + 1);
/** How much sharper than all beside it a step is: what sampled notes in rooms and coughs do stays under 4 (house estimate). */
const STEP_RATIO = 4;
/** The least step, of the peak. */
const LEAST_STEP = 0.002;

/**
 * Finds a splice: samples were left out, so the sound goes on from another place at once. A knock or a pluck is sharp for
 * longer, a buzzing string in every period.
 * @param from first sample that counts
 * @returns the sample about which the first splice lies, or -1
 */
function findSplice(samples: ArrayLike<number>, sampleRate: number, peak: number, from: number): number {
  const step = Math.max(2, Math.round(STEP_S * sampleRate));
  const sharpest: number[] = [];
  const first = Math.max(2, from - STEPS_BESIDE * step);
  for (let i = first; i + step <= samples.length; i += step) {
    let most = 0;
    for (let k = i; k < i + step; k++)
      most = Math.max(most, Math.abs(samples[k]! - 2 * samples[k - 1]! + samples[k - 2]!));
    sharpest.push(most);
  }
  for (let b = STEPS_BESIDE; b < sharpest.length - STEPS_BESIDE; b++) {
    const here = sharpest[b]!;
    if (here < LEAST_STEP * peak) continue;
    let beside = 0;
    for (let k = 2; k <= STEPS_BESIDE; k++) beside = Math.max(beside, sharpest[b - k]!, sharpest[b + k]!);
    if (here > STEP_RATIO * beside && here >= Math.max(sharpest[b - 1]!, sharpest[b + 1]!)) return first + b * step;
  }
  return -1;
}

/**
 * Where samples were lost first, replaced by silence or left out.
 * @param settled from where on a step is no part of the attack, samples
 * @returns a sample, or -1
 * @param peak largest magnitude of all samples, full scale 1
 */
export function firstLoss(samples: ArrayLike<number>, sampleRate: number, peak: number, settled: number): number {
  const gap = findGap(samples, sampleRate, peak);
  const splice = findSplice(samples, sampleRate, peak, settled);
  return gap < 0 || splice < 0 ? Math.max(gap, splice) : Math.min(gap, splice);
}
