import { ratioOfCents } from '../music';
import { decimate } from './decimate';
import { findGap, lastClippedSample } from './faults';
import { withoutHum } from './hum';
import { look, SEARCH_LOW_CENTS, type Take } from './look';
import { refuse } from './refusals';
import { chooseSection, findSections, quietStretches, type Section } from './section';
import type { MeasureOptions, Outcome } from './types';

/** Longest stretch used, s: beyond it the slower polarisation pulls; a low string needs its periods. */
const longestS = (targetHz: number): number => Math.min(1.3, Math.max(0.8, 50 / targetHz));
/** Where the stretch that begins at fromS ends, s. */
const stretchEndS = ({ section, targetHz, x, rate }: Take, fromS: number): number =>
  Math.min(section.endS, fromS + longestS(targetHz), x.length / rate);
/** Below this peak the recording is taken as silent (about -74 dB of full scale). */
const SILENT = 2e-4;
/** What one look could not clear up is looked at again this much later, if so much of it is left, s (house estimates). */
const SETTLED_AFTER_S = 0.25;
const LEAST_SETTLED_S = 0.5;
/** A note whose attack wavered has settled if it moves less than this share of what is allowed (house estimate). */
const SETTLED_SHARE = 0.5;
/**
 * Share of its limit that the split partials keep up in both looks where two strings beat on: one string's splits die away.
 * A head or a soundboard that bends the partials so far off their law, rms cents, splits them too (house estimates).
 */
const SPLIT_TWICE = 0.55;
const BENT_CENTS = 8;

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

/** What to leave out after the onset, s: the pick's noise, and longest under a bow. */
function attackGapS(section: Section, windowS: number): number {
  const lasts = section.endS - section.onsetS;
  if (section.cutIn) return Math.min(0.15, 0.15 * lasts);
  if (section.slowAttack) return Math.min(0.3, 0.3 * lasts);
  return 0.012 + 0.1 * windowS;
}

/** Looks at the stretch [startS, endS), s, and once more at the settled part where one look cannot tell. */
function judge(take: Take, startS: number, endS: number, gapBefore: (untilS: number) => boolean): Outcome {
  const first = look(take, startS, endS);
  const { outcome } = first;
  const unsteady = !outcome.ok && outcome.reason === 'unsteady';
  if (!unsteady && !(outcome.ok && first.undescribed)) return outcome;
  const laterS = startS + SETTLED_AFTER_S;
  const laterEndS = stretchEndS(take, laterS);
  if (laterEndS - laterS < LEAST_SETTLED_S || gapBefore(laterEndS)) return outcome;
  const later = look(take, laterS, laterEndS);
  // What wavered may have been the attack: the settled part is asked by itself.
  if (unsteady) return later.outcome.ok && later.moved < SETTLED_SHARE ? later.outcome : outcome;
  // What one string does not describe may be two: they beat on when the attack is long over.
  const still = !later.outcome.ok && (later.outcome.reason === 'unsteady' || later.outcome.reason === 'two-strings');
  const two = first.bentCents < BENT_CENTS && (still || Math.min(first.split, later.split) > SPLIT_TWICE);
  return two ? refuse('two-strings') : outcome;
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
  const heard = raw.subarray(0, Math.floor((section.endS + 0.02) * sampleRate));
  const clippedS = lastClippedSample(heard, sampleRate, peak) / sampleRate;
  const clipped = clippedS > section.onsetS;
  if (clipped) startS = Math.max(startS, clippedS + 0.01);
  const gapBefore = (untilS: number) =>
    findGap(raw.subarray(0, Math.floor(untilS * sampleRate)), sampleRate, peak) >= 0;
  const take: Take = { x, rate, maxHz, section, targetHz, plucked: !options.sustained && !section.cutIn };
  const endS = stretchEndS(take, startS);
  if (gapBefore(endS)) return refuse('gap');
  const lastsS = endS - startS;
  if (clipped && section.endS - startS < 0.35) return refuse('clipped');
  if (lastsS < 0.05 || lastsS < 2.2 / targetHz) return refuse('too-short');

  const outcome = judge(take, startS, endS, gapBefore);
  return clipped && !outcome.ok ? refuse('clipped') : outcome;
}
