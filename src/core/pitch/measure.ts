import { cents, ratioOfCents } from '../music';
import { searchComb } from './comb';
import { decimate } from './decimate';
import { demodulate, type PartialTrack } from './demodulate';
import { findGap, lastClippedSample } from './faults';
import { amplitudeSpectrum, powerOfTwo } from './fft';
import { fitGlide, type PartialFit } from './glide';
import { withoutHum } from './hum';
import { isMainsHum, offCombShare, type LongSpectrum } from './purity';
import { findPeaks } from './peaks';
import { refuse } from './refusals';
import { chooseSection, findSections, quietStretches, type Section } from './section';
import { refineBySharedGlide } from './shared-glide';
import { fitStiffString } from './stiff';
import { APART_CENTS, isFalseCommonPitch, isOctavePair, splitShare } from './splits';
import { unsteadinessCents } from './steadiness';
import type { MeasureOptions, Outcome } from './types';

/** Where the named string is looked for, cents around its target: slack strings below, over-tight ones above. */
export const SEARCH_LOW_CENTS = -1250;
export const SEARCH_HIGH_CENTS = 560;
const MAX_PARTIALS = 28;
/** Longest stretch used, s: beyond it the slower polarisation pulls; a low string needs its periods. */
const longestS = (targetHz: number): number => Math.min(1.3, Math.max(0.8, 50 / targetHz));
/** Below this peak the recording is taken as silent (about -74 dB of full scale). */
const SILENT = 2e-4;
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
/** Misfit above which it is no single string's: sampled instruments reach 6.3, near unisons lie at 5 to 9 (house estimate, same). */
const NO_STRING_ABOVE = 7.2;
/** A partial above this misfit is not the string's alone; so much of the sound may be such (house estimates, same). */
const ALIEN_ABOVE = 4;
const ALIEN_LIMIT = 0.52;
/** A note that wavered is read again this much later, if so much of it is left, s (house estimates). */
const SETTLED_AFTER_S = 0.25;
const LEAST_SETTLED_S = 0.5;
/** So few partials that die within so few periods (Q = pi f / decay) are a knock: of the benchmark's plucks one in 300 has so few, with a Q of 100 and more (house estimates). */
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

function peakOf(samples: Float64Array): number {
  let p = 0;
  for (let i = 0; i < samples.length; i++) p = Math.max(p, Math.abs(samples[i]!));
  return p;
}

/** Removes the mean, which a cheap converter adds. */
function withoutOffset(samples: ArrayLike<number>): Float64Array {
  const x = Float64Array.from(samples);
  let mean = 0;
  for (let i = 0; i < x.length; i++) mean += x[i]!;
  mean /= Math.max(1, x.length);
  for (let i = 0; i < x.length; i++) x[i]! -= mean;
  return x;
}

/**
 * Length of the demodulation's window, s: whole periods, so that the neighbouring partials fall on its nulls; four, or the
 * 20 ms of a high string, and a fifth of a note that is over sooner.
 */
function windowOf(f0Hz: number, lastsS: number): number {
  const periods = Math.min(Math.max(4, Math.round(0.02 * f0Hz)), Math.max(2, Math.round(0.2 * lastsS * f0Hz)));
  return Math.min(periods / f0Hz, 0.5 * lastsS);
}

/** What to leave out after the onset, s: the pick's noise, and longest under a bow. */
function attackGapS(section: Section, windowS: number): number {
  const lasts = section.endS - section.onsetS;
  if (section.cutIn) return Math.min(0.15, 0.15 * lasts);
  if (section.slowAttack) return Math.min(0.3, 0.3 * lasts);
  return 0.012 + 0.1 * windowS;
}

/** A note as `measure` hears it: without offset, hum and what lies above the string's partials. */
interface Take {
  x: Float64Array;
  /** Hz. */
  rate: number;
  maxHz: number;
  section: Section;
  targetHz: number;
  /** The recording holds the onset. */
  plucked: boolean;
}

