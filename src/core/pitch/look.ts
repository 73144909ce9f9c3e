import { cents } from '../music';
import { searchComb } from './comb';
import { demodulate, type PartialTrack } from './demodulate';
import { amplitudeSpectrum, powerOfTwo } from './fft';
import { fitGlide, type PartialFit } from './glide';
import { isMainsHum, offCombShare, type LongSpectrum } from './purity';
import { findPeaks } from './peaks';
import { refuse } from './refusals';
import type { Section } from './section';
import { refineBySharedGlide } from './shared-glide';
import { fitStiffString } from './stiff';
import { APART_CENTS, isFalseCommonPitch, isOctavePair, splitShare } from './splits';
import { unsteadinessCents } from './steadiness';
import type { Outcome, Reading, RefusalReason } from './types';

/** Where the named string is looked for, cents around its target: slack strings below, over-tight ones above. */
export const SEARCH_LOW_CENTS = -1250;
export const SEARCH_HIGH_CENTS = 560;
const MAX_PARTIALS = 28;
/** Tonal power off the comb above which two strings sound (measured: pairs read 20 % and more, single strings to 8 %). */
const OFF_COMB_LIMIT = 0.13;
/** Share of split partials above which two strings sound (house estimate, set by the pitch benchmark). */
const SPLIT_LIMIT = 0.42;
/** Rms movement of the pitch above which a reading is refused, cents: the fewer periods, the less it tells (house estimate). */
const unsteadyLimit = (frequencyHz: number): number => 1.2 + 40 / frequencyHz;
/** Standard error above which a reading is no reading, cents; a low string is granted more (house estimate). */
const sigmaLimit = (frequencyHz: number): number => 1.9 + 40 / frequencyHz;
/** No pluck starts this much sharp: the string was let down while it sounded, cents (house estimate). */
const LARGEST_GLIDE = 20;
/** Each sign of a second string, as a share of its limit; together they may reach this (house estimate). */
const SECOND_STRING_LIMIT = 1.3;
/**
 * Misfit of the two polarisations' law below which it describes the note. In the benchmark's recordings nearly every pluck
 * lies below, near unisons above 3.5, octave pairs above 1.6, vibrato and turning tuners above 5 (house estimate).
 */
const DESCRIBED_BELOW = 1.5;
/** Misfit above which it is no single string's: sampled instruments reach 7.0, near unisons lie at 5 to 9 (house estimate, same). */
const NO_STRING_ABOVE = 7.2;
/** A partial above this misfit is not the string's alone; so much of the sound may be such (house estimates, same). */
const ALIEN_ABOVE = 4;
const ALIEN_LIMIT = 0.52;
/**
 * So few partials that die within so few periods (Q = pi f / decay) are a knock: of the benchmark's plucks one in 300 has so
 * few, with a Q of 100 and more (house estimates).
 */
const FEW_PARTIALS = 4;
const LEAST_Q = 50;
/** Least share of the matched amplitude that must keep its phase (house estimate). */
const LEAST_COHERENT = 0.4;

/** Two polarisations and the body leave this much in every reading, cents (house estimate, set by the pitch benchmark). */
const SIGMA_FLOOR_CENTS = 0.05;

/** The faster a note dies, the sooner its slower polarisation takes over: cents for a decay of 1 / s (house estimate, same). */
const SIGMA_DECAY_CENTS_S = 0.01;

/** How fast the note decays, 1 / s: of its partials, weighted by amplitude. */
function decayPerS(tracks: PartialTrack[], partials: PartialFit[]): number {
  let sum = 0;
  let weight = 0;
  for (const { n, amplitude, weight: used } of partials) {
    const track = tracks.find((t) => t.n === n)!;
    const end = used.findIndex((w) => w === 0);
    const last = (end < 0 ? used.length : end) - 1;
    if (last < 1) continue;
    sum +=
      (amplitude * Math.log(track.amplitude[0]! / track.amplitude[last]!)) / (track.timeS[last]! - track.timeS[0]!);
    weight += amplitude;
  }
  return Math.max(0, sum / Math.max(weight, 1e-12));
}

