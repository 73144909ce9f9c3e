import { dueMs, type StringStatus } from './state';

test('what is never read or stands off is due since it was read, what holds at its next check, what has none never', () => {
  const due = (more: Partial<StringStatus>) =>
    dueMs({ cents: 1, off: false, lastReadMs: 100, nextCheckMs: 900, ...more } as StringStatus);
  expect(due({})).toBe(900);
  expect(due({ off: true })).toBe(100);
  expect(due({ cents: null, lastReadMs: null })).toBe(0);
  expect(due({ nextCheckMs: null })).toBe(Infinity);
});
