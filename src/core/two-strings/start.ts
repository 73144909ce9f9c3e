import { cents, ratioOfCents } from '../music';
import type { NarrowBand } from './bands';
import { combNear, DEAR, MOST_PARTIALS, partialOf, STIFF, WITHIN_CENTS, type StiffComb } from './comb';
import { clustersOf, fitLaw, lookAll, USEFUL, type Theta } from './lines';
import type { PairOptions, Prepared, PairTake } from './take';
import { decayOf, fitTones, type Tone } from './tones';

/** Partials of one string that the other one has nothing beside. */
const freeOf = (every: number, count: number): number[] =>
  Array.from({ length: count }, (_, i) => i + 1).filter((n) => n % every !== 0);

/** The second string where it has no partial of its own: what a tone beside the first string's explains, by its deviation. */
function secondString(take: PairTake, first: StiffComb, of: 'a' | 'b', aroundHz: number): StiffComb {
  const [p, q] = take.ratio;
  const [every, others] = of === 'a' ? [p, q] : [q, p];
  const tables: { table: Float64Array; fromHz: number; stepHz: number; partial: number }[] = [];
  for (let j = 1; j <= MOST_PARTIALS; j++) {
    const hz = partialOf(first, every * j);
    const m = others * j;
    if (hz > take.topHz || m * aroundHz > take.topHz * 1.05) break;
    const reach = m * aroundHz * (ratioOfCents(WITHIN_CENTS + 8) - 1);
    const room = Math.min(hz / (every * j), aroundHz);
    const halfHz = Math.min(Math.max(2.2 * reach, 10 / (take.toS - take.fromS)), 0.95 * room, 160);
    const band = take.bands.band(hz, halfHz, take.fromS, take.toS);
    const decay = decayOf(band);
    const own = { hz: hz - band.centreHz, decay };
    const alone = fitTones(band, [own]).left;
    const stepHz = 0.2 / (take.toS - take.fromS);
    const count = Math.ceil(halfHz / stepHz);
    const table = new Float64Array(count + 1);
    for (let k = 0; k <= count; k++) {
      const tone = { hz: -halfHz / 2 + k * stepHz, decay };
      table[k] = Math.min(60, Math.log(alone / fitTones(band, [own, tone]).left) * 12);
    }
    tables.push({ table, fromHz: band.centreHz - halfHz / 2, stepHz, partial: m });
  }
  let best = { comb: { f0: aroundHz, b: 0 }, gain: 0 };
  for (const b of STIFF)
    for (let c = -WITHIN_CENTS - 5; c <= WITHIN_CENTS + 5; c += 0.5) {
      const comb = { f0: (aroundHz * ratioOfCents(c)) / Math.sqrt(1 + b), b };
      let gain = 0;
      for (const { table, fromHz, stepHz, partial } of tables) {
        const at = (partialOf(comb, partial) - fromHz) / stepHz;
        const k = Math.floor(at);
        if (k < 0 || k + 1 >= table.length) continue;
        gain += table[k]! + (at - k) * (table[k + 1]! - table[k]!);
      }
      gain *= 1 - DEAR * b;
      if (gain > best.gain) best = { comb, gain };
    }
  return best.comb;
}

/**
 * A tone by itself where a band is strongest, then one beside it, each looked for again beside the other.
 * @returns how much likelier the two are than the best one alone, nats; and how loud each is
 */
export function twoTones(band: NarrowBand, halfHz: number): { tones: [Tone, Tone]; amplitude: number[]; nats: number } {
  const decay = decayOf(band);
  const lasts = band.re.length / band.rate;
  const search = (beside: readonly Tone[]): Tone => {
    let best: Tone = { hz: 0, decay };
    let least = Infinity;
    const step = 0.2 / lasts;
    const at = (hz: number) => {
      const { left } = fitTones(band, [{ hz, decay }, ...beside]);
      if (left < least) {
        least = left;
        best = { hz, decay };
      }
    };
    for (let hz = -halfHz; hz <= halfHz; hz += step) at(hz);
    for (let fine = step / 2; fine > step / 40; fine /= 2) {
      const { hz } = best;
      at(hz - fine);
      at(hz + fine);
    }
    return best;
  };
  let first = search([]);
  // Alone it may die faster or slower than the whole.
  const alone = Math.min(
    ...[0.5, 0.7, 0.85, 1, 1.2, 1.5, 2].map((f) => fitTones(band, [{ ...first, decay: decay * f }]).left),
  );
  let second = search([first]);
  for (let round = 0; round < 2; round++) {
    first = search([second]);
    second = search([first]);
  }
  const { left, amplitude } = fitTones(band, [first, second]);
  return { tones: [first, second], amplitude, nats: USEFUL * band.re.length * Math.max(0, Math.log(alone / left)) };
}

