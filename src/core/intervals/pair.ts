import { cents } from '../music';
import { partialOf, WITHIN_CENTS } from './comb';
import { humShare, NO_TONE, ownEvidence, sharedEvidence, strangeShare } from './evidence';
import { settle } from './lines';
import { soundsFirst } from './sounds-first';
import { begin } from './start';
import { prepare, type PairOptions, type PairReason } from './take';

/** Two strings heard together. */
export interface PairReading {
  ok: true;
  /** How far b over a stands from the pure ratio, of the settled first partials, cents; b too sharp is positive. */
  cents: number;
  sigmaCents: number;
  /** In a unison it can only be told which is which where the first one sounded alone. */
  signKnown: boolean;
  /** Beats of the lowest pair of partials that sounds, a second. */
  beatsHz: number;
  aHz: number;
  bHz: number;
}
export type PairOutcome = PairReading | { ok: false; reason: PairReason; message: string };

export const PAIR_MESSAGES: Record<PairReason, string> = {
  'one-string': 'One string is heard: let both ring.',
  'too-short': 'It rang too short: let both ring on.',
  'too-quiet': 'It is too quiet: pluck harder, or nearer to the microphone.',
  'no-pitch': 'No string is heard.',
  clipped: 'It is too loud for the input: pluck softer.',
  gap: 'Sound is missing in the middle: play it again.',
  'other-notes': 'Other notes sound too: mute the others, and look which two are asked for.',
  hum: 'Mains hum is all that is heard.',
};
const refusal = (reason: PairReason): PairOutcome => ({ ok: false, reason, message: PAIR_MESSAGES[reason] });

/** A string is there from so many nats on (house, from single strings and pairs). */
const LEAST_NATS = 16;
/** Of the partials that both strings have, so much must stand as both laws say. */
const LEAST_AGREE = 0.15;
/** Peaks that neither string explains may have this share of the energy. */
const STRANGE = 0.055;

/** Measures two strings that ring together. @param samples mono, −1..1; sampleRate Hz */
export function measurePair(samples: ArrayLike<number>, sampleRate: number, o: PairOptions): PairOutcome {
  const take = prepare(samples, sampleRate, o);
  if (typeof take === 'string') return refusal(take);
  if (take.peaks.frequencyHz.length === 0) return refusal('no-pitch');
  const [p, q] = o.ratio;
  const settled = settle(take, begin(take, o));
  // What is refused for the cheapest reason is not looked at further.
  if (strangeShare(take, settled.theta) > STRANGE) {
    const { amplitude, floor } = take.peaks;
    if (amplitude.every((a, i) => a < NO_TONE * floor[i]!)) return refusal('no-pitch');
    return refusal(humShare(take) > 0.7 ? 'hum' : 'other-notes');
  }
  const { sigma, seen } = settled;
  const free = Math.min(p > 1 ? ownEvidence(seen, 'n') : Infinity, q > 1 ? ownEvidence(seen, 'm') : Infinity);
  if (free < LEAST_NATS) return refusal('one-string');
  const shared = p === 1 || q === 1 ? sharedEvidence(take, settled.theta) : undefined;
  if (shared && shared.agree < Math.max(LEAST_NATS, LEAST_AGREE * shared.all)) return refusal('one-string');
  const first = p === q ? soundsFirst(take, settled.theta) : undefined;
  const theta = first === 'b' ? { a: settled.theta.b, b: settled.theta.a } : settled.theta;
  const aHz = partialOf(theta.a, 1);
  const bHz = partialOf(theta.b, 1);
  if ([cents(aHz, o.aHz), cents(bHz, o.bHz)].some((c) => Math.abs(c) > WITHIN_CENTS + 15))
    return refusal('other-notes');
  const off = cents(bHz, (aHz * p) / q);
  const beatsHz = Math.abs(partialOf(theta.b, q) - partialOf(theta.a, p));
  return {
    ok: true,
    cents: off,
    sigmaCents: Math.hypot(...sigma),
    signKnown: p !== q || first !== undefined,
    beatsHz,
    aHz,
    bHz,
  };
}
