import type { TrackPoint } from '../../core/pitch';
import { instructionFor } from './instruction';

const step = { stringId: 's', purpose: 'left' as const, confirm: false };
type Hand = 'steady' | 'rising' | 'steady, from below' | 'steady, from above';

/** A second of the trace that ends at the given cents. */
function trailOf(cents: number | null, hand: Hand): TrackPoint[] {
  const start = hand === 'steady, from below' ? -20 : hand === 'steady, from above' ? 20 : cents;
  return Array.from({ length: 40 }, (_, k) => ({
    tS: k * 0.025,
    frequencyHz: null,
    confidence: 1,
    levelDb: -20 - 0.1 * k,
    floorDb: -70,
    clipped: false,
    cents: cents === null ? null : hand === 'rising' ? cents - (39 - k) * 0.5 : k < 10 ? start : cents,
  }));
}
const say = (liveCents: number | null, hand: Hand = 'rising', more = {}) =>
  instructionFor({ ...step, ...more }, 'E4', liveCents, trailOf(liveCents, hand), 3, true);

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
  expect(say(1, 'steady, from above', { again: true })).toBe('Take E4 below, then up');
  expect(say(-9, 'rising', { again: true })).toBe('Bring it up 9 cents');
  // Once it has come up from below it is left alone, not sent down again.
  expect(say(1, 'rising', { again: true })).toBe('Nearly there: stop');
  expect(say(1, 'steady, from below', { again: true })).toBe('Hold still, let it ring');
});

test('as found: the tuner is left alone; a surprising fall is plucked again', () => {
  expect(say(null, 'steady', { purpose: 'found' })).toBe('Pluck E4, touch no tuner');
  expect(say(-4, 'steady', { purpose: 'found' })).toBe('Let it ring');
  expect(say(null, 'steady', { purpose: 'found', confirm: true })).toBe('It fell at once: pluck E4 again');
  expect(instructionFor(step, 'E4', null, [], 3, false)).toBe('Press Space to listen');
});
