import { ratioOfCents } from '../../music';
import { decimate, decimationFor } from '../signal/decimate';
import { firstLoss, lastClippedSample, LONGEST_GAP_S, LOSS_SIDE_S } from '../recording/faults';
import { withoutHum } from '../recording/hum';
import { LARGEST_SHARP, look, MAX_PARTIALS, SEARCH_LOW_CENTS, tonesOf, type Take } from './look';
import { refuse } from './refusals';
import { chooseSection, findSections, quietStretches, type Section } from '../recording/section';
import type { MeasureOptions, MeasureOutcome, Reading } from './types';
import { clamp } from '../../base';

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
/** A start sharper than this is told better by what comes after it, the more the sharper, cents (house estimate). */
const DOUBTED_SHARP = 6;
/** What is read of a note that is torn, at least, s. */
const LEAST_WHOLE_S = 0.45;

/** Tones that ring before the note are looked for until so long before it, in a stretch of such lengths, s; how they stand out (house estimates). */
const BEFORE_S = 0.03;
const LEAST_BEFORE_S = 0.12;
const MOST_BEFORE_S = 0.5;
const RANGE_BEFORE_DB = 40;
const STANDS_BEFORE = 8;

function peakOf(samples: Float64Array): number {
  let p = 0;
  for (let i = 0; i < samples.length; i++) p = Math.max(p, Math.abs(samples[i]!));
  return p;
}

/** Removes the mean, which a cheap converter adds. */
function withoutOffset(samples: ArrayLike<number>): Float64Array {
  const x = new Float64Array(samples);
  let mean = 0;
  for (let i = 0; i < x.length; i++) mean += x[i]!;
  mean /= Math.max(1, x.length);
  for (let i = 0; i < x.length; i++) x[i]! -= mean;
  return x;
}

/** One reading between two of the same note, `share` of the way to the second; how far they lie apart is in its doubt. */
function between(a: Reading, b: Reading, share: number): Reading {
  const mix = (x: number, y: number) => Math.exp((1 - share) * Math.log(x) + share * Math.log(y));
  const frequencyHz = mix(a.frequencyHz, b.frequencyHz);
  const apart = b.cents - a.cents;
  return {
    ...a,
    frequencyHz,
    cents: a.cents + share * apart,
    sigmaCents: Math.sqrt(
      (1 - share) * a.sigmaCents ** 2 + share * b.sigmaCents ** 2 + share * (1 - share) * apart ** 2,
    ),
    // A partial that only the second has goes with the string.
    partials: b.partials.map((p) => {
      const other = a.partials.find(({ n }) => n === p.n);
      return {
        ...p,
        frequencyHz: other ? mix(other.frequencyHz, p.frequencyHz) : p.frequencyHz * (frequencyHz / b.frequencyHz),
      };
    }),
  };
}

/** Looks at the stretch [startS, endS), s, and at its settled part where the attack wavered or the start was very sharp. */
function judge(take: Take, startS: number, endS: number): MeasureOutcome {
  const outcome = look(take, startS, endS);
  const laterS = startS + SETTLED_AFTER_S;
  const doubt = outcome.ok ? (outcome.glideCents - DOUBTED_SHARP) / (LARGEST_SHARP - DOUBTED_SHARP) : 1;
  if (doubt <= 0 || (!outcome.ok && outcome.reason !== 'unsteady') || endS - laterS < LEAST_SETTLED_S) return outcome;
  const later = look(take, laterS, endS);
  if (!later.ok) return outcome;
  return outcome.ok ? between(outcome, later, doubt) : later;
}

/**
 * Measures one pluck: samples in, one reading or a refusal with its reason out.
 * Mains hum taken out, coarse comb around the named string, demodulation of every partial from the attack to 1.1 s after the
 * onset, one sharp start by the note's energy, robust fit of the stiff-string law. Reports the first partial f0 sqrt(1 + B) of
 * the string at rest.
 * @param samples mono, -1..1
 * @param sampleRate Hz, 8000 to 192000
 */
export function measure(samples: ArrayLike<number>, sampleRate: number, options: MeasureOptions): MeasureOutcome {
  const { targetHz, onsetS, sustained } = options;
  const raw = withoutOffset(samples);
  if (raw.length < 0.05 * sampleRate) return refuse('too-short');
  const peak = peakOf(raw);
  if (peak < SILENT) return refuse('too-quiet');

  const topHz = clamp(MAX_PARTIALS * targetHz, LOWEST_TOP_HZ, HIGHEST_HZ);
  const factor = decimationFor(sampleRate, topHz);
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
  let endS = Math.min(
    section.endS,
    sustained ? Infinity : section.onsetS + READ_UNTIL_S + (startS - section.onsetS - attackS),
    x.length / rate,
  );
  // What comes before a loss of samples is read where it is long enough by itself; what begins after a gap is no pluck.
  const lookFrom = Math.max(0, Math.floor((section.onsetS - LONGEST_GAP_S) * sampleRate));
  const lost = firstLoss(
    raw.subarray(lookFrom, Math.ceil((endS + LOSS_SIDE_S) * sampleRate)),
    sampleRate,
    peak,
    Math.floor(startS * sampleRate) - lookFrom,
  );
  const lostS = lost < 0 ? Infinity : (lookFrom + lost) / sampleRate;
  if (lostS < Math.min(endS, startS + LEAST_WHOLE_S)) return refuse('gap');
  endS = Math.min(endS, lostS);
  const lastsS = endS - startS;
  if (clipped && section.endS - startS < 0.35) return refuse('clipped');
  if (lastsS < 0.05 || lastsS < 2.2 / targetHz) return refuse('too-short');

  const take = { x, rate, maxHz, section, options };
  const beforeS = section.onsetS - BEFORE_S;
  if (!sustained && !options.old && beforeS > LEAST_BEFORE_S) {
    const { peaks } = tonesOf(take, Math.max(0, beforeS - MOST_BEFORE_S), beforeS, RANGE_BEFORE_DB, STANDS_BEFORE);
    const old = peaks.frequencyHz.map((frequencyHz, i) => ({ frequencyHz, amplitude: peaks.amplitude[i]! }));
    take.options = { ...options, old };
  }
  const outcome = judge(take, startS, endS);
  return clipped && !outcome.ok ? refuse('clipped') : outcome;
}
