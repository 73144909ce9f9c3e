import { agreeing } from '../partials/agreeing';
import { fitCourse, type PartialFit } from '../partials/course';
import { decimate, decimationFor } from '../signal/decimate';
import { demodulate, type PartialTrack } from '../signal/demodulate';
import { amplitudeSpectrum, powerOfTwo } from '../signal/fft';
import { findPeaks, type Peaks } from '../signal/peaks';
import { findSections } from '../recording/section';
import { hzOf, nearest, placeStrings, type StringComb } from './combs';
import type { StrummedString } from './strings';

export type StrumRefusal = 'not-heard' | 'shared' | 'course' | 'too-short' | 'uncertain' | 'no-reference';
export type StringHeard = { id: string } & (
  { ok: true; cents: number; sigmaCents: number } | { ok: false; reason: StrumRefusal }
);

/** Partials are looked for up to here, Hz. */
const TOP_HZ = 5000;
const LOWEST_HZ = 25;
/** What is read begins so long after the first string was struck, s: the last one sounds by then; how long it is at most and at least. */
const AFTER_S = 0.4;
const LONGEST_S = 1.5;
const SHORTEST_S = 0.6;
/** Peaks this far below the strongest are left alone, dB; they stand so many times above the noise. */
const RANGE_DB = 62;
const ABOVE = 4.5;
/** Strings whose targets lie nearer than this are a course, cents. */
const COURSE_CENTS = 15;
/** What lies so near a partial and is louder than this share of it spoils it, Hz; the wider apart, the shorter the window that parts them. */
const APART_HZ = [14, 10, 7, 5, 3.5, 2.5] as const;
const SPOILS = 0.12;
/** Nobody knows better than this where another string's partial lies, cents. */
const UNSURE_CENTS = 1;
/** A partial that another string may have there is so much louder than those around it at most (house estimate). */
const MARGIN = 2;
const NEIGHBOURS = 3;
/** Of the strength of all clean partials, so much goes with a shorter window. */
const MOST_OF = 0.7;
const ENOUGH = 4;
/** A partial that wanders by more than this is none, rad. */
const COHERENT_RAD = 1;
/** A peak is a string's own so near to where its partial should be, Hz or cents. */
const OWN_HZ = 0.7;
const OWN_CENTS = 2.5;
/** So many partials of its own, that no other string can have, tell a string that was struck; and they say the same (house). */
const LEAST_PARTIALS = 2;
/** One does, where it stands so many times above the noise. */
const LOUD = 10;
/** It is no string's that is so much fainter than the loudest of all; one partial does only above the other (house, by sampled instruments). */
const FAINT_SHARE = 0.0056;
const LOUD_SHARE = 0.056;
/** How near to such a ratio two strings are tuned, cents. */
const SHARING_CENTS = 70;
/** Where a lower string is not sure, one above it that stands on its partials is believed so near to where it should be. */
const EXPECTED_SD = 2;
const AGREES = { sd: 2.5, cents: 1 };
/** What is this far from where it should be needs so many partials of its own, in standard deviations and cents. */
const SURPRISE = { sd: 3, cents: 8, partials: 3 };
/** What partials that agree differ by at most, and the largest doubt that is told, cents. */
const DISAGREE = 2.5;
const LARGEST_SIGMA = 1;
/** The reading's own floor, cents (house estimate, by strings on bodies). */
const FLOOR_CENTS = 0.08;

interface Found {
  n: number;
  ratio: number;
  sigmaCents: number;
  peak: number;
  hz: number;
}

/** Pitches of strings that share partials: every so many of the higher one's, and of the lower one's. */
const SHARING = [
  [1, 2],
  [1, 3],
  [1, 4],
  [2, 3],
] as const;
/** Of a string's partials, every which one lies where the other string's may; undefined where they share none but high ones. */
function sharedWith(hz: number, otherHz: number): number | undefined {
  const near = (ratio: number) => Math.abs(1200 * Math.log2(ratio)) < SHARING_CENTS;
  for (const [high, low] of SHARING) {
    if (near((hz * high) / (otherHz * low))) return high;
    if (near((otherHz * high) / (hz * low))) return low;
  }
  return undefined;
}