/** Share of the partials, weighted by the root of their amplitude, that two decaying tones do not describe. */
function alienShare(partials: PartialFit[]): number {
  let alien = 0;
  let all = 0;
  for (const { amplitude, misfit = 0 } of partials) {
    all += Math.sqrt(amplitude);
    if (misfit > ALIEN_ABOVE) alien += Math.sqrt(amplitude);
  }
  return alien / all;
}

/** Rms distance of the partials from the stiff-string law, weighted by amplitude, cents. */
function bentOff(partials: PartialFit[], deviationCents: number[]): number {
  let sum = 0;
  let all = 0;
  partials.forEach(({ amplitude }, i) => {
    sum += amplitude * deviationCents[i]! ** 2;
    all += amplitude;
  });
  return Math.sqrt(sum / all);
}

/**
 * Length of the demodulation's window, s: whole periods, so that the neighbouring partials fall on its nulls; four, or the
 * 20 ms of a high string, and a fifth of a note that is over sooner.
 */
function windowOf(f0Hz: number, lastsS: number): number {
  const periods = Math.min(Math.max(4, Math.round(0.02 * f0Hz)), Math.max(2, Math.round(0.2 * lastsS * f0Hz)));
  return Math.min(periods / f0Hz, 0.5 * lastsS);
}

/** A note as `measure` hears it: without offset, hum and what lies above the string's partials. */
export interface Take {
  x: Float64Array;
  /** Hz. */
  rate: number;
  maxHz: number;
  section: Section;
  targetHz: number;
  /** The recording holds the onset. */
  plucked: boolean;
}

/** What a look at a stretch of a note found, and the signs that one look may misread. */
export interface Look {
  outcome: Outcome;
  /** Two decaying tones a partial, as one string has, were tried and do not describe it. */
  undescribed: boolean;
  /** Rms movement of the pitch, and share of split partials, of their limits. */
  moved: number;
  split: number;
  /** Rms distance of the partials from the stiff-string law, weighted by amplitude, cents. */
  bentCents: number;
}

