import { linearRegression, mean } from 'simple-statistics';
import { cents } from '../music';
import type { NarrowBand } from './bands';
import { combNear, partialOf, type StiffComb } from './comb';
import { noTone } from './evidence';
import { PAIR_MESSAGES } from './pair';
import { OF_STEADY, OF_STRUCK, prepare, type Prepared, type PairReason } from './take';
import { decayOf, fitTones } from './tones';
import { clamp } from '../base';

export const REFERENCE_KINDS = ['fork', 'reed', 'keyboard', 'string'] as const;
export type ReferenceKind = (typeof REFERENCE_KINDS)[number];

export type Limit = 'clock' | 'room' | 'tone';
export interface SteadyReading {
  ok: true;
  /** Of the first partial, Hz. */
  frequencyHz: number;
  sigmaCents: number;
  /** From its first third to its last, cents: a reed that warms up, a string that settles. */
  driftCents: number;
  /** What keeps it from being surer: this device's clock, noise, or the tone itself. */
  limit: Limit;
}
export type SteadyOutcome = SteadyReading | { ok: false; reason: PairReason; message: string };

const MESSAGES: Partial<Record<PairReason, string>> = {
  'too-short': 'Too short. Let it sound for a second.',
  'other-notes': 'This is another note than you said.',
};
const refusal = (reason: PairReason): SteadyOutcome => ({
  ok: false,
  reason,
  message: MESSAGES[reason] ?? PAIR_MESSAGES[reason],
});

/** Partials that are read: a fork has its first one only, beside a clang that dies at once. */
const PARTIALS: Record<ReferenceKind, number> = { fork: 1, reed: 6, keyboard: 8, string: 8 };
/** What is struck or plucked dies, and its partials stand wider than whole multiples. */
const isStruck = (kind: ReferenceKind) => kind === 'keyboard' || kind === 'string';
/** It is read in so many parts at most, each so long at least, s. */
const MOST_PARTS = 8;
const PART_S = 0.1;
/** A device's clock runs off by some 50 parts in a million at most: standard error of what it hears, cents (house estimate). */
export const CLOCK_CENTS = 0.05;
/** A partial fainter than this share of the loudest is left out; the first one leads where it is louder than this share. */
const FAINT = 0.02;
const LEADS = 0.05;
/** What one tone leaves of a band, share of its energy, where it stands still. */
const STANDS = 0.2;
/** Further off than this it is another note, cents. */
const WITHIN_CENTS = 70;

const partOf = (band: NarrowBand, from: number, to: number): NarrowBand => ({
  ...band,
  re: band.re.subarray(from, to),
  im: band.im.subarray(from, to),
});

/** Frequency of the one tone of a band between two samples: looked for, then closed in. */
function toneIn(band: NarrowBand, from: number, to: number, aroundHz: number, reachHz: number): number {
  const part = partOf(band, from, to);
  const decay = Math.min(20, decayOf(part));
  const left = (hz: number) => fitTones(part, [{ hz, decay }]).left;
  let best = aroundHz;
  let least = left(best);
  for (let step = reachHz; step > 1e-5; step /= 2)
    for (const hz of [best - step, best + step]) {
      const l = left(hz);
      if (l < least) [best, least] = [hz, l];
    }
  return best;
}

/** One partial, by parts of the time and over all of it. */
interface Line {
  n: number;
  hz: number;
  amplitude: number;
  /** Share of its band that it explains where it begins. */
  explained: number;
  /** How far it drifts from the first third to the last, and its standard error, cents. */
  drift: number;
  sigma: number;
  /** What of its error is the room's, cents. */
  roomSigma: number;
}

function lineOf({ bands, fromS, toS }: Prepared, n: number, hz: number, halfHz: number): Line {
  const parts = clamp(Math.floor((toS - fromS) / PART_S), 3, MOST_PARTS);
  const band = bands.band(hz, halfHz, fromS, toS);
  const size = Math.floor(band.re.length / parts);
  const decay = decayOf(band);
  // By parts, which a drift does not blur, each as loud as it is; then over the whole, where it stands still.
  const rough = Array.from({ length: parts }, (_, k) => toneIn(band, k * size, (k + 1) * size, 0, 6));
  const fits = rough.map((hz, k) => fitTones(partOf(band, k * size, (k + 1) * size), [{ hz, decay }]));
  const worth = fits.map(({ energy, left }) => Math.max(1e-12, energy - left));
  const sum = worth.reduce((a, b) => a + b, 0);
  const middle = rough.reduce((m, f, k) => m + (f * worth[k]!) / sum, 0);
  const still = toneIn(band, 0, band.re.length, middle, 0.25 / (toS - fromS));
  const alone = fitTones(band, [{ hz: still, decay }]);
  const whole = alone.left < STANDS * alone.energy ? still : (still + middle) / 2;
  const begins = fits[0]!;
  const at = (f: number) => band.centreHz + f;
  const offs = rough.map((f) => cents(at(f), at(whole)));
  // What drifts evenly is drift, not error; where it is read is.
  const { slope, scatter, count } = lineThrough(offs, worth);
  const lasts = toS - fromS;
  // Cramér-Rao bound of a tone's frequency (Rife & Boorstyn 1974), where what is left of the band is noise.
  const roomHz = Math.sqrt((6 * alone.left) / (alone.energy * band.re.length)) / (Math.PI * lasts);
  return {
    n,
    hz: at(whole),
    amplitude: begins.amplitude[0]!,
    explained: 1 - begins.left / begins.energy,
    drift: (2 / 3) * slope * parts,
    sigma: Math.hypot(scatter / Math.sqrt(count), DRIFT_SHARE * slope * parts, cents(at(still), at(middle)) / 2),
    roomSigma: cents(at(whole) + roomHz, at(whole)),
  };
}
/** A line through values at 0, 1, 2 …, each worth so much: its slope, the scatter about it, how many they are worth together. */
function lineThrough(values: readonly number[], worth: readonly number[]) {
  const sum = worth.reduce((a, b) => a + b, 0);
  const over = (of: (k: number) => number) => worth.reduce((s, w, k) => s + w * of(k), 0) / sum;
  const [x, y] = [over((k) => k), over((k) => values[k]!)];
  const slope = over((k) => (k - x) * (values[k]! - y)) / over((k) => (k - x) ** 2);
  const squares = over((k) => (values[k]! - y - slope * (k - x)) ** 2);
  const count = sum ** 2 / worth.reduce((s, w) => s + w * w, 0);
  return { slope, count, scatter: Math.sqrt((squares * count) / Math.max(1, count - 2)) };
}
/** Of what it drifts while it is read, so much is its doubt: it was read at one time and is used at another (house estimate). */
const DRIFT_SHARE = 0.15;

