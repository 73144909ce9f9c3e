import { ratioOfCents } from '../music';
import { decimate } from './decimate';
import { findGap, lastClippedSample } from './faults';
import { withoutHum } from './hum';
import { look, MAX_PARTIALS, SEARCH_LOW_CENTS, type Take } from './look';
import { refuse } from './refusals';
import { chooseSection, findSections, quietStretches, type Section } from './section';
import type { MeasureOptions, Outcome } from './types';

/** The stretch that is read ends this long after the onset at the latest, s: every pluck is read over the same part of its life. */
export const READ_UNTIL_S = 1.1;
/** What is left out after the onset, s, or this share of a short note; longest under a bow (house estimates). */
const ATTACK_S = 0.12;
const BOW_ATTACK_S = 0.3;
const ATTACK_SHARE = 0.15;
/** Partials are read up to here, Hz: higher ones tell little of a string's pitch. */
const HIGHEST_HZ = 6000;
const LOWEST_TOP_HZ = 1600;
/** Below this peak the recording is taken as silent (about -74 dB of full scale). */
const SILENT = 2e-4;
/** A wavering attack is left out, this much later, if so much of the note is left, s (house estimates). */
const SETTLED_AFTER_S = 0.25;
const LEAST_SETTLED_S = 0.5;

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

/** Looks at the stretch [startS, endS), s, and at its settled part where the attack wavered. */
function judge(take: Take, startS: number, endS: number): Outcome {
  const outcome = look(take, startS, endS);
  const laterS = startS + SETTLED_AFTER_S;
  if (outcome.ok || outcome.reason !== 'unsteady' || endS - laterS < LEAST_SETTLED_S) return outcome;
  const later = look(take, laterS, endS);
  return later.ok ? later : outcome;
}

/**
 * Measures one pluck: samples in, one reading or a refusal with its reason out.
 * Mains hum taken out, coarse comb around the named string, demodulation of every partial from the attack to 1.1 s after the
 * onset, one sharp start by the note's energy, robust fit of the stiff-string law. Reports the first partial f0 sqrt(1 + B) of
 * the string at rest.
 * @param samples mono, -1..1
 * @param sampleRate Hz, 8000 to 192000
 */
export function measure(samples: ArrayLike<number>, sampleRate: number, options: MeasureOptions): Outcome {
  const { targetHz, onsetS, sustained } = options;
  const raw = withoutOffset(samples);
  if (raw.length < 0.05 * sampleRate) return refuse('too-short');
  const peak = peakOf(raw);
  if (peak < SILENT) return refuse('too-quiet');

  const topHz = Math.min(HIGHEST_HZ, Math.max(LOWEST_TOP_HZ, MAX_PARTIALS * targetHz));
  const factor = Math.max(1, Math.floor(sampleRate / (2.5 * topHz)));
  let x = decimate(raw, factor);
  const rate = sampleRate / factor;
  const maxHz = Math.min(topHz * 1.1, 0.44 * rate);

  const slowestS = 1 / (targetHz * ratioOfCents(SEARCH_LOW_CENTS));
  const sectionsOf = (samples: Float64Array): Section[] =>
    sustained
      ? [{ onsetS: 0, endS: x.length / rate, peakRms: peak, floorRms: 0, slowAttack: false, cutIn: true }]
      : findSections(samples, rate, Math.min(0.03, slowestS), onsetS);
  let sections = sectionsOf(x);
  const clean = sustained ? undefined : withoutHum(x, rate, quietStretches(sections, rate, x.length));
  if (clean) {
    x = clean;
    sections = sectionsOf(x);
  }
  const section = chooseSection(sections);
  if (!section) return refuse('no-pitch');

  const lasts = section.endS - section.onsetS;
  const attackS = Math.min(section.slowAttack ? BOW_ATTACK_S : ATTACK_S, ATTACK_SHARE * lasts);
  let startS = sustained ? 0 : section.onsetS + attackS;
  const heard = raw.subarray(0, Math.floor((section.endS + 0.02) * sampleRate));
  const clippedS = lastClippedSample(heard, sampleRate, peak) / sampleRate;
  const clipped = clippedS > section.onsetS;
  if (clipped) startS = Math.max(startS, clippedS + 0.01);
  const endS = Math.min(
    section.endS,
    sustained ? Infinity : section.onsetS + READ_UNTIL_S + (startS - section.onsetS - attackS),
    x.length / rate,
  );
  if (findGap(raw.subarray(0, Math.floor(endS * sampleRate)), sampleRate, peak) >= 0) return refuse('gap');
  const lastsS = endS - startS;
  if (clipped && section.endS - startS < 0.35) return refuse('clipped');
  if (lastsS < 0.05 || lastsS < 2.2 / targetHz) return refuse('too-short');

  const outcome = judge({ x, rate, maxHz, section, options }, startS, endS);
  return clipped && !outcome.ok ? refuse('clipped') : outcome;
}