/** Reads the stretch [startS, endS) of a note, s. */
export function look(take: Take, startS: number, endS: number): Look {
  const { x, rate, maxHz, section, targetHz, plucked } = take;
  const lastsS = endS - startS;
  const signs = { undescribed: false, moved: 0, split: 0, bentCents: 0 };
  const refused = (reason: RefusalReason): Look => ({ ...signs, outcome: refuse(reason) });
  const from = Math.floor(startS * rate);
  const to = Math.floor(endS * rate);
  const size = powerOfTwo(2 * (to - from));
  const spectrum = amplitudeSpectrum(x, from, to, size, new Float64Array(size / 2));
  const hzPerBin = rate / size;
  const lobeBins = (2 * size) / (to - from);
  const bins = Math.min(size / 2 - 2, Math.floor(maxHz / hzPerBin));
  const peaks = findPeaks(spectrum, bins, hzPerBin, lobeBins, 20, 62, 4);
  const comb = searchComb(peaks, {
    targetHz,
    lowCents: SEARCH_LOW_CENTS,
    highCents: SEARCH_HIGH_CENTS,
    maxPartials: MAX_PARTIALS,
  });
  if (!comb) return refused('no-pitch');

  const long: LongSpectrum = { peaks, hzPerBin, lobeBins };
  if (isMainsHum(x, rate, comb, peaks, section)) return refused('hum');

  const windowS = windowOf(comb.f0Hz, lastsS);
  const tracks: PartialTrack[] = [];
  const noise: number[] = [];
  for (const { n, peak: i } of comb.matches) {
    const track = demodulate(x, rate, from, to, n, peaks.frequencyHz[i]!, windowS);
    if (!track) continue;
    tracks.push(track);
    // From one part of the complex noise to its amplitude, and from the whole stretch to a window.
    noise.push(Math.SQRT2 * peaks.floor[i]! * Math.sqrt(lastsS / windowS));
  }
  const first = fitGlide(tracks, noise, section.onsetS, plucked);
  const glide = plucked && !section.slowAttack ? refineBySharedGlide(tracks, noise, section.onsetS, first) : first;
  const partials = glide.partials.filter((p) => p.residualRad < 1.5);
  if (partials.length === 0) return refused('no-pitch');
  const stiff = fitStiffString(partials, comb.b);

  signs.moved = unsteadinessCents(partials, tracks[0]!.timeS) / unsteadyLimit(comb.f0Hz);
  const strength = (list: { amplitude: number }[]) => list.reduce((sum, p) => sum + p.amplitude, 0);
  const top = Math.max(...partials.map((p) => p.amplitude));
  const coherent =
    strength(partials) > LEAST_COHERENT * strength(glide.partials) &&
    partials.some((p) => p.amplitude > 0.25 * top && p.residualRad < 0.5);
  if (!coherent || (partials.length === 1 && lastsS < 0.25) || comb.score < 0.3) {
    // A knock has no such series of partials.
    const wavers = signs.moved > 1 && glide.partials.length > 3 && lastsS > 0.3;
    return refused(wavers ? 'unsteady' : 'no-pitch');
  }
  const decay = decayPerS(tracks, partials);
  if (partials.length <= FEW_PARTIALS && Math.PI * comb.f0Hz < LEAST_Q * decay) return refused('no-pitch');
  signs.bentCents = bentOff(partials, stiff.deviationCents);
  // Two polarisations that beat look unsteady, or like a second string, until their law is seen to describe them.
  const described = glide.misfit < DESCRIBED_BELOW && alienShare(partials) < ALIEN_LIMIT;
  signs.undescribed = !described && Number.isFinite(glide.misfit);
  const apartCents = described ? Infinity : Math.max(APART_CENTS, glide.glideCents);
  const offComb = offCombShare(x, rate, from, to, long, stiff, section, apartCents) / OFF_COMB_LIMIT;
  if (offComb > 1) return refused('two-strings');
  const unsteady = !described && signs.moved > 1;
  if (unsteady || glide.glideCents > LARGEST_GLIDE) return refused('unsteady');
  if (!described) signs.split = splitShare(tracks, partials) / SPLIT_LIMIT;
  const wild = signs.undescribed && glide.misfit > NO_STRING_ABOVE;
  const second = wild || signs.split > 1 || offComb + signs.split > SECOND_STRING_LIMIT;
  if (second || isFalseCommonPitch(partials) || isOctavePair(partials, stiff.deviationCents)) {
    return refused('two-strings');
  }

  const sigmaCents = Math.hypot(stiff.sigmaCents, glide.sigmaCents, SIGMA_FLOOR_CENTS, SIGMA_DECAY_CENTS_S * decay);
  if (sigmaCents > sigmaLimit(comb.f0Hz)) return refused(lastsS < 0.3 ? 'too-short' : 'no-pitch');
  const tone = partials.reduce((s, p) => s + p.amplitude ** 2, 0);
  const noisePower = noise.reduce((s, v) => s + v * v, 0) / noise.length;
  const reading: Reading = {
    ok: true,
    frequencyHz: stiff.firstPartialHz,
    cents: cents(stiff.firstPartialHz, targetHz),
    sigmaCents,
    inharmonicity: partials.length >= 3 ? stiff.b : null,
    snrDb: Math.min(120, 10 * Math.log10(tone / Math.max(noisePower, 1e-18))),
    fromS: startS,
    toS: endS,
    partials: partials.map(({ n, frequencyHz, sigmaHz }) => ({ n, frequencyHz, sigmaHz })),
    glideCents: glide.glideCents,
  };
  return { ...signs, outcome: reading };
}
