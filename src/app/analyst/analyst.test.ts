import { analyst } from '../../../testing/analyst';
import { memoryStore } from '../../../testing/memory-store';
import { ALL_SAMPLES, SAMPLES } from '../../../testing/samples';
import { readLogFile, writeLogFile } from '../../core/exchange';
import { chapterOf, type Chapter, type LogRecord, type ReadingRecord, type Search } from '../../core/log';
import type { Questions } from './questions';
import { MINUTE } from '../../core/base';

const WISH = { nowMs: SAMPLES.reading.atMs + MINUTE, toleranceCents: 3, holdMin: 90, curtainMs: null, confidence: 0.9 };
const { instrumentId } = SAMPLES.instrument;

const AS = { file: 'list.json', id: 'entry', by: 'here', atMs: SAMPLES.reading.atMs, zoneMin: 0 };
const fileOf = (records: readonly LogRecord[]) => new Blob([writeLogFile(records, 1)]);
const renamed = (prefix: string): LogRecord[] => ALL_SAMPLES.map((r) => ({ ...r, id: `${prefix}${r.id}` }));

test('it answers by what the store holds, and by what it was told since', async () => {
  const { asked, ready } = analyst([SAMPLES.instrument]);
  await ready;
  const states = async () => (await asked.ask('status', { instrumentId, wish: WISH })).map((s) => s.state);
  expect(await states()).toEqual(['unread', 'unread']);
  asked.tell([SAMPLES.reading]);
  expect((await states())[0]).not.toBe('unread');
});

test('an instrument that is in no log is told as such, and the next question is answered', async () => {
  const { asked, ready } = analyst([SAMPLES.instrument]);
  await ready;
  await expect(asked.ask('status', { instrumentId: 'none', wish: WISH })).rejects.toThrow('no instrument none');
  await expect(asked.ask('learn', {})).resolves.toHaveProperty(instrumentId);
});

test('what waits gives way to the others; what was dropped is not answered', async () => {
  const { asked, answers, ready } = analyst([SAMPLES.instrument]);
  await ready;
  const drop = new AbortController();
  const waits = asked.ask('learn', {}, { waits: true });
  const dropped = asked.ask('learn', {}, { signal: drop.signal });
  const last = asked.ask('status', { instrumentId, wish: WISH });
  drop.abort();
  await expect(dropped).rejects.toThrow('Nobody waits');
  await Promise.all([waits, last]);
  // The first asked was the one that waits: it is answered last, and the dropped one never.
  expect(answers.map((a) => 'id' in a && a.id)).toEqual([3, 1]);
});

test('a file of records is taken in whole, once; how far it is is told on the way', async () => {
  const { asked, ready, store } = analyst([]);
  await ready;
  const seen: number[] = [];
  const take = (records: readonly LogRecord[]): Promise<Questions['import']['answer']> =>
    asked.ask('import', { file: fileOf(records), as: AS }, { onProgress: (done) => seen.push(done) });
  expect(await take(ALL_SAMPLES)).toEqual({
    ok: true,
    fresh: ALL_SAMPLES.length,
    known: 0,
    gone: 0,
    about: ['Sample'],
    strangers: 0,
    differ: [],
  });
  expect(await take(ALL_SAMPLES)).toMatchObject({ ok: true, fresh: 0, known: ALL_SAMPLES.length, gone: 0, about: [] });
  // One entry says what came, and takes it back whole.
  expect((await store.all()).records).toHaveLength(ALL_SAMPLES.length + 1);
  expect(seen.every((done) => done >= 0 && done <= 1)).toBe(true);
  const stray: ReadingRecord = { ...SAMPLES.reading, id: 'stray', instrumentId: 'elsewhere' };
  expect(await take([stray])).toMatchObject({ ok: true, fresh: 1, strangers: 1 });
});

test('a file that is none, or that the store refuses, changes nothing and says so', async () => {
  const store = memoryStore();
  const { asked, ready } = analyst([SAMPLES.instrument], store);
  await ready;
  const torn = await asked.ask('import', { file: new Blob(['{"format":']), as: AS });
  expect(torn).toMatchObject({ ok: false, message: expect.stringContaining('no JSON') as string });
  const forget = jest.spyOn(store, 'forget');
  store.append = () => Promise.reject(new Error('The disk is full.'));
  const full = await asked.ask('import', { file: fileOf(renamed('x')), as: AS });
  expect(full).toEqual({ ok: false, message: 'The disk is full. Nothing was imported.' });
  expect(forget).toHaveBeenCalled();
  expect(Object.keys(await asked.ask('learn', {}))).toEqual([instrumentId]);
});

