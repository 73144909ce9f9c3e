import { memoryStore } from '../../../testing/memory-store';
import { ALL_SAMPLES, SAMPLES } from '../../../testing/samples';
import { readLogFile, writeLogFile } from '../../core/exchange';
import { chapterOf, type LogRecord, type ReadingRecord, type Search } from '../../core/log';
import type { RecordStore } from '../world/database';
import { createAnalyst } from './analyst';
import type { Answer, Questions, ToAnalyst } from './questions';
import { startAnalyst, type Analyst } from './client';

const WISH = { nowMs: SAMPLES.reading.atMs + 60000, toleranceCents: 3, holdMin: 90, curtainMs: null, confidence: 0.9 };
const { instrumentId } = SAMPLES.instrument;

/** An analyst over a store of its own, and what it was sent and answered, in order. */
function analyst(records: readonly LogRecord[], store: RecordStore = memoryStore()) {
  const answers: Answer[] = [];
  const hear = createAnalyst({
    openStore: () => store,
    post: (answer) => {
      answers.push(answer);
      here.onmessage?.({ data: answer } as MessageEvent<Answer>);
    },
    later: (act) => setImmediate(act),
  });
  const here: Parameters<typeof startAnalyst>[1] = {
    postMessage: (message: ToAnalyst) => hear(message),
    onmessage: null,
    onerror: null,
    terminate: () => undefined,
  };
  const asked: Analyst = startAnalyst('own', here);
  return { asked, answers, ready: store.append(records).then(() => asked.open()), store };
}
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
  expect(answers.map((a) => a.id)).toEqual([3, 1]);
});

test('a file of records is taken in whole, once; how far it is is told on the way', async () => {
  const { asked, ready, store } = analyst([]);
  await ready;
  const seen: number[] = [];
  const take = (records: readonly LogRecord[]): Promise<Questions['import']['answer']> =>
    asked.ask('import', { file: fileOf(records) }, { onProgress: (done) => seen.push(done) });
  expect(await take(ALL_SAMPLES)).toEqual({
    ok: true,
    fresh: ALL_SAMPLES.length,
    known: 0,
    about: ['Sample'],
    strangers: 0,
  });
  expect(await take(ALL_SAMPLES)).toEqual({ ok: true, fresh: 0, known: ALL_SAMPLES.length, about: [], strangers: 0 });
  expect((await store.all()).records).toHaveLength(ALL_SAMPLES.length);
  expect(seen.every((done) => done >= 0 && done <= 1)).toBe(true);
  const stray: ReadingRecord = { ...SAMPLES.reading, id: 'stray', instrumentId: 'elsewhere' };
  expect(await take([stray])).toMatchObject({ ok: true, fresh: 1, strangers: 1 });
});

test('a file that is none, or that the store refuses, changes nothing and says so', async () => {
  const store = memoryStore();
  const { asked, ready } = analyst([SAMPLES.instrument], store);
  await ready;
  const torn = await asked.ask('import', { file: new Blob(['{"format":']) });
  expect(torn).toMatchObject({ ok: false, message: expect.stringContaining('no JSON') as string });
  const forget = jest.spyOn(store, 'forget');
  store.append = () => Promise.reject(new Error('The disk is full.'));
  const full = await asked.ask('import', { file: fileOf(renamed('x')) });
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
  expect(readLogFile(await json.text())).toMatchObject({ ok: true, records });
  const csv = await (await asked.ask('export', { as: 'csv', nowMs: 1 })).text();
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
  const exported = (of: typeof a) => of.asked.ask('export', { as: 'json', nowMs: 1 });
  const [fromA, fromB] = [await exported(a), await exported(b)];
  const [told, toldBack] = [await a.asked.ask('import', { file: fromB }), await b.asked.ask('import', { file: fromA })];
  const came = { ok: true, fresh: ALL_SAMPLES.length, known: ALL_SAMPLES.length };
  expect(told).toMatchObject(came);
  expect(toldBack).toMatchObject(came);
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
