import { cents as centsBetween } from '../../music';
import { agreeing } from '../partials/agreeing';
import { fitCourse } from '../partials/course';
import { decimate, decimationFor } from '../signal/decimate';
import { ABOVE_FLOOR, RANGE_DB, tonesOf } from '../reading/look';
import { demodulateTones } from '../signal/demodulate';
import type { Peaks } from '../signal/peaks';
import { findSections } from '../recording/section';
import { centsOfHz, hzOf, hzOfCents, peakAt, placeStrings, type StringComb } from './combs';
import type { StrummedString } from './strings';

export type StrumRefusal = 'not-heard' | 'shared' | 'course' | 'too-short' | 'uncertain' | 'no-reference';
export type StringHeard = { id: string } & (
  { ok: true; cents: number; sigmaCents: number } | { ok: false; reason: StrumRefusal }
);

/** Partials are looked for up to here, Hz. */
const TOP_HZ = 5000;
/** What is read begins so long after the first string was struck, s: the last one sounds by then; how long it is at most and at least. */
const AFTER_S = 0.4;
const LONGEST_S = 1.5;
const SHORTEST_S = 0.6;
/** A section this loud against the loudest begins the strum; its level is taken over this time at most, s (house estimates). */
const BEGINS = 0.3;
const LEVEL_S = 0.03;
/** Strings whose targets lie nearer than this are a course, cents. */
const COURSE_CENTS = 15;
/** What lies so near a partial and is louder than this share of it spoils it, Hz; the wider apart, the shorter the window that parts them. */
const NEAREST_HZ = 2.5;
const APART_HZ = [14, 10, 7, 5, 3.5, NEAREST_HZ];
const SPOILS = 0.12;
/** Nobody knows better than this where another string's partial lies, cents. */
const UNSURE_CENTS = 1;
/** A partial that another string may have there is so much louder than those around it at most (house estimate). */
const MARGIN = 2;
const NEIGHBOURS = 3;
/** Of the strength of all clean partials, so much goes with a shorter window. */
const MOST_OF = 0.7;
const ENOUGH = 4;
/** A window is so many periods long at least, and this share of what is read at most: fewer frames fit no course. */
const PERIODS = 4;
const WINDOW_SHARE = 0.53;
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

/** A peak that lies where a known partial of a string should be. */
interface Found {
  n: number;
  hz: number;
  /** Where it should be, Hz. */
  shouldHz: number;
  amplitude: number;
  floor: number;
  /** Its index among the peaks. */
  peak: number;
}
/** Peaks of a strum where a string's partials should be. */
const foundOf = (comb: StringComb, of: StringComb['all'], peaks: Peaks): Found[] =>
  of.flatMap(({ n, ratio }) => {
    const shouldHz = hzOf(comb, ratio);
    const peak = peakAt(peaks, shouldHz, Math.max(OWN_HZ, hzOfCents(shouldHz, OWN_CENTS)));
    if (peak < 0) return [];
    return [
      { n, hz: peaks.frequencyHz[peak]!, shouldHz, amplitude: peaks.amplitude[peak]!, floor: peaks.floor[peak]!, peak },
    ];
  });
const strength = (list: readonly Found[]): number => list.reduce((s, f) => s + f.amplitude, 0);

/** Pitches of strings that share partials: every so many of the higher one's, and of the lower one's. */
const SHARING = [
  [1, 2],
  [1, 3],
  [1, 4],
  [2, 3],
] as const;
/** Of a string's partials, every which one lies where the other string's may; undefined where they share none but high ones. */
function sharedWith(hz: number, otherHz: number): number | undefined {
  const near = (ratio: number) => Math.abs(centsBetween(ratio, 1)) < SHARING_CENTS;
  for (const [high, low] of SHARING) {
    if (near((hz * high) / (otherHz * low))) return high;
    if (near((otherHz * high) / (hz * low))) return low;
  }
  return undefined;
}

