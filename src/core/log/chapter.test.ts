/** Readings packed, unpacked, bent: a figure that is read is the one that was written. */
import { gzipSync } from 'node:zlib';
import { SAMPLES } from '../../../testing/samples';
import { chapterOf, createLogIndex, freeName, idsOf, indexOf, readingsOf, type Chapter, type ReadingRecord } from '.';

const readings = (n: number, of = 'x'): ReadingRecord[] =>
  Array.from({ length: n }, (_, i) => ({
    ...SAMPLES.reading,
    id: `${of}-${i}`,
    instrumentId: of,
    cents: -1 - i / 10,
    atMs: SAMPLES.reading.atMs + i,
  }));
let ten: Chapter;
beforeAll(async () => {
  ten = await chapterOf(readings(10));
});
const flipped = (packed: Uint8Array, bit: number): Uint8Array => {
  const bent = packed.slice();
  bent[bit >> 3]! ^= 1 << (bit & 7);
  return bent;
};

test('of a chapter with one flipped bit no figure is read, wherever the bit is', async () => {
  const given = readings(40);
  const chapter = await chapterOf(given);
  expect(readingsOf(chapter)).toEqual(given);
  const text = JSON.stringify(given);
  const read = (bit: number): 'refused' | 'as it was' | 'otherwise' => {
    try {
      const came = readingsOf({ ...chapter, packed: flipped(chapter.packed, bit) });
      return JSON.stringify(came) === text ? 'as it was' : 'otherwise';
    } catch {
      return 'refused';
    }
  };
  const became = Array.from({ length: 8 * chapter.packed.length }, (_, bit) => read(bit));
  expect(became).not.toContain('otherwise');
  // A bit that says when it was packed, or that fills up the last byte, changes nothing.
  expect(became.filter((b) => b === 'as it was').length).toBeLessThan(80);
});

test.each<[string, (c: Chapter) => Chapter]>([
  ['cut off', (c) => ({ ...c, packed: c.packed.slice(0, -9) })],
  ['empty', (c) => ({ ...c, packed: new Uint8Array() })],
  ['other ids', (c) => ({ ...c, ids: c.ids.replace('x-7', 'x-9') })],
  ['fewer ids', (c) => ({ ...c, ids: c.ids.replace('x-7\n', '') })],
  ['other times', (c) => ({ ...c, atMs: c.atMs.map((t, i) => t + (i === 3 ? 1 : 0)) })],
  ['another instrument', (c) => ({ ...c, instrumentId: 'y' })],
  ['longer than it says', (c) => ({ ...c, bytes: 100 })],
  ['no JSON', (c) => ({ ...c, packed: new Uint8Array(gzipSync('[{')) })],
])('%s: it throws', (_, bend) => {
  expect(() => readingsOf(bend(ten))).toThrow();
});

test('a chapter that would be gigabytes is not unpacked, whatever its last bytes claim', () => {
  const bomb = gzipSync(Buffer.alloc(200e6), { level: 9 });
  bomb.writeUInt32LE(0xffffffff, bomb.length - 4);
  const before = process.memoryUsage().arrayBuffers;
  const { packed: _, ...head } = ten;
  expect(() => readingsOf({ ...head, packed: new Uint8Array(bomb) })).toThrow('longer than it says');
  expect(process.memoryUsage().arrayBuffers - before).toBeLessThan(64e6);
});

test('a damaged chapter is set aside once, and everything else of the log goes on', async () => {
  const [sound, bent] = [await chapterOf(readings(10)), await chapterOf(readings(5, 'y'))];
  const others = readings(4).map((r) => ({ ...r, id: `loose-${r.id}`, instrumentId: 'y' }));
  const told: Chapter[] = [];
  const instruments = ['x', 'y'].map((instrumentId) => ({ ...SAMPLES.instrument, id: instrumentId, instrumentId }));
  const { index } = indexOf(
    { records: [...instruments, ...others], chapters: [sound, { ...bent, packed: flipped(bent.packed, 400) }] },
    (c) => told.push(c),
  );
  expect(index.count()).toBe(21);
  expect(index.bench().instruments.map((i) => i.strings[0]!.readings.length)).toEqual([10, 4]);
  expect(index.records()).toHaveLength(16);
  expect(index.get(idsOf(bent)[0]!, 'y')).toBeUndefined();
  expect(index.count()).toBe(16);
  expect([told, index.aside()].map((all) => all.map((c) => c.ids))).toEqual([[bent.ids], [bent.ids]]);
  // They come back from a backup.
  expect(index.add(readings(5, 'y')).records).toHaveLength(5);
  expect(index.records('y')).toHaveLength(10);
});

test('instruments that were described in one moment stand in one order, however they come', () => {
  const list = ['b', 'a', 'c'].map((instrumentId) => ({
    ...SAMPLES.instrument,
    id: `i-${instrumentId}`,
    instrumentId,
  }));
  const ordered = (records: typeof list) => {
    const index = createLogIndex();
    index.add(records);
    return index.bench().instruments.map((i) => i.record.instrumentId);
  };
  expect(ordered([...list].reverse())).toEqual(ordered(list));
  // As a list was written, where that is known.
  const written = list.map((r, seq) => ({ ...r, written: { by: 'w', seq, atMs: r.atMs } }));
  expect(ordered([...written].reverse())).toEqual(['b', 'a', 'c']);
});

test('names that are taken get a number, and stay short enough', () => {
  expect(freeName('Viola', ['Viola', 'Viola 2'])).toBe('Viola 3');
  expect(freeName('Cello', ['Viola'])).toBe('Cello');
  const long = 'V'.repeat(60);
  expect(freeName(long, [long])).toBe(`${'V'.repeat(58)} 2`);
});
