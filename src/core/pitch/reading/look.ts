import { cents } from '../../music';
import { searchComb, type Comb, type CombRange } from '../partials/comb';
import { fitCourse } from '../partials/course';
import { demodulateTones } from '../signal/demodulate';
import { amplitudeSpectrum, powerOfTwo } from '../signal/fft';
import { fitStiffString } from '../partials/law';
import { withoutOld } from '../second-string/old-tones';
import { findPeaks, type Peaks } from '../signal/peaks';
import { isMainsHum, offCombShare, type LongSpectrum } from '../second-string/purity';
import { refuse } from './refusals';
import type { Section } from '../recording/section';
import type { MeasureOptions, MeasureOutcome } from './types';

/** Where the named string is looked for, cents around its target: slack strings below, over-tight ones above. */
export const SEARCH_LOW_CENTS = -1250;
export const SEARCH_HIGH_CENTS = 560;
export const MAX_PARTIALS = 20;
/** Peaks this far below the strongest are left alone, dB; they stand so many times above the noise around them. */
export const RANGE_DB = 62;
export const ABOVE_FLOOR = 4.5;
const LOWEST_HZ = 20;
/** A comb that explains less of the sound is no string's (house estimate). */
const LEAST_SCORE = 0.25;
/** A wavering note parts its teeth: one that explains this much is believed where so many partials go together (house estimates). */
const LEAST_WAVERING_SCORE = 0.15;
const TOGETHER = 8;
const MOSTLY = 0.75;
/** Tonal power off the comb above which two strings sound (measured: pairs read 20 % and more, single strings to 14 %). */
const OFF_COMB_LIMIT = 0.16;
/** More is granted to vibrato, whose sidebands lie off the comb, where nothing was off it at first (house estimates). */
const GRANTED_LATER = 0.14;
const NOTHING_EARLY = 0.04;
/** The same in a pluck's first moments, s (measured: pairs at −4 dB read 7 % and more, single strings to 3 %). */
const EARLY_OFF_LIMIT = 0.06;
const EARLY_FROM_S = 0.04;
const EARLY_TO_S = 0.4;
const EARLY_RANGE_DB = 40;
const EARLY_ABOVE = 6;
/** Two peaks on one tooth further apart than this are two strings'; polarisations and bodies split a partial less, cents (house estimate). */
const APART_CENTS = 12;
/** Rms movement of the pitch above which a reading is refused, cents: the fewer periods, the less it tells; more where it goes back and forth and ends where it began (house estimates). */
const WAVERS = 1.6;
const BACK_AND_FORTH = 0.25;
const unsteadyLimit = (frequencyHz: number): number => 6 + 100 / frequencyHz;
/** Standard error above which a reading is no reading, cents; a low string is granted more (house estimate). */
const sigmaLimit = (frequencyHz: number): number => 3 + 60 / frequencyHz;
/** No pluck starts this much sharp: the string was let down while it sounded, cents (house estimate). */
export const LARGEST_SHARP = 20;
/** Partials that die within so few periods (Q = pi f / decay), so few of them, are a knock (house estimates). */
const FEW_PARTIALS = 4;
const LEAST_Q = 50;
/** Least share of the matched amplitude that must keep its phase, and what keeping is, rad (house estimates). */
const LEAST_COHERENT = 0.4;
const COHERENT_RAD = 1.5;
const ONE_COHERENT_RAD = 0.6;
/** Polarisations and body leave this much in every reading, and this share of what the pitch moved (house estimates). */
const SIGMA_FLOOR_CENTS = 0.08;
const MOVED_SHARE = 0.4;

/**
 * Length of the demodulation's window, s: whole periods, so that the neighbouring partials fall on its nulls; four, or the
 * 20 ms of a high string, and a fifth of a note that is over sooner.
 */
function windowOf(f0Hz: number, lastsS: number): number {
  const periods = Math.min(Math.max(4, Math.round(0.02 * f0Hz)), Math.max(2, Math.round(0.2 * lastsS * f0Hz)));
  return Math.min(periods / f0Hz, 0.5 * lastsS);
}

