import { cents } from '../../music';
import { searchComb, type Comb } from '../partials/comb';
import { decimate, decimationFor } from '../signal/decimate';
import { amplitudeSpectrum, powerOfTwo } from '../signal/fft';
import { B_USUAL, fitStiffString } from '../partials/law';
import { SEARCH_HIGH_CENTS, SEARCH_LOW_CENTS } from '../reading/look';
import { withoutOld, type OldTone } from '../second-string/old-tones';
import { findPeaks, type Peaks } from '../signal/peaks';
import { clamp } from '../../base';

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

/** What the newest window shows. */
export interface Glimpse {
  point: TrackPoint;
  /** Share of the power of its tones that was not there 0.15 s before, 0 to 1. */
  newShare: number;
  /** Tones that stand out of the room, old ones among them. */
  tones: OldTone[];
}

/** Follows one named string through a stream of samples. */
export interface Tracker {
  /**
   * The next hop's point, from the newest samples of the stream (at least windowS of them).
   * @param old tones of other strings that still ring: not the named string's unless they have grown
   */
  glimpse(recent: Float64Array, endS: number, old: readonly OldTone[]): Glimpse;
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
/** Periods of the string that tell its partials apart, and the shortest window, s. */
const PERIODS = 8;
const LEAST_WINDOW_S = 0.07;
/** A tone is new when its power has grown by this factor within so many hops. */
const GROWN = 2;
const NEW_HOPS = 6;
/** First partial of a comb in one window, by the same law as the readings, with the stiffness of a usual string. */
function firstPartial(comb: Comb, peaks: Peaks): number {
  return fitStiffString(
    comb.matches.map(({ n, peak }) => ({
      n,
      frequencyHz: peaks.frequencyHz[peak]!,
      sigmaHz: 0,
      amplitude: peaks.amplitude[peak]!,
    })),
    B_USUAL,
  ).firstPartialHz;
}

/**
 * Makes a tracker for one string: a short window (at least eight periods of the target), the same comb search as the
 * reading, first near the last point, and over the whole range when that fails or every few points, so that it neither
 * jumps to a neighbour nor stays on one.
 */
export function createTracker(sampleRate: number, targetHz: number): Tracker {
  const windowS = Math.max(LEAST_WINDOW_S, PERIODS / targetHz);
  const topHz = clamp(12 * targetHz, 1200, 5000);
  const factor = decimationFor(sampleRate, topHz);
  const rate = sampleRate / factor;
  const length = Math.floor(windowS * sampleRate);
  const size = powerOfTwo(4 * Math.ceil(length / factor));
  const hzPerBin = rate / size;
  const apartHz = 1.2 / windowS;
  let spectra: Float64Array[] = [];
  let lastHz = 0;
  let lastS = -1;
  let leapHz = NaN;
  let count = 0;
  let floorPower = SILENT_POWER;

  const peaksOf = (recent: Float64Array): Peaks => {
    const x = decimate(recent, factor);
    const spectrum = amplitudeSpectrum(x, 0, x.length, size, new Float64Array(size / 2));
    spectra = [...spectra, spectrum].slice(-NEW_HOPS - 1);
    const bins = Math.min(size / 2 - 2, Math.floor((0.44 * rate) / hzPerBin));
    return findPeaks(spectrum, bins, hzPerBin, (2 * size) / x.length, 14, 50, 5);
  };

  /** Share of the peaks' power that has come within the last hops. */
  const newShareOf = (peaks: Peaks): number => {
    const before = spectra[0];
    if (!before || spectra.length <= NEW_HOPS) return 0;
    let all = 0;
    let grown = 0;
    peaks.frequencyHz.forEach((hz, i) => {
      const bin = Math.round(hz / hzPerBin);
      const power = peaks.amplitude[i]! ** 2;
      const old = Math.max(before[bin - 1] ?? 0, before[bin] ?? 0, before[bin + 1] ?? 0) ** 2;
      all += power;
      if (power > GROWN * old) grown += power - old;
    });
    return all > 0 ? grown / all : 0;
  };

  /** The string among the peaks, or undefined. */
  const find = (peaks: Peaks, tS: number): { hz: number; score: number } | undefined => {
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
    glimpse(recent, endS, old) {
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
      const sounds = power > 1.2 * SILENT_POWER;
      const peaks: Peaks = sounds ? peaksOf(window) : { frequencyHz: [], amplitude: [], floor: [] };
      if (!sounds) spectra = [...spectra, new Float64Array(size / 2)].slice(-NEW_HOPS - 1);
      const found = sounds ? find(withoutOld(peaks, old, apartHz), tS) : undefined;
      // The room's floor sinks at once, and rises (half a dB a point) only where no string is heard: a note that was
      // ringing when listening began is no room noise.
      floorPower = Math.max(SILENT_POWER, Math.min(power, floorPower * (found ? 1 : 1.12)));
      if (found) {
        lastHz = found.hz;
        lastS = tS;
      }
      return {
        point: {
          tS,
          cents: found ? cents(found.hz, targetHz) : null,
          frequencyHz: found?.hz ?? null,
          confidence: found ? Math.min(1, found.score) : 0,
          levelDb: 10 * Math.log10(power + 1e-12),
          floorDb: 10 * Math.log10(floorPower),
          clipped: peak > CLIPPED,
        },
        newShare: newShareOf(peaks),
        tones: peaks.frequencyHz.map((frequencyHz, i) => ({ frequencyHz, amplitude: peaks.amplitude[i]! })),
      };
    },
  };
}
