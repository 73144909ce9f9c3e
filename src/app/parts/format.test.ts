import { clockTime, dueTime, signed, span, symlog } from './format';

const NOON = Date.UTC(2026, 5, 12, 10, 0);
const MINUTE = 60000;
const HOUR = 60 * MINUTE;

test('figures carry a sign and a true minus, and nothing is minus zero', () => {
  expect([0.6, -6.34, -0.04, 12].map((v) => signed(v))).toEqual(['+0.6', '−6.3', '0.0', '+12.0']);
  expect(signed(-11.4, 0)).toBe('−11');
});

test('times are local, and say the day when it is another', () => {
  expect(clockTime(NOON, 120)).toBe('12:00');
  expect(dueTime(NOON + 20000, NOON, 120)).toBe('now');
  expect(dueTime(NOON + 42 * MINUTE, NOON, 120)).toBe('12:42');
  expect(dueTime(NOON + 13 * HOUR, NOON, 120)).toBe('tomorrow 01:00');
  expect(dueTime(NOON + 80 * HOUR, NOON, 120)).toBe('in 3 days');
  // The same instant is still today further west.
  expect(dueTime(NOON + 13 * HOUR, NOON, -240)).toBe('19:00');
});

test('spans are said as on the bench', () => {
  expect([9, 126, 60 * 72, 60 * 24 * 36].map((m) => span(m * MINUTE))).toEqual([
    '9 min',
    '2 h 06',
    '3 days',
    '5 weeks',
  ]);
});

test('the cents scale is symmetric, rising, and bounded', () => {
  expect(symlog(0)).toBe(0);
  expect(symlog(60)).toBe(1);
  expect(symlog(-60)).toBe(-1);
  expect(symlog(500)).toBe(1);
  expect(symlog(1)).toBeGreaterThan(0.1);
  for (const [a, b] of [
    [-20, -3],
    [-3, 0],
    [1, 30],
  ] as const)
    expect(symlog(a)).toBeLessThan(symlog(b));
});