/** A late stretch whose beginning nobody heard; and a bowed note, which its bow keeps as loud. */
const AT_REST = { cents: 0, tauS: 1 };

/** A note as `measure` hears it: without offset, hum and what lies above the string's partials. */
export interface Take {
  x: Float64Array;
  /** Hz. */
  rate: number;
  maxHz: number;
  section: Section;
  options: MeasureOptions;
}

interface Tones extends LongSpectrum {
  /** Samples. */
  from: number;
  to: number;
}

/** The tones of a stretch of a take that were not there before. @param above how many times the local noise a tone must be */
export function tonesOf(
  { x, rate, maxHz, options }: Pick<Take, 'x' | 'rate' | 'maxHz'> & { options: Pick<MeasureOptions, 'old'> },
  startS: number,
  endS: number,
  rangeDb: number,
  above: number,
): Tones {
  const from = Math.floor(startS * rate);
  const to = Math.min(x.length, Math.floor(endS * rate));
  const size = powerOfTwo(2 * (to - from));
  const spectrum = amplitudeSpectrum(x, from, to, size, new Float64Array(size / 2));
  const hzPerBin = rate / size;
  const lobeBins = (2 * size) / (to - from);
  const bins = Math.min(size / 2 - 2, Math.floor(maxHz / hzPerBin));
  const peaks = findPeaks(spectrum, bins, hzPerBin, lobeBins, LOWEST_HZ, rangeDb, above);
  return { from, to, hzPerBin, lobeBins, peaks: withoutOld(peaks, options.old ?? []) };
}

/**
 * The named string's comb. One that lies an octave or a twelfth below it, and nearly all of whose strength is on teeth that the named
 * string has as well, is a neighbour that rings under it: a string let down so far is strong on teeth of its own.
 * @returns 'either' where both fit alike
 */
function combOf(peaks: Peaks, range: CombRange): Comb | 'either' | undefined {
  const comb = searchComb(peaks, range);
  if (!comb) return undefined;
  const off = (k: number) => Math.abs(cents(k * comb.f0Hz, range.targetHz));
  for (const k of [2, 3]) {
    if (off(k) > off(1)) continue;
    const on = (shared: boolean) =>
      comb.matches.reduce((s, m) => s + ((m.n % k === 0) === shared ? peaks.amplitude[m.peak]! : 0), 0);
    const own = on(false) / on(true);
    if (own > OWN_STRONG) continue;
    if (own > OWN_WEAK) return 'either';
    return searchComb(peaks, { ...range, lowCents: cents(comb.f0Hz, range.targetHz) + 0.5 * cents(k, 1) });
  }
  return comb;
}
/** Strength of the teeth that only the lower string has, against those of both: of neighbours that ring, and of strings (measured: to 0.28; from 0.42). */
const OWN_WEAK = 0.32;
const OWN_STRONG = 0.38;

