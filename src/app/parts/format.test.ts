import { signed, symlog } from './format';

test('figures carry a sign and a true minus, and nothing is minus zero', () => {
  expect([0.6, -6.34, -0.04, 12].map((v) => signed(v))).toEqual(['+0.6', '−6.3', '0.0', '+12.0']);
  expect(signed(-11.4, 0)).toBe('−11');
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
