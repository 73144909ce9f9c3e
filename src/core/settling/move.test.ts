import { likeliest, merged, shares, type Belief } from './belief';
import { GROSS_CHANCE, grossDensity, movedChance, moveDensity } from './move';
import { STATES } from './process';

const sumOver = (density: (v: number) => number, most: number) => {
  let sum = 0;
  for (let v = -most; v <= most; v += 0.5) sum += 0.5 * density(v);
  return sum;
};
/** How likely it is that a string moved rather than that the figure is wrong, one reading standing alone. */
const moved = (cents: number, source: keyof typeof GROSS_CHANCE, sinceMin: number) => {
  const move = movedChance(sinceMin) * moveDensity(cents, 1);
  return move / (move + GROSS_CHANCE[source] * grossDensity(cents, 1));
};

test('both are densities: their sums are one', () => {
  expect(sumOver((v) => moveDensity(v, 1), 1300)).toBeCloseTo(1, 2);
  expect(sumOver((v) => grossDensity(v, 1), 1300)).toBeCloseTo(1, 2);
});

test('a typed surprise is doubted, a heard one hardly, hundreds of cents not at all; most moves are downward', () => {
  expect(moved(-17, 'typed', 41)).toBeGreaterThan(0.55);
  expect(moved(-17, 'typed', 41)).toBeLessThan(0.95);
  expect(moved(-17, 'heard', 41)).toBeGreaterThan(0.95);
  expect(moved(-400, 'typed', 41)).toBeLessThan(0.01);
  expect(moved(-400, 'heard', 41)).toBeLessThan(0.05);
  expect(moved(17, 'typed', 41)).toBeLessThan(moved(-17, 'typed', 41));
  expect(moved(-17, 'typed', 2000)).toBeGreaterThan(moved(-17, 'typed', 1));
});

const belief = (offset: number, logLikelihood: number): Belief => ({
  mean: Float64Array.from({ length: STATES }, (_, j) => (j === 0 ? offset : 1)),
  cov: Float64Array.from({ length: STATES * STATES }, (_, k) => (k % (STATES + 1) === 0 ? 4 : 0)),
  logLikelihood,
  agedMin: offset,
});

test('beliefs made one keep their mean and spread, and how well they explained what was read', () => {
  const [a, b] = [belief(-18, Math.log(0.3)), belief(-2, Math.log(0.1))];
  expect(shares([a, b]).map((x) => x.toFixed(6))).toEqual(['0.750000', '0.250000']);
  const one = merged([a, b]);
  expect(one.mean[0]).toBeCloseTo(-14, 9);
  // 4 of each, and what they are apart: .75 * 4^2 + .25 * 12^2.
  expect(one.cov[0]).toBeCloseTo(52, 9);
  expect(one.cov[STATES + 1]).toBeCloseTo(4, 9);
  expect(one.cov[1]).toBeCloseTo(0, 9);
  expect(one.logLikelihood).toBeCloseTo(Math.log(0.4), 9);
  expect(merged([a])).toBe(a);
});

test('what explains a thousand times worse is dropped, and never more than four are kept', () => {
  expect(likeliest([belief(1, -7), belief(2, 0), belief(3, -6.8)]).map((b) => b.mean[0])).toEqual([2, 3]);
  expect(likeliest([1, 2, 3, 4, 5].map((k) => belief(k, -k / 10))).map((b) => b.mean[0])).toEqual([1, 2, 3, 4]);
});
