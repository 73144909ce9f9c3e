import { instructionFor } from './instruction';

const step = { stringId: 's', purpose: 'left' as const, confirm: false };
const say = (liveCents: number | null, motion: 'steady' | 'rising' = 'rising', more = {}) =>
  instructionFor({ ...step, ...more }, 'E4', liveCents, motion, 3, true);

test('one sentence for every place on the way to the target', () => {
  expect(say(null)).toBe('Pluck E4 and turn');
  expect(say(-500)).toBe('Bring it up 500 cents');
  expect(say(-3.4)).toBe('Bring it up 3 cents');
  expect(say(-1)).toBe('Nearly there: stop');
  expect(say(-1, 'steady')).toBe('Hold still, let it ring');
  expect(say(8)).toBe('Go below, then up');
});

test('what came from above is to go below first, and then up again', () => {
  expect(say(1, 'steady', { again: true })).toBe('Take E4 below, then up');
  expect(say(null, 'rising', { again: true })).toBe('Pluck E4: go below, then up');
  expect(say(-9, 'rising', { again: true })).toBe('Bring it up 9 cents');
});

test('as found: the tuner is left alone; a surprising fall is plucked again', () => {
  expect(say(null, 'steady', { purpose: 'found' })).toBe('Pluck E4, touch no tuner');
  expect(say(-4, 'steady', { purpose: 'found' })).toBe('Let it ring');
  expect(say(null, 'steady', { purpose: 'found', confirm: true })).toBe('It fell at once: pluck E4 again');
  expect(instructionFor(step, 'E4', null, 'silent', 3, false)).toBe('Press Space to listen');
});
