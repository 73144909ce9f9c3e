/**
 * Last sample of the stretch in which the recording is clipped: runs of three or more equal samples at the extreme, with
 * a steep flank before them (the smooth top of a low note is flat too, but its flanks are not steep).
 * @returns -1 when nothing is clipped
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

/**
 * Finds a drop-out: a stretch of exactly equal samples of 3 ms or more with sound on both sides.
 * @returns start of the first gap in samples, or -1
 */
export function findGap(samples: ArrayLike<number>, sampleRate: number, peak: number): number {
  const least = Math.max(8, Math.round(0.003 * sampleRate));
  const longest = Math.round(0.3 * sampleRate);
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
