import fc from 'fast-check';
import { adviseRounds } from '.';

test('nothing is predicted before the third round', () => {
  expect(adviseRounds([]).next).toBeNull();
  expect(adviseRounds([30, 18]).next).toBeNull();
  expect(adviseRounds([30, 18, 11]).next).not.toBeNull();
});

test('a geometric course is continued', () => {
  const { next, stop } = adviseRounds([40, 24, 14.4, 8.64]);
  expect(next!.q50).toBeCloseTo(5.2, 0);
  expect(stop).toBe(false);
});

test('two small drops in a row stop, one does not; a drop that does not shrink points at the winding', () => {
  expect(adviseRounds([20, 8, 1.5]).stop).toBe(false);
  expect(adviseRounds([20, 8, 1.5, 1.9])).toMatchObject({ stop: true });
  expect(adviseRounds([20, 12, 13]).advice).toMatch(/Look at the winding/);
});

test('two small drops at first are perhaps a gentle hand: only the third stops', () => {
  expect(adviseRounds([1.5, 1.2])).toMatchObject({ stop: false, advice: expect.stringMatching(/pulled too gently/) });
  expect(adviseRounds([1.5, 1.2, 1.1]).stop).toBe(true);
  expect(adviseRounds([1.5, 2.2]).advice).not.toMatch(/gently/);
});

test('the interval holds its median, whatever the drops', () => {
  const drops = fc.array(fc.double({ min: 0, max: 200, noNaN: true }), { minLength: 3, maxLength: 10 });
  fc.assert(
    fc.property(drops, (d) => {
      const { next } = adviseRounds(d);
      expect(next!.q10).toBeLessThan(next!.q50);
      expect(next!.q50).toBeLessThan(next!.q90);
      expect(Number.isFinite(next!.q90)).toBe(true);
    }),
  );
});
