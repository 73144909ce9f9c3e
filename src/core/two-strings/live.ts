import { decimate } from '../pitch';
import { freeEvidence, meetAsTwo, noTone, strangeShare } from './evidence';
import type { Theta } from './lines';
import { standingOf } from './standing';
import { firstGuess } from './start';
import { takeOf, topOf, type PairOptions } from './take';
import { settleTogether } from './together';

/** What is heard of two strings while a hand turns one of them. */
export interface PairMoment {
  /** Time of the newest sample, s. */
  tS: number;
  /** How far b over a stands from pure, cents; in a unison its size only. */
  cents: number;
  sigmaCents: number;
  beatsHz: number;
  aHz: number;
  bHz: number;
  /** How loud the partials that beat have been, oldest first, evenly over the last seconds, 0 to 1. */
  swell: number[];
}
export interface PairListener {
  /** @param samples mono, −1..1 @returns what is heard, several times a second; null where the two are not heard together */
  push(samples: Float32Array): { tS: number; moment: PairMoment | null }[];
}

/** It is looked so often, s; over so much, s, and no less. */
const EVERY_S = 0.16;
const LOOK_S = 0.9;
const LEAST_S = 0.45;
/** The swelling is shown over this, s, at so many places. */
const SWELL_S = 2.4;
const SWELLS = 96;
/** Softer than this nothing sounds, root mean square. */
const SILENT = 3e-4;
/** A new pluck: louder than the tenth of a second before by so much; what follows it at once is not looked at, s. */
const PLUCK = 2.5;
const AFTER_PLUCK_S = 0.1;
/** What each string must be worth, nats: two partials of its own at least; and what may sound besides (house estimates). */
const LEAST_NATS = 20;
const STRANGE = 0.12;

/** From one look to the next a hand turns no further than this, cents (house estimate). */
const LEAP_CENTS = 4;

/** Follows two strings that ring together. The sample rate is in Hz. */
export function createPairListener(sampleRate: number, o: PairOptions): PairListener {
  const topHz = topOf(o);
  const factor = Math.max(1, Math.floor(sampleRate / (2.6 * topHz)));
  const rate = sampleRate / factor;
  const ring = new Float64Array(Math.ceil((SWELL_S + 0.3) * sampleRate));
  let filled = 0;
  let heard = 0;
  let due = EVERY_S * sampleRate;
  let theta: Theta | undefined;

  const rmsOf = (x: Float64Array, i: number, j: number) => {
    let s = 0;
    for (let k = Math.max(0, i); k < j; k++) s += x[k]! ** 2;
    return Math.sqrt(s / Math.max(1, j - Math.max(0, i)));
  };
  const look = (): PairMoment | null => {
    const x = decimate(ring.subarray(ring.length - filled), factor);
    const slice = Math.round(0.1 * rate);
    if (rmsOf(x, x.length - 2 * slice, x.length) < SILENT) return null;
    let from = Math.max(0, x.length - Math.round(LOOK_S * rate));
    for (let k = from + slice; k + slice <= x.length; k += slice >> 1)
      if (rmsOf(x, k, k + slice) > PLUCK * rmsOf(x, k - slice, k)) from = k + Math.round(AFTER_PLUCK_S * rate);
    if (x.length - from < LEAST_S * rate) return null;
    const take = takeOf(x, rate, from, x.length, topHz, o.ratio);
    if (take.peaks.frequencyHz.length === 0 || noTone(take.peaks)) return null;
    const [p, q] = o.ratio;
    // From where they stood a moment ago; where that no longer holds, from the beginning.
    const starts = theta ? [theta, undefined] : [undefined];
    for (const start of starts) {
      const { theta: at, sigma, seen } = settleTogether(take, start ?? firstGuess(take, o), [9, 14]);
      if (strangeShare(take, at) > STRANGE) continue;
      if (freeEvidence(seen, o.ratio) < LEAST_NATS) continue;
      const standing = standingOf(at, o);
      if (!standing) continue;
      const { aHz, bHz, meetHz, beatsHz } = standing;
      // Where one has no partial of its own, two tones must be seen where they meet; two that beat slowly are one so far.
      if (Math.min(p, q) === 1 && beatsHz * LOOK_S > 1 && !meetAsTwo(take, at, LEAST_NATS)) continue;
      theta = at;
      const halfHz = Math.max(6, 1.5 * beatsHz);
      const band = take.bands.band(
        (meetHz[0] + meetHz[1]) / 2,
        halfHz,
        Math.max(0, x.length / rate - SWELL_S),
        x.length / rate,
      );
      const size = Array.from(band.re, (re, i) => Math.hypot(re, band.im[i]!));
      const most = Math.max(1e-12, ...size);
      return {
        tS: heard / sampleRate,
        cents: standing.cents,
        sigmaCents: Math.hypot(...sigma),
        beatsHz,
        aHz,
        bHz,
        swell: Array.from(
          { length: SWELLS },
          (_, i) => (size[Math.round((i * (size.length - 1)) / (SWELLS - 1))] ?? 0) / most,
        ),
      };
    }
    theta = undefined;
    return null;
  };
  /** A leap that no hand can have turned is believed when the next look confirms it. */
  let last: PairMoment | null = null;
  let leapt: PairMoment | null = null;
  const calm = (moment: PairMoment | null): PairMoment | null => {
    const near = (other: PairMoment | null) => !!moment && !!other && Math.abs(moment.cents - other.cents) < LEAP_CENTS;
    if (!moment || !last || near(last) || near(leapt)) {
      leapt = null;
      return (last = moment);
    }
    leapt = moment;
    return (last = { ...last, tS: moment.tS, swell: moment.swell });
  };
  return {
    push(samples) {
      const told: { tS: number; moment: PairMoment | null }[] = [];
      ring.copyWithin(0, samples.length);
      ring.set(samples, ring.length - samples.length);
      filled = Math.min(ring.length, filled + samples.length);
      heard += samples.length;
      due -= samples.length;
      if (due <= 0) {
        due = EVERY_S * sampleRate;
        told.push({ tS: heard / sampleRate, moment: calm(look()) });
      }
      return told;
    },
  };
}
