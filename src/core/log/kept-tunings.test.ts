import type { Bench } from './bench';
import { keptTunings } from './kept-tunings';

const tuning = (name: string, atMs: number, instrumentId = 'a') =>
  ({ name, atMs, instrumentId }) as Bench['tunings'][number];
const kept = (tunings: Bench['tunings'], forgotten: { instrumentId: string; name: string; atMs: number }[] = []) =>
  keptTunings({ tunings, forgotten } as unknown as Bench, 'a').map((t) => [t.name, t.atMs]);

test('each name as it was last used, the newest first, of this instrument alone', () => {
  expect(kept([tuning('low', 1), tuning('high', 2), tuning('low', 3), tuning('low', 9, 'b')])).toEqual([
    ['low', 3],
    ['high', 2],
  ]);
});

test('what was deleted is gone until it is used again', () => {
  const gone = [{ instrumentId: 'a', name: 'low', atMs: 5 }];
  expect(kept([tuning('low', 5)], gone)).toEqual([]);
  expect(kept([tuning('low', 6)], gone)).toEqual([['low', 6]]);
  expect(kept([tuning('high', 1)], gone)).toEqual([['high', 1]]);
  expect(kept([tuning('low', 1)], [{ ...gone[0]!, instrumentId: 'b' }])).toEqual([['low', 1]]);
});
