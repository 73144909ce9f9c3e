import { createPairListener, type PairMoment } from '.';
import { plainPluck, pluck, randomFrom } from '../simulate';

const RATE = 24000;
const BLOCK = 960;
/** Two strings of the simulator, the second turned from so far off to where it is right; undefined: it does not sound. */
function follow(
  aHz: number,
  [p, q]: [number, number],
  offAt: ((tS: number) => number) | undefined,
  seed = 3,
): (PairMoment | null)[] {
  const random = randomFrom(seed);
  const bHz = (aHz * p) / q;
  const more = { decayS: 2.5, secondShare: 0.1 };
  const a = pluck(plainPluck(aHz, more), RATE, random);
  const b = pluck(plainPluck(bHz, { ...more, inharmonicity: 9e-5, pluckAt: 0.19, level: 0.25 }), RATE, random);
  const listener = createPairListener(RATE, { aHz, bHz, ratio: [p, q] });
  const heard: (PairMoment | null)[] = [];
  for (let t = 0; t < 3.4; t += BLOCK / RATE) {
    const out = new Float32Array(BLOCK);
    a.render(out, 0, BLOCK, 1);
    if (offAt && t > 0.2) b.render(out, 0, BLOCK, 2 ** (offAt(t) / 1200));
    for (let i = 0; i < BLOCK; i++) out[i]! += 2e-4 * random.normal();
    heard.push(...listener.push(out).map((h) => h.moment));
  }
  return heard;
}

test.each<[string, number, [number, number], number]>([
  ['fifth', 196, [3, 2], -15],
  ['octave', 147, [2, 1], -10],
])('a %s brought to where it is still: five times a second, the way known, slower and slower', (_, hz, ratio, from) => {
  const heard = follow(hz, ratio, (t) => (t < 1 ? from : Math.sign(from) * Math.max(0, Math.abs(from) - 12 * (t - 1))));
  expect(heard.length).toBeGreaterThan(3 * 5);
  const both = heard.flatMap((m) => m ?? []);
  expect(both.length).toBeGreaterThan(8);
  expect(Math.abs(both[0]!.cents - from)).toBeLessThan(1);
  expect(Math.abs(both.at(-1)!.cents)).toBeLessThan(1);
  expect(both.at(-1)!.beatsHz).toBeLessThan(0.5 * both[0]!.beatsHz);
  for (const m of both) if (Math.abs(m.cents) > 2) expect(Math.sign(m.cents)).toBe(Math.sign(from));
});

test('a unison: how far, and that it comes to a stop', () => {
  const both = follow(220, [1, 1], (t) => Math.min(0, -20 + 20 * Math.max(0, t - 1))).flatMap((m) => m ?? []);
  expect(Math.abs(Math.abs(both[2]!.cents) - 20)).toBeLessThan(1);
  expect(Math.abs(both.at(-1)!.cents)).toBeLessThan(1);
});

test('a unison that was turned to where it is pure stays there, though one tone could explain both', () => {
  const off = (t: number) => Math.min(0, -12 + 15 * Math.max(0, t - 1));
  // Once the turning is out of what is looked at.
  const last = [1, 5].flatMap((seed) => follow(392, [1, 1], off, seed).slice(-4)).map((m) => Math.abs(m!.cents));
  last.sort((x, y) => x - y);
  expect(last[Math.floor(0.9 * last.length)]).toBeLessThan(1);
});

test('one string alone is no pair', () => {
  expect(follow(196, [3, 2], undefined).filter((m) => m !== null).length).toBeLessThan(3);
});
