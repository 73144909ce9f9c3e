import { linearRegression, mean, sampleStandardDeviation } from 'simple-statistics';
import { cents } from '../music';
import type { Band } from './bands';
import { combNear, partialOf, type Comb } from './comb';
import { noTone } from './evidence';
import { PAIR_MESSAGES } from './pair';
import { OF_STEADY, prepare, type PairReason } from './take';
import { decayOf, fitTones } from './tones';

export const REFERENCE_KINDS = ['fork', 'reed', 'keyboard', 'string'] as const;
export type ReferenceKind = (typeof REFERENCE_KINDS)[number];

export interface SteadyReading {
  ok: true;
  /** Of the first partial, Hz. */
  frequencyHz: number;
  sigmaCents: number;
  /** From its first third to its last, cents: a reed that warms up, a string that settles. */
  driftCents: number;
}
export type SteadyOutcome = SteadyReading | { ok: false; reason: PairReason; message: string };

const MESSAGES: Partial<Record<PairReason, string>> = {
  'too-short': 'It sounded too short: let it sound for some seconds.',
  'other-notes': 'What sounds is another note than was said.',
};
const refusal = (reason: PairReason): SteadyOutcome => ({
  ok: false,
  reason,
  message: MESSAGES[reason] ?? PAIR_MESSAGES[reason],
});

/** Partials that are read: a fork has its first one only, beside a clang that dies at once. */
const PARTIALS: Record<ReferenceKind, number> = { fork: 1, reed: 6, keyboard: 6, string: 8 };
const BLOCKS = 8;
/** From the middle of the first third to that of the last, in blocks. */
const THIRDS_APART = 5.3;
/** However well it is heard, a recording's clock and the tone itself are not surer than this, cents (house estimate). */
const LEAST_SIGMA = 0.004;
/** A partial fainter than this share of the loudest is left out. */
const FAINT = 0.02;
/** What one tone leaves of a band, share of its energy, where it stands still. */
const STANDS = 0.2;
/** Further off than this it is another note, cents. */
const WITHIN_CENTS = 70;

/** Frequency of the one tone of a band between two samples: looked for, then closed in. */
function toneIn(band: Band, from: number, to: number, aroundHz: number, reachHz: number): number {
  const part: Band = { ...band, re: band.re.subarray(from, to), im: band.im.subarray(from, to) };
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

/**
 * A long average of one steady tone: every partial by least squares over the whole, its error from eighths of it.
 * @param samples mono, −1..1; sampleRate Hz
 * @param nominalHz what it is said to be
 */
export function measureSteady(
  samples: ArrayLike<number>,
  sampleRate: number,
  nominalHz: number,
  kind: ReferenceKind,
): SteadyOutcome {
  const take = prepare(samples, sampleRate, { aHz: nominalHz, bHz: nominalHz, ratio: [1, 1] }, OF_STEADY);
  if (typeof take === 'string') return refusal(take);
  const { bands, fromS, toS, topHz, peaks, hzPerBin } = take;
  const numbers = Array.from({ length: PARTIALS[kind] }, (_, i) => i + 1);
  const found = combNear(peaks, nominalHz, numbers, topHz, hzPerBin);
  const comb: Comb = kind === 'string' ? found : { f0: partialOf(found, 1), b: 0 };
  const lines = numbers.flatMap((n) => {
    const hz = partialOf(comb, n);
    if (hz > topHz) return [];
    const band = bands.band(hz, Math.min(0.45 * comb.f0, 40), fromS, toS);
    const count = band.re.length;
    const size = Math.floor(count / BLOCKS);
    const decay = decayOf(band);
    // First by eighths, which a drift does not blur; then over the whole, where it stands still.
    const rough = Array.from({ length: BLOCKS }, (_, k) => toneIn(band, k * size, (k + 1) * size, 0, 6));
    const middle = mean(rough);
    const still = toneIn(band, 0, count, middle, 0.2);
    const alone = fitTones(band, [{ hz: still, decay }]);
    const whole = alone.left < STANDS * alone.energy ? still : middle;
    const fit = fitTones({ ...band, re: band.re.subarray(0, size), im: band.im.subarray(0, size) }, [
      { hz: rough[0]!, decay },
    ]);
    const at = (f: number) => band.centreHz + f;
    return [
      {
        n,
        hz: at(whole),
        eighths: rough.map((f) => cents(at(f), at(whole))),
        amplitude: fit.amplitude[0]!,
        explained: 1 - fit.left / fit.energy,
      },
    ];
  });
  const loudest = Math.max(...lines.map((l) => l.amplitude));
  const good = lines.filter((l) => l.amplitude > FAINT * loudest && l.explained > 0.5);
  if (good.length === 0) return refusal(noTone(peaks) ? 'no-pitch' : 'other-notes');
  const read = good.map((l) => {
    // What drifts evenly is drift, not error.
    const slope = linearRegression(l.eighths.map((c, k) => [k, c])).m;
    const scatter = sampleStandardDeviation(l.eighths.map((c, k) => c - slope * k));
    return { ...l, slope, sigma: Math.max(LEAST_SIGMA, scatter / Math.sqrt(BLOCKS)) };
  });
  // The surest partial leads; where there is no stiffness, all say the same.
  const weigh = kind === 'string' ? read.slice(0, 1) : read;
  const weights = weigh.map((l) => 1 / l.sigma ** 2);
  const sum = weights.reduce((a, b) => a + b, 0);
  const first = weigh[0]!;
  const offs = weigh.map((l) => cents(l.hz / l.n, first.hz / first.n));
  const off = offs.reduce((s, c, i) => s + c * weights[i]!, 0) / sum;
  // Partials that disagree widen what is said.
  const spread =
    weigh.length > 1
      ? Math.sqrt(offs.reduce((s, c, i) => s + weights[i]! * (c - off) ** 2, 0) / sum / (weigh.length - 1))
      : 0;
  const frequencyHz = (first.hz / first.n) * 2 ** (off / 1200);
  if (Math.abs(cents(frequencyHz, nominalHz)) > WITHIN_CENTS) return refusal('other-notes');
  return {
    ok: true,
    frequencyHz,
    sigmaCents: Math.max(1 / Math.sqrt(sum), spread),
    driftCents: THIRDS_APART * mean(read.map((l) => l.slope)),
  };
}
