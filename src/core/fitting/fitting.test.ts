import { FAMILIES, slackForTurnsMm, traitsOf } from '../strings';
import { bringUpOrder, fittingPlan, turnsFor } from '.';

const strings = (code: string) =>
  FAMILIES.find((f) => f.code === code)!.strings.map((s, i) => ({ ...s, stringId: `s${i + 1}` }));
const codes = (code: string, only?: number) =>
  fittingPlan(code, strings(code).slice(0, only)).map((s) => `${s.stringId ?? '-'} ${s.code}`);

test('outer and inner strings in turn, none lost', () => {
  expect(bringUpOrder([1, 2, 3, 4, 5, 6])).toEqual([1, 6, 2, 5, 3, 4]);
  expect(bringUpOrder([1])).toEqual([1]);
});

test('one string goes from its removal to its rounds, in the order of the work', () => {
  const plan = codes('requinto-nylon', 1);
  expect(plan[0]).toBe('s1 take-off');
  const order = ['take-off', 'slack', 'coil', 'raise-under', 'bed', 'raise', 'warm', 'rounds'];
  expect(plan.map((p) => p.split(' ')[1]).filter((c) => order.includes(c!))).toEqual(order);
});

test('a set is brought up in steps where nothing hangs on it, string by string where the bridge does', () => {
  const guitar = codes('guitar-nylon');
  expect(guitar.findLastIndex((p) => p.endsWith('coil'))).toBeLessThan(
    guitar.findIndex((p) => p.endsWith('raise-under')),
  );
  const viola = codes('viola');
  expect(viola[0]).toBe('- one-at-a-time');
  expect(viola.indexOf('s1 raise-under')).toBeLessThan(viola.indexOf('s4 take-off'));
});

test('each family sees only what it has: trees, pegs, warm air', () => {
  expect(codes('electric-floating').some((c) => c.endsWith('string-tree'))).toBe(true);
  expect(codes('guitar-nylon').some((c) => c.endsWith('string-tree'))).toBe(false);
  expect(codes('violin').some((c) => c.endsWith('peg-rings'))).toBe(true);
  expect(codes('kantele-11').some((c) => c.endsWith('warm') || c.endsWith('peg-rings'))).toBe(false);
  for (const family of FAMILIES)
    for (const step of fittingPlan(family.code, strings(family.code))) {
      if (step.kind === 'warm') expect(step.caution).toMatch(/maker/);
      if (step.kind === 'remove') expect(step.caution).toMatch(/sharp/);
    }
});

test('slack is computed from the post and the turns', () => {
  const [first] = strings('requinto-nylon');
  const mm = Math.round(slackForTurnsMm(turnsFor('plain-nylon', 'geared'), traitsOf('requinto-nylon').postMm, 0.64));
  expect(fittingPlan('requinto-nylon', [first!]).find((s) => s.code === 'slack')!.title).toBe(
    `Leave ${mm} mm of slack`,
  );
  expect(mm).toBe(100);
});

test.each(FAMILIES.map((f) => f.code))(
  '%s: every string is taken off, put on, brought up and bedded, once and in order',
  (code) => {
    const set = strings(code);
    const plan = fittingPlan(code, set);
    for (const { stringId } of set) {
      const own = plan.filter((p) => p.stringId === stringId).map((p) => p.code);
      expect(new Set(own).size).toBe(own.length);
      const places = ['take-off', 'raise-under', 'raise', 'rounds'].map((c) => own.indexOf(c));
      expect(places).toEqual([...places].sort((a, b) => a - b));
      expect(places[0]).toBeGreaterThanOrEqual(0);
    }
    for (const step of plan) {
      expect(step.title).toMatch(/^[A-Z]/);
      expect(step.points.every((p) => p.endsWith('.'))).toBe(true);
      if (step.stringId) expect(set.map((s) => s.stringId)).toContain(step.stringId);
    }
  },
);

test.each(FAMILIES.map((f) => f.code))('%s: at most one string is off where strings hold something up', (code) => {
  const plan = fittingPlan(code, strings(code));
  if (plan[0]!.code !== 'one-at-a-time') return;
  let off = 0;
  for (const { code: step } of plan) {
    if (step === 'take-off') off++;
    if (step === 'raise-under') off--;
    expect(off).toBeGreaterThanOrEqual(0);
    expect(off).toBeLessThanOrEqual(1);
  }
});

test('every number of strings is brought up from the outside in', () => {
  for (let n = 1; n <= 24; n++) {
    const order = bringUpOrder(Array.from({ length: n }, (_, i) => i));
    expect([...order].sort((a, b) => a - b)).toEqual(Array.from({ length: n }, (_, i) => i));
    const depth = order.map((i) => Math.min(i, n - 1 - i));
    expect(depth).toEqual([...depth].sort((a, b) => a - b));
  }
});