/** Of what blows or stands still all partials say the same: their mean, the surest leading; those that disagree widen it. */
function meanOf(lines: readonly Line[]): { hz: number; sigma: number } {
  const weights = lines.map((l) => 1 / Math.hypot(l.sigma, CLOCK_CENTS) ** 2);
  const sum = weights.reduce((a, b) => a + b, 0);
  const first = lines[0]!;
  const offs = lines.map((l) => cents(l.hz / l.n, first.hz / first.n));
  const off = offs.reduce((s, c, i) => s + c * weights[i]!, 0) / sum;
  const spread = offs.reduce((s, c, i) => s + weights[i]! * (c - off) ** 2, 0) / sum / Math.max(1, lines.length - 1);
  return { hz: (first.hz / first.n) * 2 ** (off / 1200), sigma: Math.max(1 / Math.sqrt(sum), Math.sqrt(spread)) };
}

/** The first partial of what is struck or plucked: itself where it is heard, else where the law of the others has it. */
function firstOf(lines: readonly Line[]): { hz: number; sigma: number } {
  const loudest = Math.max(...lines.map((l) => l.amplitude));
  const own = lines.find((l) => l.n === 1 && l.amplitude > LEADS * loudest);
  if (own) return own;
  if (lines.length < LEAST_FOR_LAW) return meanOf(lines);
  // f_n = n f0 sqrt(1 + B n^2) in cents over n^2 is a line, for the stiffness of keys (Fletcher 1964).
  const first = lines[0]!;
  const points = lines.map((l) => [l.n * l.n, cents(l.hz / l.n, first.hz / first.n)]);
  const { m, b } = linearRegression(points);
  const at = (n2: number) => b + m * n2;
  const middle = mean(points.map(([x]) => x!));
  const spread = points.reduce((t, [x]) => t + (x! - middle) ** 2, 0);
  const rest = Math.sqrt(points.reduce((t, [x, y]) => t + (y! - at(x!)) ** 2, 0) / (points.length - 2));
  const leverage = Math.sqrt(1 / points.length + (1 - middle) ** 2 / spread);
  const worst = Math.max(...lines.map((l) => l.sigma));
  return { hz: (first.hz / first.n) * 2 ** (at(1) / 1200), sigma: Math.max(LEAST_REST, rest, worst) * leverage };
}
/** Fewer partials make no law; they scatter about it by so much at least, cents (house estimate). */
const LEAST_FOR_LAW = 3;
const LEAST_REST = 0.5;

/**
 * A long average of one steady tone: every partial by least squares over the whole, its error from its parts.
 * @param samples mono, −1..1; sampleRate Hz
 * @param nominalHz what it is said to be
 */
export function measureSteady(
  samples: ArrayLike<number>,
  sampleRate: number,
  nominalHz: number,
  kind: ReferenceKind,
): SteadyOutcome {
  const when = isStruck(kind) ? OF_STRUCK : OF_STEADY;
  const take = prepare(samples, sampleRate, { aHz: nominalHz, bHz: nominalHz, ratio: [1, 1] }, when);
  if (typeof take === 'string') return refusal(take);
  const { topHz, peaks, hzPerBin } = take;
  const numbers = Array.from({ length: PARTIALS[kind] }, (_, i) => i + 1);
  const found = combNear(peaks, nominalHz, numbers, topHz, hzPerBin);
  const comb: StiffComb = isStruck(kind) ? found : { f0: partialOf(found, 1), b: 0 };
  const lines = numbers
    .filter((n) => partialOf(comb, n) < topHz)
    .map((n) => lineOf(take, n, partialOf(comb, n), Math.min(0.45 * comb.f0, 40)));
  const loudest = Math.max(...lines.map((l) => l.amplitude));
  const good = lines.filter((l) => l.amplitude > FAINT * loudest && l.explained > 0.5);
  if (good.length === 0) return refusal(noTone(peaks) ? 'no-pitch' : 'other-notes');
  const { hz, sigma } = isStruck(kind) ? firstOf(good) : meanOf(good);
  if (Math.abs(cents(hz, nominalHz)) > WITHIN_CENTS) return refusal('other-notes');
  const room = Math.min(...good.map((l) => l.roomSigma));
  const sigmaCents = Math.hypot(CLOCK_CENTS, sigma);
  return {
    ok: true,
    frequencyHz: hz,
    sigmaCents,
    driftCents: mean(good.map((l) => l.drift)),
    limit: sigma < CLOCK_CENTS ? 'clock' : room > 0.5 * sigma ? 'room' : 'tone',
  };
}
