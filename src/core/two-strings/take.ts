import {
  amplitudeSpectrum,
  decimate,
  findPeaks,
  findSections,
  firstLoss,
  lastClippedSample,
  LOSS_SIDE_S,
  powerOfTwo,
  quietStretches,
  withoutHum,
  type Peaks,
} from '../pitch';
import { bandsOf, type Bands } from './bands';
import { MOST_PARTIALS } from './comb';
import { clamp } from '../base';

export type PairReason =
  'one-string' | 'too-short' | 'too-quiet' | 'no-pitch' | 'clipped' | 'gap' | 'other-notes' | 'hum';

export interface PairOptions {
  aHz: number;
  bHz: number;
  /** b over a is to be p over q. */
  ratio: readonly [number, number];
}

export interface PairTake {
  bands: Bands;
  fromS: number;
  toS: number;
  topHz: number;
  ratio: readonly [number, number];
}

export interface Prepared extends PairTake {
  onsetS: number;
  /** Of the spectrum of what is read. */
  peaks: Peaks;
  hzPerBin: number;
}

const SILENT = 2e-4;
const HIGHEST_HZ = 5000;
const ATTACK_S = 0.12;
const LEAST_S = 0.3;
/** What is read: from so long after the first attack, for so long, s. Of two strings the second may come late; a steady tone is read long. */
const OF_TWO = { afterS: 0.55, readS: 2.5 };
export const OF_STEADY = { afterS: 0.3, readS: 8 };
export const OF_STRUCK = { afterS: 0.15, readS: 8 };

/** What is read of the recording, and what sounds there. */
export function prepare(
  samples: ArrayLike<number>,
  sampleRate: number,
  o: PairOptions,
  { afterS, readS } = OF_TWO,
): Prepared | PairReason {
  const raw = Float64Array.from(samples);
  const mean = raw.reduce((s, v) => s + v, 0) / Math.max(1, raw.length);
  for (let i = 0; i < raw.length; i++) raw[i]! -= mean;
  if (raw.length < 0.05 * sampleRate) return 'too-short';
  const peak = raw.reduce((m, v) => Math.max(m, Math.abs(v)), 0);
  if (peak < SILENT) return 'too-quiet';
  const topHz = topOf(o);
  const factor = Math.max(1, Math.floor(sampleRate / (2.6 * topHz)));
  let x = decimate(raw, factor);
  const rate = sampleRate / factor;
  const slowestS = Math.min(0.03, 1 / Math.min(o.aHz, o.bHz));
  let sections = findSections(x, rate, slowestS);
  const clean = withoutHum(x, rate, quietStretches(sections, rate, x.length));
  if (clean) {
    x = clean;
    sections = findSections(x, rate, slowestS);
  }
  const loudest = Math.max(0, ...sections.map((s) => s.peakRms));
  const firstAt = sections.findIndex((s) => s.peakRms > 0.15 * loudest);
  const first = sections[firstAt];
  if (!first) return 'no-pitch';
  // What begins within half a second is the second string; later starts are swells of the beats.
  let last = first;
  let secondS = first.onsetS;
  for (const s of sections.slice(firstAt + 1)) {
    if (s.onsetS - last.endS > 0.2) break;
    if (s.onsetS - first.onsetS < 0.5) secondS = s.onsetS;
    last = s;
  }
  const endS = Math.min(last.endS, x.length / rate);
  const lasts = endS - first.onsetS;
  const wanted = secondS > first.onsetS ? secondS + ATTACK_S : first.onsetS + afterS;
  const fromS = Math.min(wanted, Math.max(secondS + 0.05, endS - Math.max(LEAST_S, 0.5 * lasts)));
  const toS = Math.min(endS, fromS + readS);
  if (toS - fromS < LEAST_S || toS - fromS < 8 / Math.min(o.aHz, o.bHz)) return 'too-short';
  const clippedS = lastClippedSample(raw, sampleRate, peak) / sampleRate;
  if (clippedS > fromS) return 'clipped';
  const begins = Math.floor(first.onsetS * sampleRate);
  const heard = raw.subarray(begins, Math.floor((toS + LOSS_SIDE_S) * sampleRate));
  if (firstLoss(heard, sampleRate, peak, Math.floor(fromS * sampleRate) - begins) >= 0) return 'gap';
  const [i, j] = [Math.floor(fromS * rate), Math.floor(toS * rate)];
  return { ...takeOf(x, rate, i, j, topHz, o.ratio), onsetS: first.onsetS };
}

/** Highest frequency that is looked at for two notes. */
export const topOf = ({ aHz, bHz }: PairOptions): number =>
  clamp((MOST_PARTIALS + 1) * Math.max(aHz, bHz), 1500, HIGHEST_HZ);

/** A stretch of sound, samples i to j, with its bands and its peaks; as if it began where it is read. */
export function takeOf(
  x: Float64Array,
  rate: number,
  i: number,
  j: number,
  topHz: number,
  ratio: readonly [number, number],
): Prepared {
  const size = 4 * powerOfTwo(j - i);
  const spectrum = amplitudeSpectrum(x, i, j, size, new Float64Array(size / 2));
  const hzPerBin = rate / size;
  const peaks = findPeaks(spectrum, Math.floor(topHz / hzPerBin), hzPerBin, (2 * size) / (j - i), 25, 60, 4);
  const [fromS, toS] = [i / rate, j / rate];
  return { bands: bandsOf(x, rate), fromS, toS, topHz, ratio, onsetS: fromS, peaks, hzPerBin: rate / (j - i) };
}