/** The loudest that another string can be at a frequency: what its neighbours there that are its own are, and a margin. */
function envelopeOf(comb: StringComb, combs: readonly StringComb[], peaks: Peaks): (hz: number) => number {
  const all = comb.all.flatMap(({ ratio }) => {
    const hz = hzOf(comb, ratio);
    const k = nearest(peaks, hz);
    const off = k < peaks.frequencyHz.length ? Math.abs(peaks.frequencyHz[k]! - hz) : Infinity;
    return off < Math.max(OWN_HZ, (hz * OWN_CENTS) / 1731) ? [{ hz, log: Math.log(peaks.amplitude[k]!) }] : [];
  });
  // What others stand on too does not tell how loud this one is there.
  const alone = all.filter(({ hz }) =>
    combs.every((o) => o === comb || o.all.every((p) => Math.abs(hzOf(o, p.ratio) - hz) > APART_HZ.at(-1)!)),
  );
  const own = alone.length >= NEIGHBOURS ? alone : all;
  return (hz) => {
    if (own.length === 0) return 0;
    const near = own
      .slice()
      .sort((a, b) => Math.abs(a.hz - hz) - Math.abs(b.hz - hz))
      .slice(0, NEIGHBOURS);
    return MARGIN * Math.exp(near.reduce((sum, p) => sum + p.log, 0) / near.length);
  };
}

/** How far partials lie from what they agree on, rms by their weight, cents. */
const scatterOf = (said: readonly { cents: number; sd: number }[], mean: number): number =>
  Math.sqrt(
    said.reduce((s, p) => s + (p.cents - mean) ** 2 / p.sd ** 2, 0) / said.reduce((s, p) => s + 1 / p.sd ** 2, 0),
  );

/**
 * Where every string stands after one strum of them all: each by partials of its own, far enough from all that others can have.
 * @param samples mono, -1..1
 * @param sampleRate Hz, 8000 to 192000
 */
