import { randomFrom } from '../simulate';
import { roomAt, roomFromStrings, SETTLING_PRIORS, type RoomString } from '.';

const room = (t: number) => 2.5 * Math.sin((2 * Math.PI * t) / 1440);
const TIMES = [5, 20, 60, 150, 300, 500, 750, 1000, 1300, 1600, 1900, 2300];

/** Strings strung at different times, with their own creep and answer to warmth, in one room. */
function strings(count: number, noise: number, material: 'wound-steel' | 'plain-nylon' = 'wound-steel'): RoomString[] {
  const random = randomFrom(11);
  const prior = SETTLING_PRIORS[material];
  return Array.from({ length: count }, (_, s) => {
    const slope = prior.slopeCents * (0.6 + 0.3 * s);
    const perC = prior.tempMean + 0.3 * (s % 2 ? 1 : -1);
    return {
      prior,
      falls: TIMES.map((t) => ({
        atMin: t + 0.4 * s,
        ageMin: t + 30 * s + 1,
        fallCents: 7 * s + slope * Math.log1p((t + 30 * s + 1) / 2) - perC * room(t) + noise * random.normal(),
      })),
    };
  });
}
const spread = (xs: number[]) => Math.sqrt(xs.reduce((a, x) => a + x * x, 0) / xs.length);

test('steel strings that move alike tell the room to half a degree', () => {
  const told = roomFromStrings(strings(5, 0.5));
  expect(told).toHaveLength(TIMES.length);
  const mean = told.reduce((a, m) => a + m.tempC, 0) / told.length;
  const trueMean = TIMES.reduce((a, t) => a + room(t), 0) / TIMES.length;
  const errors = told.map((m, k) => m.tempC - mean - (room(TIMES[k]!) - trueMean));
  expect(spread(errors)).toBeLessThan(0.5);
  // The room itself went much further.
  expect(spread(TIMES.map((t) => room(t) - trueMean))).toBeGreaterThan(1.3);
});

test('creep alone is not taken for warmth', () => {
  const still = strings(5, 0.3).map((s) => ({
    ...s,
    falls: s.falls.map((f) => ({ ...f, fallCents: 4 * Math.log1p(f.ageMin / 2) })),
  }));
  expect(spread(roomFromStrings(still).map((m) => m.tempC))).toBeLessThan(0.4);
});

test('too few strings, or nylon, tell no room', () => {
  expect(roomFromStrings(strings(2, 0.3))).toEqual([]);
  expect(roomFromStrings(strings(6, 0.3, 'plain-nylon'))).toEqual([]);
  expect(roomAt([], 10)).toBeUndefined();
});

test('between two walks the temperature goes straight; before and after them it stays', () => {
  const told = [
    { atMin: 100, tempC: 1 },
    { atMin: 300, tempC: 3 },
  ];
  expect([0, 100, 105, 200, 300, 900].map((t) => roomAt(told, t))).toEqual([1, 1, 1, 2, 3, 3]);
});
