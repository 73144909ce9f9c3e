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