test('everything goes out as it is, as a log file and as a table of readings', async () => {
  // The sample that takes the reading back is left out.
  const records = ALL_SAMPLES.filter((r) => r.type !== 'taken-back');
  const { asked, ready } = analyst(records);
  await ready;
  const json = await asked.ask('export', { as: 'json', nowMs: 1 });
  expect(json.records).toBe(records.length);
  expect(readLogFile(await json.file.text())).toMatchObject({ ok: true, records });
  const csv = await (await asked.ask('export', { as: 'csv', nowMs: 1 })).file.text();
  expect(csv.trim().split('\r\n')).toHaveLength(2);
  expect(csv).toContain('microphone');
});

test('two devices hand each other their logs: both then hold the same one, byte for byte', async () => {
  const shared = renamed('both-');
  const [mine, theirs] = [renamed('a-'), renamed('b-')].map((own, k) => [
    ...shared,
    // Written at the same moments, or a little apart.
    ...own.map((r, i) => ({ ...r, atMs: r.atMs + (i % 3) * k })),
  ]) as [LogRecord[], LogRecord[]];
  const [a, b] = [analyst(mine), analyst([...theirs].reverse())];
  await Promise.all([a.ready, b.ready]);
  const exported = (of: typeof a) => of.asked.ask('export', { as: 'json', nowMs: 1 }).then(({ file }) => file);
  const [fromA, fromB] = [await exported(a), await exported(b)];
  const take = (of: typeof a, file: Blob, id: string) => of.asked.ask('import', { file, as: { ...AS, id } });
  const [told, toldBack] = [await take(a, fromB, 'entry-a'), await take(b, fromA, 'entry-b')];
  const came = { ok: true, fresh: ALL_SAMPLES.length, known: ALL_SAMPLES.length };
  expect(told).toMatchObject(came);
  expect(toldBack).toMatchObject(came);
  // What each was told of the other's imports is told without an entry of its own.
  const [againA, againB] = [await exported(a), await exported(b)];
  expect(await take(a, againB, 'x')).toMatchObject({ ok: true, fresh: 1 });
  expect(await take(b, againA, 'y')).toMatchObject({ ok: true, fresh: 1 });
  expect(await (await exported(a)).text()).toBe(await (await exported(b)).text());
});

test('entries are listed with their sentences, the newest first and some at a time, those that are packed too', async () => {
  const { asked, ready } = analyst(ALL_SAMPLES);
  await ready;
  const packed = [1, 2, 3].map((k) => ({ ...SAMPLES.reading, id: `packed${k}`, atMs: SAMPLES.reading.atMs + k }));
  asked.tell([], [await chapterOf(packed as ReadingRecord[])]);
  const list = (wanted: Search, from = 0, count = 100) => asked.ask('entries', { zone: 0, wanted, from, count });
  const all = await list({});
  expect(all.found).toBe(ALL_SAMPLES.length + 3);
  expect(all.rows.map((r) => r.record.atMs)).toEqual(all.rows.map((r) => r.record.atMs).sort((a, b) => b - a));
  const pages = [await list({}, 0, 10), await list({}, 10, 10)];
  expect(pages.flatMap((p) => p.rows)).toEqual(all.rows.slice(0, 20));
  expect((await list({ type: 'reading' })).rows.map((r) => r.record.id)).toEqual([
    'packed3',
    'packed2',
    'packed1',
    SAMPLES.reading.id,
  ]);
  const { rows } = await list({ text: 'as left +1.2' });
  // The one that takes a reading back says which.
  expect(rows).toHaveLength(5);
  expect(rows[0]!.said).toMatch(/^Taken back: .*as left \+1\.2 ±/);
  const gone = all.rows.filter((r) => r.gone).map((r) => r.record.id);
  expect(gone).toEqual(
    ALL_SAMPLES.flatMap((r) => r.supersedes ?? []).filter((id) => all.rows.some((r) => r.record.id === id)),
  );
  expect((await list({ type: 'finding' })).found).toBe(1);
});

test('what goes through every instrument lets other questions come between', async () => {
  const many = [...Array(6).keys()].flatMap((k) =>
    [SAMPLES.instrument, SAMPLES.fitted].map((r) => ({ ...r, id: `${r.id}-${k}`, instrumentId: `i${k}` })),
  ) as LogRecord[];
  const { asked, ready } = analyst(many);
  await ready;
  const done: string[] = [];
  const slow = [
    asked.ask('learn', {}).then((l) => (done.push('learn'), l)),
    asked.ask('materials', { nowMs: WISH.nowMs }).then((m) => (done.push('materials'), m)),
  ] as const;
  await asked.ask('status', { instrumentId: 'i3', wish: WISH }).then(() => done.push('status'));
  const [learned, materials] = [await slow[0], await slow[1]];
  expect(done[0]).toBe('status');
  expect(Object.keys(learned)).toHaveLength(6);
  expect(materials[0]).toMatchObject({ on: 6, ended: 0 });
});