/** How loud a string can be at a frequency at most: what its partials near there are that no other string stands on, and a margin. */
function envelopeOf(comb: StringComb, combs: readonly StringComb[], peaks: Peaks): (hz: number) => number {
  const all = foundOf(comb, comb.all, peaks);
  const alone = all.filter(({ shouldHz }) =>
    combs.every((o) => o === comb || o.all.every((p) => Math.abs(hzOf(o, p.ratio) - shouldHz) > NEAREST_HZ)),
  );
  const own = alone.length >= NEIGHBOURS ? alone : all;
  return (hz) => {
    if (own.length === 0) return 0;
    const near = own.toSorted((a, b) => Math.abs(a.shouldHz - hz) - Math.abs(b.shouldHz - hz)).slice(0, NEIGHBOURS);
    return MARGIN * Math.exp(near.reduce((sum, p) => sum + Math.log(p.amplitude), 0) / near.length);
  };
}

/** How far partials lie from what they agree on, rms by their weight, cents. */
const scatterOf = (said: readonly { cents: number; sd: number }[], mean: number): number =>
  Math.sqrt(
    said.reduce((s, p) => s + (p.cents - mean) ** 2 / p.sd ** 2, 0) / said.reduce((s, p) => s + 1 / p.sd ** 2, 0),
  );

/** A strum as all its strings are read from: the stretch in which all of them sound, its tones, and where each string may have its own. */
interface Strum {
  x: Float64Array;
  rate: number;
  /** Samples. */
  from: number;
  to: number;
  lastsS: number;
  peaks: Peaks;
  combs: StringComb[];
  /** By string, where it may have partials, how loud at most, and within how many Hz that is known. */
  places: { hz: number; amplitude: number; unsureHz: number }[][];
}

function strumOf(
  samples: ArrayLike<number>,
  sampleRate: number,
  strings: readonly StrummedString[],
): Strum | StrumRefusal {
  const factor = decimationFor(sampleRate, TOP_HZ);
  const x = decimate(Float64Array.from(samples), factor);
  const rate = sampleRate / factor;
  const lowest = Math.min(...strings.map((s) => s.targetHz));
  const sections = findSections(x, rate, Math.min(LEVEL_S, 1 / lowest));
  const loudest = Math.max(...sections.map((s) => s.peakRms));
  const struck = sections.find((s) => s.peakRms > BEGINS * loudest);
  if (!struck) return 'not-heard';
  const startS = struck.onsetS + AFTER_S;
  const endS = Math.min(sections.at(-1)!.endS, x.length / rate, startS + LONGEST_S);
  if (endS - startS < SHORTEST_S) return 'too-short';
  const { from, to, peaks } = tonesOf({ x, rate, maxHz: TOP_HZ, options: {} }, startS, endS, RANGE_DB, ABOVE_FLOOR);
  const combs = placeStrings(strings, peaks, TOP_HZ);
  const places = combs.map((c) => {
    const loud = envelopeOf(c, combs, peaks);
    return c.all.map(({ ratio, sigmaCents }) => {
      const hz = hzOf(c, ratio);
      return { hz, amplitude: loud(hz), unsureHz: hzOfCents(hz, UNSURE_CENTS + sigmaCents) };
    });
  });
  return { x, rate, from, to, lastsS: endS - startS, peaks, combs, places };
}

/** How loud all else is, or may be, within so many Hz of a string's partial. */
function othersAt({ peaks, combs, places }: Strum, comb: StringComb, own: Found, apartHz: number): number {
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
}

/** The partials that nothing else comes near, by the widest distance that leaves most of them; none where all are spoilt. */
function cleanOf(strum: Strum, comb: StringComb, found: readonly Found[]): { clean: Found[]; apartHz: number } {
  const at = (apartHz: number) => found.filter((f) => othersAt(strum, comb, f, apartHz) < SPOILS * f.amplitude);
  const all = at(NEAREST_HZ);
  for (const apartHz of APART_HZ) {
    const clean = at(apartHz);
    if (clean.length >= Math.min(ENOUGH, all.length) && strength(clean) > MOST_OF * strength(all))
      return { clean, apartHz };
  }
  return { clean: all, apartHz: NEAREST_HZ };
}

