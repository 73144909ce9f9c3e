/** Amplitude and phase of one partial against a carrier, at frames of equal spacing. */
export interface PartialTrack {
  n: number;
  carrierHz: number;
  /** Frame times in s from the start of the samples. */
  timeS: Float64Array;
  amplitude: Float64Array;
  /** Unwrapped phase against the carrier, rad. */
  phase: Float64Array;
}

/**
 * Blocks a window of four periods. A staircase of blocks lets through what lies a block rate away: with 128 blocks that is
 * 32 partials off, where no partial is left (with 32 blocks, eight off, a stiff string's strong low partials leaked in).
 */
const BLOCKS = 128;
/** Frames start this many blocks apart: 75 % overlap. */
const HOP = 32;
/** Samples after which the phasor starts afresh. */
const FRESH = 128;

const shape = Float64Array.from({ length: BLOCKS }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / BLOCKS));

/**
 * Shifts one partial to zero frequency and smooths it with a Hann window (built from block sums), so that its
 * neighbours, a window's four periods away or more, fall on the window's nulls.
 * @param windowS length of the window in s: four periods of the string or more
 * @returns undefined when fewer than four frames fit into samples[from, to)
 */
export function demodulate(
  samples: Float64Array,
  sampleRate: number,
  from: number,
  to: number,
  n: number,
  carrierHz: number,
  windowS: number,
): PartialTrack | undefined {
  const block = (windowS * sampleRate) / BLOCKS;
  const blocks = Math.floor((to - from) / block);
  const frames = Math.floor((blocks - BLOCKS) / HOP) + 1;
  if (frames < 4) return undefined;
  // Running sums of the shifted samples: between two of them lies a block of any length, whole samples or not.
  const count = to - from;
  const sumRe = new Float64Array(count + 1);
  const sumIm = new Float64Array(count + 1);
  const w = (2 * Math.PI * carrierHz) / sampleRate;
  const stepRe = Math.cos(w);
  const stepIm = -Math.sin(w);
  for (let begin = 0; begin < count; begin += FRESH) {
    // The phasor starts afresh so often that rounding does not build up.
    let cr = Math.cos(w * (from + begin));
    let ci = -Math.sin(w * (from + begin));
    const end = Math.min(count, begin + FRESH);
    for (let i = begin; i < end; i++) {
      const x = samples[from + i]!;
      sumRe[i + 1] = sumRe[i]! + x * cr;
      sumIm[i + 1] = sumIm[i]! + x * ci;
      const t = cr * stepRe - ci * stepIm;
      ci = cr * stepIm + ci * stepRe;
      cr = t;
    }
  }
  const re = new Float64Array(blocks);
  const im = new Float64Array(blocks);
  let lastRe = 0;
  let lastIm = 0;
  for (let b = 0; b < blocks; b++) {
    const at = Math.min(count, (b + 1) * block);
    const i = Math.min(count - 1, Math.floor(at));
    const nextRe = sumRe[i]! + (at - i) * (sumRe[i + 1]! - sumRe[i]!);
    const nextIm = sumIm[i]! + (at - i) * (sumIm[i + 1]! - sumIm[i]!);
    re[b] = nextRe - lastRe;
    im[b] = nextIm - lastIm;
    lastRe = nextRe;
    lastIm = nextIm;
  }
  const timeS = new Float64Array(frames);
  const amplitude = new Float64Array(frames);
  const phase = new Float64Array(frames);
  const scale = 4 / (BLOCKS * block);
  let last = 0;
  for (let k = 0; k < frames; k++) {
    let sr = 0;
    let si = 0;
    for (let j = 0; j < BLOCKS; j++) {
      sr += shape[j]! * re[k * HOP + j]!;
      si += shape[j]! * im[k * HOP + j]!;
    }
    amplitude[k] = scale * Math.hypot(sr, si);
    let p = Math.atan2(si, sr);
    p += 2 * Math.PI * Math.round((last - p) / (2 * Math.PI));
    phase[k] = last = p;
    // A sample fills its place in the sums from its instant on.
    timeS[k] = (from - 0.5 + (k * HOP + BLOCKS / 2) * block) / sampleRate;
  }
  return { n, carrierHz, timeS, amplitude, phase };
}

/**
 * Demodulates tones of samples[from, to), with the amplitude of the noise in each track's band; those too short are left out.
 * @param tones partial number, Hz, and the noise about it as a peak tells it
 * @param lastsS length of the stretch that the tones' floors were read over, s
 */
export function demodulateTones(
  samples: Float64Array,
  sampleRate: number,
  from: number,
  to: number,
  tones: readonly { n: number; hz: number; floor: number }[],
  windowS: number,
  lastsS: number,
): { tracks: PartialTrack[]; noise: number[] } {
  const tracks: PartialTrack[] = [];
  const noise: number[] = [];
  for (const { n, hz, floor } of tones) {
    const track = demodulate(samples, sampleRate, from, to, n, hz, windowS);
    if (!track) continue;
    tracks.push(track);
    // From one part of the complex noise to its amplitude, and from the whole stretch to a window.
    noise.push(Math.SQRT2 * floor * Math.sqrt(lastsS / windowS));
  }
  return { tracks, noise };
}

/** How many successive frames share samples: frames this far apart are independent. */
export const FRAME_OVERLAP = BLOCKS / HOP;