const bent = async (): Promise<Chapter> => {
  const chapter = await chapterOf(
    [1, 2, 3].map((k) => ({ ...SAMPLES.reading, id: `packed${k}`, atMs: SAMPLES.reading.atMs + k })),
  );
  const packed = chapter.packed.slice();
  packed[60]! ^= 4;
  return { ...chapter, packed };
};

test('a damaged chapter is told once, with all that it holds; History, the table and the backup go on without it', async () => {
  const store = memoryStore();
  const chapter = await bent();
  const all = store.all;
  store.all = async () => ({ ...(await all()), chapters: [chapter] });
  const { asked, ready, answers } = analyst([SAMPLES.instrument, { ...SAMPLES.reading, id: 'loose' }], store);
  await ready;
  const aside: Chapter[] = [];
  asked.open((c) => aside.push(c));
  const { rows } = await asked.ask('entries', { zone: 0, wanted: { text: 'as left' }, from: 0, count: 9 });
  expect(rows.map((r) => r.record.id)).toEqual(['loose']);
  const json = await asked.ask('export', { as: 'json', nowMs: 1, atLeast: 5 });
  expect(json.records).toBe(2);
  const written = JSON.parse(await json.file.text()) as { setAside: { ids: string; packed: number[] }[] };
  expect(written.setAside).toMatchObject([{ ids: chapter.ids, packed: [...chapter.packed] }]);
  const csv = await asked.ask('export', { as: 'csv', nowMs: 1 });
  expect((await csv.file.text()).trim().split('\r\n')).toHaveLength(2);
  expect(aside.map((c) => c.ids)).toEqual([chapter.ids]);
  expect(answers.filter((a) => 'aside' in a)).toHaveLength(1);
});

test('where the store cannot be read, or less is known than is shown, no file is made and nothing is taken in', async () => {
  const blind = memoryStore();
  blind.all = () => Promise.reject(new Error('The user denied permission'));
  const { asked, ready } = analyst([SAMPLES.instrument], blind);
  await ready;
  asked.tell([SAMPLES.instrument]);
  await expect(asked.ask('export', { as: 'json', nowMs: 1 })).rejects.toThrow(
    /could not be read here \(The user denied/,
  );
  await expect(asked.ask('import', { file: fileOf(ALL_SAMPLES), as: AS })).rejects.toThrow('could not be read');
  const fewer = analyst([SAMPLES.instrument, SAMPLES.reading]);
  await fewer.ready;
  const { ask } = fewer.asked;
  await expect(ask('export', { as: 'json', nowMs: 1, atLeast: 3 })).rejects.toThrow('Only 2 of 3 entries');
  await expect(ask('export', { as: 'json', nowMs: 1, atLeast: 2 })).resolves.toMatchObject({ records: 2 });
});

test('one reading that was corrected on two devices: the later one stands on both, the file says which, the other can be taken', async () => {
  const corrected = (id: string, cents: number, by: string, min: number): ReadingRecord => ({
    ...SAMPLES.reading,
    id,
    cents,
    supersedes: SAMPLES.reading.id,
    written: { by, seq: 5, atMs: SAMPLES.reading.atMs + min * MINUTE },
  });
  const shared = [SAMPLES.instrument, SAMPLES.reading];
  const mine = corrected('mine', -2.5, 'a', 5);
  const theirs = corrected('theirs', -4, 'b', 9);
  const { asked, ready, store } = analyst([...shared, mine]);
  await ready;
  const became = await asked.ask('import', { file: fileOf([...shared, theirs]), as: AS });
  expect(became).toMatchObject({ ok: true, fresh: 1, differ: ['Sample, E4, 14:00'] });
  const differing = () => asked.ask('entries', { zone: 0, wanted: { differ: true }, from: 0, count: 9 });
  const rows = (await differing()).rows.map(({ record, gone, instead }) => [record.id, gone, instead]);
  expect(rows.sort()).toEqual([
    ['mine', true, 'theirs'],
    ['theirs', false, undefined],
  ]);
  const csv = await asked.ask('export', { as: 'csv', nowMs: 1 });
  expect((await csv.file.text()).trim().split('\r\n')).toHaveLength(2);
  expect((await store.all()).records).toHaveLength(5);
});
