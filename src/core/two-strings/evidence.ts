import { cents } from '../music';
import { MAINS_HZ } from '../pitch';
import { partialOf, type StiffComb } from './comb';
import type { ClusterSeen, Theta } from './lines';
import { twoTones, UNISON_PARTIALS } from './start';
import type { Prepared, PairTake } from './take';

/** One partial says no more than this. */
const MOST_NATS = 15;

/** How surely a string is there by partials of its own, nats. */
function ownEvidence(seen: readonly ClusterSeen[], of: 'n' | 'm'): number {
  const other = of === 'n' ? 'm' : 'n';
  return seen.reduce(
    (sum, s) => sum + (s[of] !== undefined && s[other] === undefined ? Math.min(MOST_NATS, s.worth[0]!) : 0),
    0,
  );
}

/** How surely two strings are there by the partials that both have: nats of those where two tones stand as both laws say; and of all. */
function sharedEvidence(take: PairTake, { a, b }: Theta): { agree: number; all: number } {
  const [p, q] = take.ratio;
  const lasts = take.toS - take.fromS;
  let agree = 0;
  let all = 0;
  for (let j = 1; j <= UNISON_PARTIALS; j++) {
    const [fa, fb] = [partialOf(a, p * j), partialOf(b, q * j)];
    const hz = (fa + fb) / 2;
    if (hz > take.topHz) break;
    const halfHz = Math.min(Math.max(2.4 * Math.abs(fa - fb), 12 / lasts, 0.02 * hz), 0.9 * Math.min(a.f0, b.f0), 120);
    const band = take.bands.band(hz, halfHz, take.fromS, take.toS);
    const { tones, amplitude, nats } = twoTones(band, halfHz / 2);
    const near = AGREE_CENTS + (1200 / Math.LN2) * (0.15 / lasts / hz);
    const at = tones.map((t) => t.hz + band.centreHz);
    const is = (x: number, y: number) => Math.abs(cents(x, fa)) < near && Math.abs(cents(y, fb)) < near;
    // One tone that does not die evenly looks like two at one place, or with a faint one beside it.
    const apart = Math.abs(tones[0].hz - tones[1].hz) * lasts;
    if (apart < APART || Math.min(...amplitude) < FAINTER * Math.max(...amplitude)) continue;
    const worth = Math.min(MOST_NATS, nats);
    all += worth;
    if (is(at[0]!, at[1]!) || is(at[1]!, at[0]!)) agree += worth;
  }
  return { agree, all };
}
const AGREE_CENTS = 2;
/** Turns by which two tones part while they are heard, and the least share of the louder one. */
const APART = 0.6;
const FAINTER = 0.03;

/** Of the partials that both strings have, so much must stand as both laws say. */
const LEAST_AGREE = 0.15;

/** How surely both strings are there by partials of their own, nats; a string that has none, by the ratio, does not count. */
export const freeEvidence = (seen: readonly ClusterSeen[], [p, q]: PairTake['ratio']): number =>
  Math.min(p > 1 ? ownEvidence(seen, 'n') : Infinity, q > 1 ? ownEvidence(seen, 'm') : Infinity);

/**
 * Do two tones stand where both strings meet, worth so many nats at least?
 * @param leastNats natural logarithm of likelihood
 */
export function meetAsTwo(take: PairTake, theta: Theta, leastNats: number): boolean {
  const { agree, all } = sharedEvidence(take, theta);
  return agree >= Math.max(leastNats, LEAST_AGREE * all);
}

/** Does nothing stand out of the noise? */
export const noTone = ({ amplitude, floor }: Prepared['peaks']): boolean =>
  amplitude.every((a, i) => a < NO_TONE * floor[i]!);

/** Share of the energy in peaks that neither string explains. */
export function strangeShare({ peaks }: Prepared, { a, b }: Theta): number {
  let all = 0;
  let strange = 0;
  peaks.frequencyHz.forEach((f, i) => {
    const energy = peaks.amplitude[i]! ** 2;
    all += energy;
    const near = (comb: StiffComb) => {
      const n = Math.max(1, Math.round(f / comb.f0));
      return [n - 1, n, n + 1].some((k) => k > 0 && Math.abs(cents(f, partialOf(comb, k))) < STRANGE_CENTS);
    };
    if (!near(a) && !near(b)) strange += energy;
  });
  return strange / Math.max(1e-30, all);
}
const STRANGE_CENTS = 25;
/** Noise has peaks too, this far above its floor (house estimate). */
const NO_TONE = 12;

/** Share of the energy in peaks that lies at multiples of the mains. */
export function humShare({ peaks }: Prepared): number {
  const energies = peaks.amplitude.map((a) => a * a);
  const all = energies.reduce((s, e) => s + e, 0);
  return (
    Math.max(
      ...MAINS_HZ.map((mains) =>
        peaks.frequencyHz.reduce(
          (s, f, i) => s + (Math.abs(f - mains * Math.round(f / mains)) < 0.7 ? energies[i]! : 0),
          0,
        ),
      ),
    ) / Math.max(1e-30, all)
  );
}
