import { median } from 'simple-statistics';
import { randomFrom } from '../simulate';
import { chanceRight, nextCents, thresholdOf, type StaircaseAnswer } from '.';

/** A listener who answers by chance as one with this threshold, slope and lapses does. */
function listen(threshold: number, slope: number, lapse: number, seed: number, count = 40): StaircaseAnswer[] {
  const random = randomFrom(seed);
  const trials: StaircaseAnswer[] = [];
  while (trials.length < count) {
    const cents = nextCents(trials);
    trials.push({ cents, right: random.uniform() < chanceRight(cents, threshold, slope, lapse) });
  }
  return trials;
}

test('forty answers find thresholds of one to thirty cents: the median error within 20 %, nine of ten intervals hold the truth', () => {
  const errors: number[] = [];
  let held = 0;
  const random = randomFrom(39);
  for (let k = 0; k < 60; k++) {
    const threshold = 30 ** random.uniform();
    const { cents, low, high } = thresholdOf(listen(threshold, random.between(1, 3), 0.04, 100 + k));
    errors.push(Math.abs(cents / threshold - 1));
    if (low <= threshold && threshold <= high) held++;
  }
  expect(median(errors)).toBeLessThan(0.2);
  expect(held).toBeGreaterThanOrEqual(50);
});

test('one careless answer far above the threshold does not throw it off', () => {
  const trials = listen(5, 2, 0, 3);
  const before = thresholdOf(trials);
  const after = thresholdOf([...trials, { cents: 60, right: false }]);
  expect(after.cents).toBeLessThan(1.6 * before.cents);
  expect(after.trials).toBe(41);
});

test('before any answer nothing is known, and the first difference is of middle size', () => {
  const { low, high } = thresholdOf([]);
  expect(high / low).toBeGreaterThan(50);
  expect(nextCents([])).toBeGreaterThan(1);
  expect(nextCents([])).toBeLessThan(40);
});
