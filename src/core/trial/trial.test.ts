import fc from 'fast-check';
import { randomFrom } from '../simulate';
import { drawLots, judgeTrial, verdictWords, type Trial, type TrialPair } from '.';

const AGES = [3, 8, 20, 60, 180, 600];
const fall = (slope: number, offset = 0, noise: (i: number) => number = () => 0) =>
  AGES.map((t, i) => ({ t, fall: offset + slope * Math.log1p(t / 1.5) + noise(i) }));
const pairsWith = (ratio: number, slopes: number[]): TrialPair[] =>
  slopes.map((s, i) => ({ treated: fall(s * ratio * (1 + 0.04 * ((i % 3) - 1)), 3 * i), control: fall(s, -i) }));

test('a halved slope is told from six pairs, with its interval', () => {
  const t = judgeTrial(pairsWith(0.5, [20, 24, 17, 30, 22, 26]))!;
  expect(t.verdict).toBe('less');
  expect(t.ratio.q50).toBeCloseTo(0.5, 2);
  expect(t.ratio.q05).toBeLessThan(0.5);
  expect(t.ratio.q95).toBeGreaterThan(0.5);
  expect(t.ratio.q95).toBeLessThan(0.55);
  expect(judgeTrial(pairsWith(1.6, [20, 24, 17, 30]))!.verdict).toBe('more');
});

test('three pairs give no verdict, however clear; strings with two readings are no pair', () => {
  const t = judgeTrial(pairsWith(0.5, [20, 24, 17]))!;
  expect(t.verdict).toBe('cannot-tell');
  expect(t.more).toContain('1 more');
  const short = { treated: fall(9).slice(0, 2), control: fall(9) };
  expect(judgeTrial([short])).toBeUndefined();
  const some = judgeTrial([short, ...pairsWith(0.5, [20, 24, 17, 28])])!;
  expect(some.usable).toBe(4);
  expect(some.pairs[0]).toBeNull();
});

test('swapping the sides turns the ratio over', () => {
  fc.assert(
    fc.property(fc.array(fc.double({ min: 8, max: 60, noNaN: true }), { minLength: 4, maxLength: 8 }), (slopes) => {
      const random = randomFrom(slopes.length);
      const noisy = slopes.map((s) => ({
        treated: fall(s, 0, () => 0.5 * random.normal()),
        control: fall(s * 0.8, 0, () => 0.5 * random.normal()),
      }));
      const there = judgeTrial(noisy)!;
      const back = judgeTrial(noisy.map(({ treated, control }) => ({ treated: control, control: treated })))!;
      expect(there.ratio.q50 * back.ratio.q50).toBeCloseTo(1, 6);
      expect(there.ratio.q05 * back.ratio.q95).toBeCloseTo(1, 6);
    }),
    { numRuns: 12 },
  );
});

test('readings that scatter ask for more readings, strings that scatter for more pairs', () => {
  const random = randomFrom(4);
  const scattered = [3, 3, 3, 3, 3].map((s) => ({
    treated: fall(s * 0.8, 0, () => 1.5 * random.normal()),
    control: fall(s, 0, () => 1.5 * random.normal()),
  }));
  expect(judgeTrial(scattered)!.more).toMatch(/more readings? of each string|more pairs?/);
  const apart = [0.4, 1.1, 0.5, 1.2, 0.6].map((r) => ({ treated: fall(20 * r), control: fall(20) }));
  expect(judgeTrial(apart)!.more).toContain('more pairs');
});

test('lots: each neighbour pair has one on either side, and every side comes up', () => {
  const random = randomFrom(9);
  const sides = new Set<string>();
  for (let i = 0; i < 30; i++) {
    const { treated, control } = drawLots(['a', 'b', 'c', 'd', 'e'], () => random.uniform());
    expect([...treated, ...control].sort()).toEqual(['a', 'b', 'c', 'd']);
    expect([treated[0], control[0]].sort()).toEqual(['a', 'b']);
    sides.add(treated.join());
  }
  expect(sides.size).toBe(4);
});

test('the verdict in words: how much less or more the treated strings fell, the smaller share first; else what would settle it', () => {
  const trial = (verdict: Trial['verdict'], q05: number, q50: number, q95: number): Trial => ({
    ratio: { q05, q50, q95 },
    pairs: [],
    usable: 6,
    verdict,
    more: 'Two more pairs would tell.',
  });
  expect(verdictWords(trial('less', 0.4, 0.5, 0.7))).toBe('Treated strings fell 50 % less (30 to 60 %).');
  expect(verdictWords(trial('more', 1.2, 1.5, 1.9))).toBe('Treated strings fell 50 % more (20 to 90 %).');
  expect(verdictWords(trial('cannot-tell', 0.8, 1, 1.2))).toBe('Two more pairs would tell.');
});

test('what warmth does to all strings alike is taken off: a treated guitar that was carried into the cold fell no less', () => {
  const random = randomFrom(5);
  const pair = (): TrialPair => {
    const slope = 12 * Math.exp(0.2 * random.normal());
    const side = (colder: number) =>
      [5, 15, 40, 90, 180, 400].map((t, k) => {
        const tempC = 20 - (k > 2 ? colder : 0) + 0.3 * random.normal();
        // Nylon rises as it gets colder: its fall is less by what the cold brought up.
        return { t, fall: slope * Math.log1p(t / 5) + 1.2 * (tempC - 20) + 0.2 * random.normal(), tempC };
      });
    return { treated: side(6), control: side(0) };
  };
  const pairs = Array.from({ length: 6 }, pair);
  const bare = pairs.map(({ treated, control }) => {
    const without = (list: TrialPair['treated']) => list.map(({ t, fall }) => ({ t, fall }));
    return { treated: without(treated), control: without(control) };
  });
  expect(judgeTrial(bare, 'plain-nylon')!.ratio.q50).toBeLessThan(0.88);
  const { ratio } = judgeTrial(pairs, 'plain-nylon')!;
  expect(ratio.q50).toBeGreaterThan(0.94);
  expect(ratio.q50).toBeLessThan(1.06);
});
