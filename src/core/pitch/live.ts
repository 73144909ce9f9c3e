import { cents } from '../music';
import { searchComb, type Comb } from './comb';
import { decimate } from './decimate';
import { amplitudeSpectrum, powerOfTwo } from './fft';
import { SEARCH_HIGH_CENTS, SEARCH_LOW_CENTS } from './look';
import { findPeaks, type Peaks } from './peaks';

/** One point of the live trace. */
export interface TrackPoint {
  /** Seconds since listening began, at the middle of the window. */
  tS: number;
  /** null where no string is heard. */
  cents: number | null;
  frequencyHz: number | null;
  /** 0 to 1. */
  confidence: number;
  /** Rms level in dB of full scale. */
  levelDb: number;
  /** Level of the room as learned so far, dB. */
  floorDb: number;
  /** The newest samples reach full scale. */
  clipped: boolean;
}

/** Follows one named string through a stream of samples. */
export interface Tracker {
  /** The next hop's point, from the newest samples of the stream (at least windowS of them). */
  point(recent: Float64Array, endS: number): TrackPoint;
  /** Length of the window it needs, s. */
  windowS: number;
}

/** Points a second. */
export const TRACK_RATE = 40;
/** A comb scoring less than this is not shown. */
const LEAST_SCORE = 0.42;
const NEAR_CENTS = 160;
/** Further than this from the last point, 25 ms ago, no hand turns a tuner. */
const LEAP_CENTS = 50;
/** A pitch this old no longer leads the search, s. */
const FRESH_S = 0.3;
const LIVE_PARTIALS = 10;
/** A sample this large has met the converter's limit. */
const CLIPPED = 0.995;
/** Mean square below which nothing sounds (-84 dB of full scale). */
const SILENT_POWER = 2e-9;

/** Pitch of a comb from its matched partials, each weighted by amplitude, with the comb's own stiffness. */
function firstPartial(comb: Comb, peaks: Peaks): number {
  let sum = 0;
  let weight = 0;
  for (const { n, peak } of comb.matches) {
    const w = Math.sqrt(peaks.amplitude[peak]!) * n;
    sum += w * Math.log(peaks.frequencyHz[peak]! / (n * Math.sqrt(1 + comb.b * n * n)));
    weight += w;
  }
  return Math.exp(sum / weight) * Math.sqrt(1 + comb.b);
}

/**
 * Makes a tracker for one string: a short window (at least six periods of the target), the same comb search as the
 * reading, first near the last point, and over the whole range when that fails or every few points, so that it neither
 * jumps to a neighbour nor stays on one.
 */
export function createTracker(sampleRate: number, targetHz: number): Tracker {
  const windowS = Math.max(0.07, 6 / targetHz);
  const topHz = Math.min(5000, Math.max(1200, 12 * targetHz));
  const factor = Math.max(1, Math.floor(sampleRate / (2.5 * topHz)));
  const rate = sampleRate / factor;
  const length = Math.floor(windowS * sampleRate);
  const size = powerOfTwo(4 * Math.ceil(length / factor));
  const spectrum = new Float64Array(size / 2);
  let lastHz = 0;
  let lastS = -1;
  let leapHz = NaN;
  let count = 0;
  let floorPower = SILENT_POWER;

  /** The string in the window that ends with `recent`, or undefined. */
  const find = (recent: Float64Array, tS: number): { hz: number; score: number } | undefined => {
    const x = decimate(recent, factor);
    amplitudeSpectrum(x, 0, x.length, size, spectrum);
    const hzPerBin = rate / size;
    const bins = Math.min(size / 2 - 2, Math.floor((0.44 * rate) / hzPerBin));
    const peaks = findPeaks(spectrum, bins, hzPerBin, (2 * size) / x.length, 14, 50, 5);
    const search = (centreHz: number, lowCents: number, highCents: number) =>
      searchComb(peaks, { targetHz: centreHz, lowCents, highCents, maxPartials: LIVE_PARTIALS });
    const fresh = lastHz > 0 && tS - lastS < FRESH_S;
    let comb = fresh ? search(lastHz, -NEAR_CENTS, NEAR_CENTS) : undefined;
    if (!comb || comb.score < LEAST_SCORE || count % 8 === 0) {
      const whole = search(targetHz, SEARCH_LOW_CENTS, SEARCH_HIGH_CENTS);
      if (whole && whole.score > 1.25 * (comb?.score ?? 0)) comb = whole;
    }
    if (!comb || comb.score < LEAST_SCORE) return undefined;
    const hz = firstPartial(comb, peaks);
    // A leap is believed when the next point confirms it: the attack of a pluck throws single points far off.
    if (fresh && Math.abs(cents(hz, lastHz)) > LEAP_CENTS && !(Math.abs(cents(hz, leapHz)) < LEAP_CENTS)) {
      leapHz = hz;
      return undefined;
    }
    leapHz = NaN;
    return { hz, score: comb.score };
  };

  return {
    windowS,
    point(recent, endS) {
      const window = recent.subarray(recent.length - length);
      let power = 0;
      let peak = 0;
      for (let i = 0; i < length; i++) {
        power += window[i]! * window[i]!;
        peak = Math.max(peak, Math.abs(window[i]!));
      }
      power /= length;
      const tS = endS - windowS / 2;
      count++;
      const found = power > 2 * floorPower ? find(window, tS) : undefined;
      // The room's floor sinks at once, and rises (half a dB a point) only where no string is heard: a note that was
      // ringing when listening began is no room noise.
      floorPower = Math.max(SILENT_POWER, Math.min(power, floorPower * (found ? 1 : 1.12)));
      if (found) {
        lastHz = found.hz;
        lastS = tS;
      }
      return {
        tS,
        cents: found ? cents(found.hz, targetHz) : null,
        frequencyHz: found?.hz ?? null,
        confidence: found ? Math.min(1, found.score) : 0,
        levelDb: 10 * Math.log10(power + 1e-12),
        floorDb: 10 * Math.log10(floorPower),
        clipped: peak > CLIPPED,
      };
    },
  };
}
