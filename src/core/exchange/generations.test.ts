import { backupName, generationOf, isBackup, spent } from '.';
import { DAY, HOUR } from '../base';

const AT = Date.UTC(2026, 5, 12, 18, 4);
const named = (atMs: number, log = 'own', device = 'a1b2-c3d4-e5') => backupName(log, device, atMs, 120);

test('a backup is called by its log, its device and its minute by the wall clock', () => {
  expect(named(AT)).toBe('slow-anchor-own-a1b2c3d4_2026-06-12_2004.json');
  expect(generationOf(named(AT))).toMatchObject({ of: 'own-a1b2c3d4', day: '2026-06-12', time: '2004' });
  expect([named(AT), 'slow-anchor-backup.json', 'slow-anchor.json', 'notes.json'].map(isBackup)).toEqual([
    true,
    true,
    false,
    false,
  ]);
});

test('one a day stays for two weeks, one a month for a year; what others wrote stays', () => {
  // One every six hours, for fifteen months.
  const names = Array.from({ length: 4 * 456 }, (_, i) => named(AT - i * 6 * HOUR));
  const foreign = [named(AT, 'demo'), named(AT, 'own', 'zzz'), 'notes.json', 'slow-anchor-backup.json'];
  const gone = new Set(spent([...names, ...foreign], names[0]!));
  const kept = names.filter((n) => !gone.has(n));
  expect(foreign.filter((n) => gone.has(n))).toEqual([]);
  // The newest of each of fourteen days, two of which are the newest of their months; and of each of the ten months before.
  expect(kept).toHaveLength(14 + 10);
  const days = kept.map((n) => generationOf(n)!.day);
  expect(days.slice(0, 15)).toEqual([
    ...Array.from({ length: 14 }, (_, i) => new Date(AT - i * DAY).toISOString().slice(0, 10)),
    '2026-04-30',
  ]);
  expect(kept.every((n, i) => i === 0 || n.endsWith('_2004.json'))).toBe(true);
  expect(kept.at(-1)).toMatch(/_2025-07-31_/);
  // Of what was let go nothing more is let go.
  expect(spent(kept, names[0]!)).toEqual([]);
});

test('a clock that was set back lets go of nothing that was written later by it', () => {
  expect(spent([named(AT), named(AT + DAY), named(AT + DAY + HOUR)], named(AT))).toEqual([]);
});