export function readStrum(
  samples: ArrayLike<number>,
  sampleRate: number,
  strings: readonly StrummedString[],
): StringHeard[] {
  const none = (reason: StrumRefusal): StringHeard[] => strings.map(({ id }) => ({ id, ok: false, reason }));
  const factor = decimationFor(sampleRate, TOP_HZ);
  const x = decimate(Float64Array.from(samples), factor);
  const rate = sampleRate / factor;
  const lowest = Math.min(...strings.map((s) => s.targetHz));
  const sections = findSections(x, rate, Math.min(0.03, 1 / lowest));
  const loudest = Math.max(...sections.map((s) => s.peakRms));
  const struck = sections.find((s) => s.peakRms > 0.3 * loudest);
  if (!struck) return none('not-heard');
  const startS = struck.onsetS + AFTER_S;
  const endS = Math.min(sections.at(-1)!.endS, x.length / rate, startS + LONGEST_S);
  if (endS - startS < SHORTEST_S) return none('too-short');
  const from = Math.floor(startS * rate);
  const to = Math.floor(endS * rate);
  const lastsS = endS - startS;
  const size = powerOfTwo(2 * (to - from));
  const hzPerBin = rate / size;
  const bins = Math.min(size / 2 - 2, Math.floor(TOP_HZ / hzPerBin));
  const spectrum = amplitudeSpectrum(x, from, to, size, new Float64Array(size / 2));
  const peaks = findPeaks(spectrum, bins, hzPerBin, (2 * size) / (to - from), LOWEST_HZ, RANGE_DB, ABOVE);
  const combs = placeStrings(strings, peaks, TOP_HZ);
  /** Where every string may have partials, and how loud at most. */
  const places = combs.map((c) => {
    const loud = envelopeOf(c, combs, peaks);
    return c.all.map(({ ratio, sigmaCents }) => {
      const hz = hzOf(c, ratio);
      return { hz, amplitude: loud(hz), unsureHz: (hz * (UNSURE_CENTS + sigmaCents)) / 1731 };
    });
  });

  /** How loud others are within so many Hz of a frequency. */
  const othersAt = (comb: StringComb, own: Found, apartHz: number): number => {
    let sum = 0;
    combs.forEach((other, i) => {
      if (other === comb || (other.score === 0 && other.string.partials.length > 0)) return;
      for (const { hz, amplitude, unsureHz } of places[i]!)
        if (Math.abs(hz - own.hz) < apartHz + unsureHz) sum += amplitude;
    });
    for (let k = own.peak - 1; k >= 0 && own.hz - peaks.frequencyHz[k]! < apartHz; k--) sum += peaks.amplitude[k]!;
    for (let k = own.peak + 1; k < peaks.amplitude.length && peaks.frequencyHz[k]! - own.hz < apartHz; k++)
      sum += peaks.amplitude[k]!;
    return sum;
  };

  const heard = (comb: StringComb): StringHeard => {
    const { id, partials, targetHz, expectedCents, expectedSigmaCents } = comb.string;
    const refused = (reason: StrumRefusal): StringHeard => ({ id, ok: false, reason });
    if (partials.length === 0) return refused('no-reference');
    if (combs.some((o) => o !== comb && Math.abs(1200 * Math.log2(o.string.targetHz / targetHz)) < COURSE_CENTS))
      return refused('course');
    const known = comb.all.filter((p) => p.known);
    const found = known.flatMap(({ n, ratio, sigmaCents }): Found[] => {
      const hz = hzOf(comb, ratio);
      const k = nearest(peaks, hz);
      const is =
        k < peaks.amplitude.length && Math.abs(peaks.frequencyHz[k]! - hz) < Math.max(OWN_HZ, (hz * OWN_CENTS) / 1731);
      return is ? [{ n, ratio, sigmaCents, peak: k, hz: peaks.frequencyHz[k]! }] : [];
    });
    if (found.length === 0) return refused('not-heard');
    const cleanAt = (apartHz: number) =>
      found.filter((f) => othersAt(comb, f, apartHz) < SPOILS * peaks.amplitude[f.peak]!);
    const strength = (list: readonly Found[]) => list.reduce((s, f) => s + peaks.amplitude[f.peak]!, 0);
    const clean = cleanAt(APART_HZ.at(-1)!);
    if (clean.length === 0) return refused('shared');
    let chosen = clean;
    let apart: number = APART_HZ.at(-1)!;
    for (const hz of APART_HZ) {
      const some = cleanAt(hz);
      if (some.length >= Math.min(ENOUGH, clean.length) && strength(some) > MOST_OF * strength(clean)) {
        chosen = some;
        apart = hz;
        break;
      }
    }
    const windowS = Math.min(Math.max(2 / apart, 4 / targetHz), 0.53 * lastsS);
    const tracks: PartialTrack[] = [];
    const noise: number[] = [];
    for (const f of chosen) {
      const track = demodulate(x, rate, from, to, f.n, f.hz, windowS);
      if (!track) continue;
      tracks.push(track);
      noise.push(Math.SQRT2 * peaks.floor[f.peak]! * Math.sqrt(lastsS / windowS));
    }
    const course = fitCourse(tracks, noise, 'sought');
    if (!course) return refused('uncertain');
    const steady = course.partials.filter((p: PartialFit) => p.residualRad < COHERENT_RAD);
    if (steady.length === 0) return refused('uncertain');
    const top = Math.max(...steady.map((p) => p.amplitude));
    const said = steady.map((p) => {
      const ref = partials.find((q) => q.n === p.n)!;
      const cents = 1200 * Math.log2(p.frequencyHz / (targetHz * ref.ratio));
      // A faint one tells less: what is under it is not known.
      return {
        n: p.n,
        cents,
        sd: Math.hypot(ref.sigmaCents, (1731 * p.sigmaHz) / p.frequencyHz, FLOOR_CENTS * Math.sqrt(top / p.amplitude)),
      };
    });
    const { mean: cents, sigma } = agreeing(said);
    const sigmaCents = Math.hypot(sigma, course.sigmaCents, FLOOR_CENTS);
    const surprise = Math.abs(cents - expectedCents) > Math.max(SURPRISE.cents, SURPRISE.sd * expectedSigmaCents);
    if (scatterOf(said, cents) > DISAGREE || sigmaCents > LARGEST_SIGMA) return refused('uncertain');
    const agree = said.filter((p) => Math.abs(p.cents - cents) < Math.max(AGREES.cents, AGREES.sd * p.sd));
    const peakOf = (n: number) => found.find((f) => f.n === n)!.peak;
    const loudest = Math.max(...agree.map((p) => peaks.amplitude[peakOf(p.n)]!)) / Math.max(...peaks.amplitude);
    const isLoud =
      loudest > LOUD_SHARE && agree.some((p) => peaks.amplitude[peakOf(p.n)]! > LOUD * peaks.floor[peakOf(p.n)]!);
    if (loudest < FAINT_SHARE) return refused('not-heard');
    const least = surprise ? SURPRISE.partials : isLoud ? 1 : LEAST_PARTIALS;
    if (agree.length < least) return refused('uncertain');
    // A string an octave, a twelfth or a fifth away stands on every second or third of these: the others have to say the same.
    const common = combs.flatMap((o) => sharedWith(targetHz, o.string.targetHz) ?? []);
    if (common.some((k) => k > 1 && agree.filter((p) => p.n % k !== 0).length < least)) return refused('shared');
    return { id, ok: true, cents, sigmaCents };
  };
  // The lower ones first: what they surely have is not taken for a string above.
  const told = new Map<StringComb, StringHeard>();
  for (const comb of [...combs].sort((a, b) => a.string.targetHz - b.string.targetHz)) {
    const outcome = heard(comb);
    const { id, targetHz, expectedCents, expectedSigmaCents } = comb.string;
    const unsure = combs.some((o) => {
      const was = told.get(o);
      return sharedWith(targetHz, o.string.targetHz) === 1 && was && !was.ok && was.reason !== 'not-heard';
    });
    const asExpected = outcome.ok && Math.abs(outcome.cents - expectedCents) < EXPECTED_SD * expectedSigmaCents;
    told.set(comb, outcome.ok && unsure && !asExpected ? { id, ok: false, reason: 'shared' } : outcome);
  }
  return combs.map((c) => told.get(c)!);
}
