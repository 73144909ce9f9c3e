import { freeEvidence, humShare, meetAsTwo, noTone, strangeShare } from './evidence';
import { settle } from './lines';
import { standingOf } from './standing';
import { soundsFirst } from './sounds-first';
import { firstGuess } from './start';
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
  'one-string': 'Only one string is heard. Let both ring.',
  'too-short': 'It was too short. Let both ring on.',
  'too-quiet': 'Too quiet. Pluck harder, or nearer to the microphone.',
  'no-pitch': 'No string is heard.',
  clipped: 'Too loud for the input. Pluck more softly.',
  gap: 'Sound was lost in the middle. Play it again.',
  'other-notes': 'Other notes sound too. Mute them, and check which two strings are asked for.',
  hum: 'Only mains hum is heard.',
};
const refusal = (reason: PairReason): PairOutcome => ({ ok: false, reason, message: PAIR_MESSAGES[reason] });

/** A string is there from so many nats on (house, from single strings and pairs). */
const LEAST_NATS = 16;
/** Peaks that neither string explains may have this share of the energy. */
const STRANGE = 0.055;

/** Measures two strings that ring together. @param samples mono, −1..1; sampleRate Hz */
export function measurePair(samples: ArrayLike<number>, sampleRate: number, o: PairOptions): PairOutcome {
  const take = prepare(samples, sampleRate, o);
  if (typeof take === 'string') return refusal(take);
  if (take.peaks.frequencyHz.length === 0) return refusal('no-pitch');
  const [p, q] = o.ratio;
  const settled = settle(take, firstGuess(take, o));
  // What is refused for the cheapest reason is not looked at further.
  if (strangeShare(take, settled.theta) > STRANGE) {
    if (noTone(take.peaks)) return refusal('no-pitch');
    return refusal(humShare(take) > 0.7 ? 'hum' : 'other-notes');
  }
  const { sigma, seen } = settled;
  if (freeEvidence(seen, o.ratio) < LEAST_NATS) return refusal('one-string');
  if ((p === 1 || q === 1) && !meetAsTwo(take, settled.theta, LEAST_NATS)) return refusal('one-string');
  const first = p === q ? soundsFirst(take, settled.theta) : undefined;
  const theta = first === 'b' ? { a: settled.theta.b, b: settled.theta.a } : settled.theta;
  const standing = standingOf(theta, o);
  if (!standing) return refusal('other-notes');
  const { cents, beatsHz, aHz, bHz } = standing;
  return {
    ok: true,
    cents,
    sigmaCents: Math.hypot(...sigma),
    signKnown: p !== q || first !== undefined,
    beatsHz,
    aHz,
    bHz,
  };
}
