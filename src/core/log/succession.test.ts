/** Which entry stands where several replace one, take it back, or bring it back. */
import { SAMPLES } from '../../../testing/samples';
import { createLogIndex, namesIn, sayRecord, standing, type LogRecord } from '.';
import { MINUTE } from '../base';

const AT = SAMPLES.reading.atMs;
const reading = (id: string, cents: number, supersedes?: string, by = 'a', writtenMin = 0): LogRecord => ({
  ...SAMPLES.reading,
  id,
  cents,
  written: { by, seq: writtenMin, atMs: AT + writtenMin * MINUTE },
  ...(supersedes ? { supersedes } : {}),
});
const back = (id: string, supersedes: string, writtenMin = 0): LogRecord => ({
  ...SAMPLES['taken-back'],
  id,
  supersedes,
  written: { by: 'b', seq: writtenMin, atMs: AT + writtenMin * MINUTE },
});
/** What stands, in whatever order the records come. */
function stand(records: readonly LogRecord[]): string[] {
  const orders = [records, [...records].reverse(), [...records.slice(2), ...records.slice(0, 2)]];
  const all = orders.map((order) => {
    const index = createLogIndex();
    index.add([SAMPLES.instrument]);
    index.bench();
    for (const r of order) {
      index.add([r]);
      index.bench();
    }
    const shown = index.bench().instruments[0]?.strings[0]!.readings.map((r) => r.id) ?? [];
    const csv = standing([SAMPLES.instrument, ...records]).flatMap((r) => (r.type === 'reading' ? [r.id] : []));
    expect([...csv].sort()).toEqual([...shown].sort());
    return shown.join();
  });
  expect(new Set(all).size).toBe(1);
  return all[0]!.split(',').filter(Boolean);
}

const FIRST = reading('r', 5);
test.each<[string, LogRecord[], string[]]>([
  ['one correction', [FIRST, reading('c', 4, 'r')], ['c']],
  [
    'two, on two devices: the later written',
    [FIRST, reading('c', 4, 'r', 'a', 2), reading('d', 3, 'r', 'b', 1)],
    ['c'],
  ],
  ['the later one first in the file', [FIRST, reading('c', 4, 'r', 'a', 1), reading('d', 3, 'r', 'b', 2)], ['d']],
  [
    'the earlier one was corrected again, last of all',
    [FIRST, reading('c', 4, 'r', 'a', 1), reading('d', 3, 'r', 'b', 2), reading('e', 2, 'c', 'a', 3)],
    ['e'],
  ],
  ['corrected, and taken back later', [FIRST, reading('c', 4, 'r', 'a', 1), back('t', 'r', 2)], []],
  ['taken back, and corrected later', [FIRST, back('t', 'r', 1), reading('c', 4, 'r', 'a', 2)], ['c']],
  ['taken back on both', [FIRST, back('t', 'r', 1), back('u', 'r', 2)], []],
  ['taken back, and that taken back', [FIRST, back('t', 'r', 1), back('u', 't', 2)], ['r']],
  ['and that again', [FIRST, back('t', 'r', 1), back('u', 't', 2), back('v', 'u', 3)], []],
  ['a circle', [reading('r', 5, 'c'), reading('c', 4, 'r')], []],
  ['a circle of taking back', [FIRST, back('t', 'u', 1), back('u', 't', 2)], ['r']],
])('%s', (_, records, expected) => {
  expect(stand(records)).toEqual(expected);
});

test('corrections that differ are told with the one that stands; the same taken back twice is no difference', () => {
  const index = createLogIndex();
  index.add([
    FIRST,
    reading('c', 4, 'r', 'a', 2),
    reading('d', 3, 'r', 'b', 1),
    reading('s', 1),
    back('t', 's'),
    back('u', 's'),
  ]);
  expect(index.contests().map(({ of, stands, others }) => [of, stands.id, others.map((o) => o.id)])).toEqual([
    ['r', 'c', ['d']],
  ]);
  expect([index.isGone('d'), index.isGone('r'), index.isGone('c')]).toEqual([true, true, false]);
  // The other one is taken instead.
  index.add([reading('e', 3, 'c', 'a', 9)]);
  expect(index.contests()[0]!.stands.id).toBe('e');
});

test('an import is taken back whole, before or after its entries are known, and brought back', () => {
  const records = [reading('p', 1), reading('q', 2), { ...SAMPLES.import, id: 'i', ids: 'p\nq' }];
  expect(stand(records)).toEqual(['p', 'q']);
  expect(stand([...records, back('t', 'i', 1)])).toEqual([]);
  expect(stand([...records, back('t', 'i', 1), back('u', 't', 2)])).toEqual(['p', 'q']);
  // What it had corrected here stands again as it was.
  const corrected = [FIRST, reading('c', 4, 'r', 'a', 1), { ...SAMPLES.import, id: 'i', ids: 'c' }];
  expect(stand(corrected)).toEqual(['c']);
  expect(stand([...corrected, back('t', 'i', 2)])).toEqual(['r']);
  expect(stand([...corrected, back('t', 'i', 2), back('u', 't', 3)])).toEqual(['c']);
  // The instrument too that it brought.
  const index = createLogIndex();
  index.add([SAMPLES.instrument, { ...SAMPLES.import, id: 'i', ids: SAMPLES.instrument.id }]);
  expect(index.bench().instruments).toHaveLength(1);
  index.add([back('t', 'i')]);
  expect(index.bench().instruments).toHaveLength(0);
  index.add([back('u', 't')]);
  expect(index.bench().instruments).toHaveLength(1);
});

test('what was taken back, and brought back, is said', () => {
  const records = [SAMPLES.instrument, FIRST, back('t', 'r', 1), back('u', 't', 2), back('v', 'gone')];
  const names = namesIn(records);
  const said = records.slice(2).map((r) => sayRecord(r, names));
  expect(said[0]).toMatch(/^Taken back: Sample, E4: as left/);
  expect(said[1]).toMatch(/^Brought back: Sample, E4: as left/);
  expect(said[2]).toBe('Taken back: an entry that is not here');
});