/** Reads the stretch [startS, endS) of a note, s. */
function readStretch(take: Take, startS: number, endS: number): Outcome {
  const { x, rate, maxHz, section, targetHz, plucked } = take;
  const lastsS = endS - startS;
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
  if (!comb) return refuse('no-pitch');

  const long: LongSpectrum = { peaks, hzPerBin, lobeBins };
  if (isMainsHum(x, rate, comb, peaks, section)) return refuse('hum');

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
  if (partials.length === 0) return refuse('no-pitch');
  const stiff = fitStiffString(partials, comb.b);

  const moved = unsteadinessCents(partials, tracks[0]!.timeS);
  const strength = (list: { amplitude: number }[]) => list.reduce((sum, p) => sum + p.amplitude, 0);
  const top = Math.max(...partials.map((p) => p.amplitude));
  const coherent =
    strength(partials) > LEAST_COHERENT * strength(glide.partials) &&
    partials.some((p) => p.amplitude > 0.25 * top && p.residualRad < 0.5);
  if (!coherent || (partials.length === 1 && lastsS < 0.25) || comb.score < 0.3) {
    // A knock has no such series of partials.
    const wavers = moved > unsteadyLimit(comb.f0Hz) && glide.partials.length > 3 && lastsS > 0.3;
    return refuse(wavers ? 'unsteady' : 'no-pitch');
  }
  const decay = decayPerS(tracks, partials);
  if (partials.length <= FEW_PARTIALS && Math.PI * comb.f0Hz < LEAST_Q * decay) return refuse('no-pitch');
  // Two polarisations that beat look unsteady, or like a second string, until their law is seen to describe them.
  const described = glide.misfit < DESCRIBED_BELOW && alienShare(partials) < ALIEN_LIMIT;
  const apartCents = described ? Infinity : Math.max(APART_CENTS, glide.glideCents);
  const offComb = offCombShare(x, rate, from, to, long, stiff, section, apartCents) / OFF_COMB_LIMIT;
  if (offComb > 1) return refuse('two-strings');
  const unsteady = !described && moved > unsteadyLimit(comb.f0Hz);
  if (unsteady || glide.glideCents > LARGEST_GLIDE) return refuse('unsteady');
  const split = described ? 0 : splitShare(tracks, partials) / SPLIT_LIMIT;
  const wild = Number.isFinite(glide.misfit) && glide.misfit > NO_STRING_ABOVE;
  const second = wild || split > 1 || offComb + split > SECOND_STRING_LIMIT;
  if (second || isFalseCommonPitch(partials) || isOctavePair(partials, stiff.deviationCents)) {
    return refuse('two-strings');
  }

  const sigmaCents = Math.hypot(stiff.sigmaCents, glide.sigmaCents, SIGMA_FLOOR_CENTS, SIGMA_DECAY_CENTS_S * decay);
  if (sigmaCents > sigmaLimit(comb.f0Hz)) return refuse(lastsS < 0.3 ? 'too-short' : 'no-pitch');
  const tone = partials.reduce((s, p) => s + p.amplitude ** 2, 0);
  const noisePower = noise.reduce((s, v) => s + v * v, 0) / noise.length;
  return {
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
}

/**
 * Measures one pluck: samples in, one reading or a refusal with its reason out.
 * Mains hum taken out, coarse comb around the named string, demodulation of every partial over at most 1.3 s after the
 * attack, two decaying tones a partial under one common sharp start, robust fit of the stiff-string law. Reports the first
 * partial f0 sqrt(1 + B).
 * @param samples mono, -1..1
 * @param sampleRate Hz, 8000 to 192000
 */
export function measure(samples: ArrayLike<number>, sampleRate: number, options: MeasureOptions): Outcome {
  const { targetHz } = options;
  const raw = withoutOffset(samples);
  if (raw.length < 0.05 * sampleRate) return refuse('too-short');
  const peak = peakOf(raw);
  if (peak < SILENT) return refuse('too-quiet');

  const topHz = Math.min(12000, Math.max(2200, 26 * targetHz));
  const factor = Math.max(1, Math.floor(sampleRate / (2.5 * topHz)));
  let x = decimate(raw, factor);
  const rate = sampleRate / factor;
  const maxHz = Math.min(topHz * 1.1, 0.44 * rate);

  const slowestS = 1 / (targetHz * ratioOfCents(SEARCH_LOW_CENTS));
  const sectionsOf = (samples: Float64Array) => findSections(samples, rate, Math.min(0.03, slowestS));
  let sections = options.sustained ? [] : sectionsOf(x);
  const clean = withoutHum(x, rate, quietStretches(sections, rate, x.length));
  if (clean) {
    x = clean;
    sections = sectionsOf(x);
  }
  const section = options.sustained
    ? { onsetS: 0, endS: x.length / rate, peakRms: peak, floorRms: 0, slowAttack: false, cutIn: true }
    : chooseSection(sections);
  if (!section) return refuse('no-pitch');

  let startS = options.sustained ? 0 : section.onsetS + attackGapS(section, 4 / targetHz);
  const clippedS = lastClippedSample(raw, sampleRate, peak) / sampleRate;
  if (clippedS > startS && clippedS <= section.endS + 0.02) startS = clippedS + 0.01;
  const clippedLate = startS > clippedS && clippedS > section.onsetS && section.endS - startS < 0.35;
  const endS = Math.min(section.endS, startS + longestS(targetHz), x.length / rate);
  if (findGap(raw.subarray(0, Math.floor(endS * sampleRate)), sampleRate, peak) >= 0) return refuse('gap');
  const lastsS = endS - startS;
  if (clippedLate) return refuse('clipped');
  if (lastsS < 0.05 || lastsS < 2.2 / targetHz) return refuse('too-short');

  const take: Take = { x, rate, maxHz, section, targetHz, plucked: !options.sustained && !section.cutIn };
  const outcome = readStretch(take, startS, endS);
  if (outcome.ok || outcome.reason !== 'unsteady' || lastsS < LEAST_SETTLED_S + SETTLED_AFTER_S) return outcome;
  // What wavered may have been the attack: the settled part is asked by itself.
  const settled = readStretch(take, startS + SETTLED_AFTER_S, endS);
  return settled.ok ? settled : outcome;
}