/** Both combs of a unison: from the two tones of every partial, whichever is whose. */
function unisonStart(take: PairTake, around: StiffComb): Theta {
  const seen: { n: number; hz: [number, number]; weight: number; sdCents: number }[] = [];
  const lasts = take.toS - take.fromS;
  for (let n = 1; n <= UNISON_PARTIALS && partialOf(around, n) < take.topHz; n++) {
    const hz = partialOf(around, n);
    const reach = hz * (ratioOfCents(WITHIN_CENTS) - 1);
    const halfHz = Math.min(Math.max(2 * reach, 6 / lasts), 0.9 * around.f0);
    const band = take.bands.band(hz, halfHz, take.fromS, take.toS);
    const { tones, nats } = twoTones(band, halfHz / 2);
    const at = tones.map((t) => t.hz + band.centreHz) as [number, number];
    seen.push({ n, hz: at, weight: Math.min(30, nats), sdCents: 0.4 + (1200 / Math.LN2) * (0.1 / lasts / hz) });
  }
  // Every pair of tones is a guess of both strings, with every stiffness.
  let best = { theta: { a: around, b: around }, gain: -1 };
  for (const guess of seen)
    for (const ba of STIFF)
      for (const bb of STIFF)
        for (const [x, y] of [guess.hz, [guess.hz[1], guess.hz[0]]] as [number, number][]) {
          const of = (hz: number, b: number): StiffComb => ({ f0: hz / guess.n / Math.sqrt(1 + b * guess.n ** 2), b });
          const theta = { a: of(x, ba), b: of(y, bb) };
          if (Math.abs(cents(partialOf(theta.a, 1), partialOf(theta.b, 1))) > 2 * WITHIN_CENTS) continue;
          let gain = 0;
          for (const { n, hz, weight, sdCents } of seen) {
            const near = (u: number, v: number) => Math.exp(-0.5 * (cents(u, v) / sdCents) ** 2);
            const [fa, fb] = [partialOf(theta.a, n), partialOf(theta.b, n)];
            gain += weight * Math.max(near(hz[0], fa) * near(hz[1], fb), near(hz[1], fa) * near(hz[0], fb));
          }
          gain *= 1 - 0.5 * DEAR * (ba + bb);
          if (gain > best.gain) best = { theta, gain };
        }
  return best.theta;
}
export const UNISON_PARTIALS = 10;

/** One string's comb sharpened by its own partials. */
function sharpened(take: PairTake, comb: StiffComb, of: 'a' | 'b'): StiffComb {
  let at = comb;
  for (const most of [9, 14, 20]) {
    const own = of === 'a' ? clustersOf(take, at, undefined, most) : clustersOf(take, undefined, at, most);
    const points = lookAll(own, { a: at, b: at }).map((s) => ({ n: (s.n ?? s.m)!, hz: s.hz[0]!, sdHz: s.sdHz[0]! }));
    if (points.length < 2) return at;
    at = fitLaw(points, at).comb;
  }
  return at;
}

/** Where both strings are looked for first. */
export function firstGuess(take: Prepared, { aHz, bHz, ratio: [p, q] }: PairOptions): Theta {
  const { peaks, topHz, hzPerBin } = take;
  const all = Array.from({ length: MOST_PARTIALS }, (_, i) => i + 1);
  const [freeA, freeB] = [freeOf(p, MOST_PARTIALS), freeOf(q, MOST_PARTIALS)];
  if (p === q) return unisonStart(take, combNear(peaks, aHz, all, topHz, hzPerBin));
  if (freeA.length > 0 && freeB.length > 0)
    return { a: combNear(peaks, aHz, freeA, topHz, hzPerBin), b: combNear(peaks, bHz, freeB, topHz, hzPerBin) };
  // One of them has no partial of its own: the other one first.
  if (freeA.length > 0) {
    const a = sharpened(take, combNear(peaks, aHz, freeA, topHz, hzPerBin), 'a');
    return { a, b: secondString(take, a, 'a', bHz) };
  }
  const b = sharpened(take, combNear(peaks, bHz, freeB, topHz, hzPerBin), 'b');
  return { a: secondString(take, b, 'b', aHz), b };
}
