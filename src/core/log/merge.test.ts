/** Logs by others: what is known, what is new, and what both call by one name. */
import fc from 'fast-check';
import { mergeFaults, mergeInto } from '../../../testing/merging';
import { ALL_SAMPLES, SAMPLES } from '../../../testing/samples';
import { chapterOf, createLogIndex, distinct, type LogIndex, type LogRecord, type ReadingRecord } from '.';

const indexWith = (records: readonly LogRecord[]): LogIndex => {
  const index = createLogIndex();
  index.add(records);
  return index;
};
/** A log as somebody else's program might write it: counted ids, any types, some records replacing earlier ones. */
const others = fc
  .array(
    fc.record({
      type: fc.nat(ALL_SAMPLES.length - 1),
      instrument: fc.constantFrom('x', 'y'),
      late: fc.nat(3),
      replaces: fc.option(fc.nat(20), { nil: undefined }),
    }),
    { minLength: 1, maxLength: 25 },
  )
  .map((list): LogRecord[] =>
    list.map(({ type, instrument, late, replaces }, i) => {
      const sample = ALL_SAMPLES[type]!;
      const of = 'instrumentId' in sample ? { instrumentId: instrument } : {};
      const before = i > 0 && (replaces !== undefined || sample.type === 'taken-back');
      const kept = (sample.type === 'taken-back' || sample.type === 'import') && i === 0 ? SAMPLES.room : sample;
      const brought = kept.type === 'import' ? { ids: `r0\nr${Math.max(0, i - 1)}` } : {};
      const supersedes = before ? { supersedes: `r${(replaces ?? 0) % i}` } : {};
      return { ...kept, ...of, ...brought, ...supersedes, id: `r${i}`, atMs: kept.atMs + late * 1000 } as LogRecord;
    }),
  );

test('of any two logs every record of both is there once, however often and which way round they are handed on', () => {
  fc.assert(
    fc.property(others, others, (a, b) => expect(mergeFaults(a, b)).toEqual([])),
    { numRuns: 150 },
  );
});

const reading = (i: number, instrumentId: string, cents = i / 10): ReadingRecord =>
  ({ ...SAMPLES.reading, id: `r${i}`, instrumentId, cents, atMs: SAMPLES.reading.atMs + i }) as ReadingRecord;
const hundred = (instrumentId: string, cents?: number) =>
  [...Array(100).keys()].map((i) => reading(i, instrumentId, cents));

test('two logs that both count their readings from r0: every one of both, packed or not, and the same file again is known', async () => {
  for (const packed of [false, true]) {
    const index = createLogIndex();
    index.add(packed ? [] : hundred('x'), packed ? [await chapterOf(hundred('x'))] : []);
    expect(mergeInto(index, hundred('y')).fresh).toHaveLength(100);
    expect(mergeInto(index, hundred('y'))).toMatchObject({ fresh: [], known: { length: 100 } });
    // Of one instrument too: other figures under the same ids.
    expect(mergeInto(index, hundred('x', 50)).fresh).toHaveLength(100);
    expect(mergeInto(index, [...hundred('x', 50), ...hundred('y')]).fresh).toEqual([]);
    expect(mergeInto(index, hundred('x'))).toMatchObject({ fresh: [], known: { length: 100 } });
    expect(index.count()).toBe(300);
  }
});

test('a log that grows is taken in from where it was left; what a file says of its own entries follows their names', () => {
  const index = indexWith(hundred('x'));
  mergeInto(index, hundred('y'));
  const back: LogRecord = { ...SAMPLES['taken-back'], id: 'r100', supersedes: 'r7' };
  const brought: LogRecord = { ...SAMPLES.import, id: 'r101', ids: 'r3\nr4' };
  const { fresh } = mergeInto(index, [...hundred('y'), back, brought]);
  expect(fresh).toHaveLength(2);
  const called = (i: number) => index.records('y').find((r) => r.atMs === SAMPLES.reading.atMs + i)!.id;
  expect(fresh[0]).toMatchObject({ id: 'r100', supersedes: called(7) });
  expect(fresh[1]).toMatchObject({ id: 'r101', ids: `${called(3)}\n${called(4)}` });
  expect(called(7)).not.toBe('r7');
  expect([index.isGone(called(7)), index.isGone('r7')]).toEqual([true, false]);
});

test('a log that has one id for two instruments already loses neither, and goes out with a name for each', async () => {
  const index = createLogIndex();
  index.add([], [await chapterOf(hundred('x')), await chapterOf(hundred('y'))]);
  index.add([{ ...reading(7, 'y', 9), id: 'c', supersedes: 'r7' }]);
  expect(index.count()).toBe(201);
  const out = distinct(index.records());
  expect(new Set(out.map((r) => r.id)).size).toBe(201);
  // The correction is of its own instrument's reading.
  const replaced = out.find((r) => r.id === out.find((o) => o.id === 'c')!.supersedes)!;
  expect(replaced).toMatchObject({ instrumentId: 'y', cents: 0.7 });
  expect(mergeInto(index, out).fresh.filter((r) => r.id !== 'c')).toEqual([]);
});