/** What one string's own partials say; whether another string may have said it is not asked here. */
function readString(strum: Strum, comb: StringComb): StringHeard {
  const { x, rate, from, to, lastsS, peaks, combs } = strum;
  const { id, partials, targetHz, expectedCents, expectedSigmaCents } = comb.string;
  const refused = (reason: StrumRefusal): StringHeard => ({ id, ok: false, reason });
  if (partials.length === 0) return refused('no-reference');
  if (combs.some((o) => o !== comb && Math.abs(centsBetween(o.string.targetHz, targetHz)) < COURSE_CENTS))
    return refused('course');
  const known = comb.all.filter((p) => p.known);
  const found = foundOf(comb, known, peaks);
  if (found.length === 0) return refused('not-heard');
  const { clean, apartHz } = cleanOf(strum, comb, found);
  if (clean.length === 0) return refused('shared');
  const windowS = Math.min(Math.max(2 / apartHz, PERIODS / targetHz), WINDOW_SHARE * lastsS);
  const { tracks, noise } = demodulateTones(x, rate, from, to, clean, windowS, lastsS);
  const course = fitCourse(tracks, noise, 'sought');
  const steady = course?.partials.filter((p) => p.residualRad < COHERENT_RAD) ?? [];
  if (!course || steady.length === 0) return refused('uncertain');
  const top = Math.max(...steady.map((p) => p.amplitude));
  const said = steady.map((p) => {
    const { ratio, sigmaCents } = known.find((q) => q.n === p.n)!;
    const own = centsOfHz(p.frequencyHz, p.sigmaHz);
    // A faint one tells less: what is under it is not known.
    const sd = Math.hypot(sigmaCents, own, FLOOR_CENTS * Math.sqrt(top / p.amplitude));
    return { tone: clean.find((f) => f.n === p.n)!, cents: centsBetween(p.frequencyHz, targetHz * ratio), sd };
  });
  const { mean: cents, sigma } = agreeing(said);
  const sigmaCents = Math.hypot(sigma, course.sigmaCents, FLOOR_CENTS);
  if (scatterOf(said, cents) > DISAGREE || sigmaCents > LARGEST_SIGMA) return refused('uncertain');
  const agree = said
    .filter((p) => Math.abs(p.cents - cents) < Math.max(AGREES.cents, AGREES.sd * p.sd))
    .map((p) => p.tone);
  const loudest = Math.max(...agree.map((f) => f.amplitude)) / Math.max(...peaks.amplitude);
  if (loudest < FAINT_SHARE) return refused('not-heard');
  const isSurprise = Math.abs(cents - expectedCents) > Math.max(SURPRISE.cents, SURPRISE.sd * expectedSigmaCents);
  const isLoud = loudest > LOUD_SHARE && agree.some((f) => f.amplitude > LOUD * f.floor);
  const least = isSurprise ? SURPRISE.partials : isLoud ? 1 : LEAST_PARTIALS;
  if (agree.length < least) return refused('uncertain');
  // A string an octave, a twelfth or a fifth away stands on every second or third of these: the others have to say the same.
  const common = combs.flatMap((o) => sharedWith(targetHz, o.string.targetHz) ?? []);
  if (common.some((k) => k > 1 && agree.filter((f) => f.n % k !== 0).length < least)) return refused('shared');
  return { id, ok: true, cents, sigmaCents };
}

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
  const strum = strumOf(samples, sampleRate, strings);
  if (typeof strum === 'string') return strings.map(({ id }) => ({ id, ok: false, reason: strum }));
  // The lower ones first: what they surely have is not taken for a string above.
  const told = new Map<StringComb, StringHeard>();
  for (const comb of strum.combs.toSorted((a, b) => a.string.targetHz - b.string.targetHz)) {
    const outcome = readString(strum, comb);
    const { id, targetHz, expectedCents, expectedSigmaCents } = comb.string;
    const isUnsure = [...told].some(
      ([{ string }, was]) => sharedWith(targetHz, string.targetHz) === 1 && !was.ok && was.reason !== 'not-heard',
    );
    const asExpected = outcome.ok && Math.abs(outcome.cents - expectedCents) < EXPECTED_SD * expectedSigmaCents;
    told.set(comb, outcome.ok && isUnsure && !asExpected ? { id, ok: false, reason: 'shared' } : outcome);
  }
  return strum.combs.map((c) => told.get(c)!);
}
