import { partialOf } from './comb';
import { settle, type Theta } from './lines';
import type { PairTake } from './take';

/** Two tones that turn less than this against each other while they are heard may be one place; nats that tell two (house estimates). */
const SLOW_TURNS = 1.5;
const TELLS_NATS = 3;

/**
 * Both strings' laws as `settle` finds them; two that beat slowly stand together where that describes the sound as well: one tone
 * explains both then, and the other could stand anywhere with nothing in it.
 */
export function settleTogether(take: PairTake, from: Theta, rounds: readonly number[]): ReturnType<typeof settle> {
  const [p, q] = take.ratio;
  const apart = settle(take, from, rounds);
  const { a, b } = apart.theta;
  const [fa, fb] = [partialOf(a, p), partialOf(b, q)];
  if (Math.abs(fa - fb) * (take.toS - take.fromS) > SLOW_TURNS) return apart;
  const together = settle(take, { a, b: { ...b, f0: (b.f0 * fa) / fb } }, rounds);
  const nats = ({ seen }: typeof apart) => seen.reduce((sum, s) => sum + s.nats, 0);
  return nats(apart) > nats(together) + TELLS_NATS ? apart : together;
}