/** Reads the stretch [startS, endS) of a note, s. */
export function look(take: Take, startS: number, endS: number): MeasureOutcome {
  const { x, rate, section, options } = take;
  const { targetHz, lowCents = SEARCH_LOW_CENTS, highCents = SEARCH_HIGH_CENTS } = options;
  const lastsS = endS - startS;
  const tones = tonesOf(take, startS, endS, RANGE_DB, ABOVE_FLOOR);
  const { from, to, peaks } = tones;
  const comb = combOf(peaks, { targetHz, lowCents, highCents, maxPartials: MAX_PARTIALS });
  if (!comb) return refuse('no-pitch');
  if (comb === 'either') return refuse('two-strings', 'Another string rings an octave below. Damp the others.');
  if (isMainsHum(x, rate, comb, peaks, section)) return refuse('hum');

  const windowS = windowOf(comb.f0Hz, lastsS);
  const matched = comb.matches.map(({ n, peak: i }) => ({ n, hz: peaks.frequencyHz[i]!, floor: peaks.floor[i]! }));
  const { tracks, noise } = demodulateTones(x, rate, from, to, matched, windowS, lastsS);
  const course = fitCourse(
    tracks,
    noise,
    options.sustained || section.slowAttack ? (options.sharp ?? AT_REST) : 'sought',
  );
  if (!course) return refuse('no-pitch');
  const partials = course.partials.filter((p) => p.residualRad < COHERENT_RAD);
  const strength = (list: { amplitude: number }[]) => list.reduce((sum, p) => sum + p.amplitude, 0);
  const top = Math.max(...partials.map((p) => p.amplitude));
  const wavers = Math.abs(course.driftCents) < BACK_AND_FORTH * course.unsteadyCents;
  const moved = course.unsteadyCents / (unsteadyLimit(comb.f0Hz) * (wavers ? WAVERS : 1));
  const coherent =
    strength(partials) > LEAST_COHERENT * strength(course.partials) &&
    partials.some((p) => p.amplitude > 0.25 * top && p.residualRad < ONE_COHERENT_RAD);
  const together = partials.length >= TOGETHER && strength(partials) > MOSTLY * strength(course.partials);
  const least = together ? LEAST_SCORE - (LEAST_SCORE - LEAST_WAVERING_SCORE) * course.together : LEAST_SCORE;
  if (!coherent || comb.score < least) {
    // A knock has no such series of partials.
    const turned = course.unsteadyCents > unsteadyLimit(comb.f0Hz) && course.partials.length > 3 && lastsS > 0.3;
    return refuse(turned ? 'unsteady' : 'no-pitch');
  }
  if (partials.length <= FEW_PARTIALS && Math.PI * comb.f0Hz < LEAST_Q * course.decayPerS) return refuse('no-pitch');
  const law = fitStiffString(partials);
  let limit = OFF_COMB_LIMIT;
  if (!options.sustained) {
    // At first two strings are told best: one of them may die away soon.
    const at = section.onsetS;
    const first = tonesOf(take, at + EARLY_FROM_S, at + EARLY_TO_S, EARLY_RANGE_DB, EARLY_ABOVE);
    const early = offCombShare(take, first, law, Infinity);
    if (early > EARLY_OFF_LIMIT) return refuse('two-strings');
    limit += GRANTED_LATER * course.together * Math.max(0, 1 - early / NOTHING_EARLY);
  }
  if (offCombShare(take, tones, law, Math.max(APART_CENTS, course.sharp.cents)) > limit) return refuse('two-strings');
  if (moved > 1 || course.sharp.cents > LARGEST_SHARP) return refuse('unsteady');

  const sigmaCents = Math.hypot(
    law.sigmaCents,
    course.sigmaCents,
    SIGMA_FLOOR_CENTS,
    MOVED_SHARE * course.unsteadyCents,
  );
  if (sigmaCents > sigmaLimit(comb.f0Hz))
    return refuse(
      lastsS < 0.3 ? 'too-short' : course.unsteadyCents > unsteadyLimit(comb.f0Hz) ? 'unsteady' : 'no-pitch',
    );
  const tone = partials.reduce((s, p) => s + p.amplitude ** 2, 0);
  const noisePower = noise.reduce((s, v) => s + v * v, 0) / noise.length;
  return {
    ok: true,
    frequencyHz: law.firstPartialHz,
    cents: cents(law.firstPartialHz, targetHz),
    sigmaCents,
    inharmonicity: partials.length >= 3 ? law.b : null,
    snrDb: Math.min(120, 10 * Math.log10(tone / Math.max(noisePower, 1e-18))),
    fromS: startS,
    toS: endS,
    partials: partials.map(({ n, frequencyHz, sigmaHz }) => ({ n, frequencyHz, sigmaHz })),
    glideCents: options.sustained ? 0 : course.sharp.cents,
    sharpTauS: course.sharp.tauS,
    driftCents: course.driftCents,
  };
}
