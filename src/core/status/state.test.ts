import { DAY } from '../base';
import type { StringLife } from '../log';
import { dueMs, isOneSet, type StringStatus } from './state';

test('what is never read or stands off is due since it was read, what holds at its next check, what has none never', () => {
  const due = (more: Partial<StringStatus>) =>
    dueMs({ cents: 1, off: false, lastReadMs: 100, nextCheckMs: 900, ...more } as StringStatus);
  expect(due({})).toBe(900);
  expect(due({ off: true })).toBe(100);
  expect(due({ cents: null, lastReadMs: null })).toBe(0);
  expect(due({ nextCheckMs: null })).toBe(Infinity);
});

test('strings put on within a day are one set; one that is older, or of unknown age, is none of it', () => {
  const of = (...strungMs: (number | null)[]) =>
    isOneSet({ strings: strungMs.map((ms) => ({ strungMs: ms })) as StringLife[] });
  expect([of(0, DAY - 1), of(0, DAY), of(0, null), of(5)]).toEqual([true, false, false, true]);
});
