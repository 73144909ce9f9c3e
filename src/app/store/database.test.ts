/** The store over IndexedDB: what browsers do to it when they refuse, freeze, forget. */
import 'fake-indexeddb/auto';
import { IDBFactory, IDBObjectStore as FakeStore } from 'fake-indexeddb';
import { readBefore } from '../../../testing/read-before';
import { SAMPLES } from '../../../testing/samples';
import { chapterOf, indexOf, readingsOf, type LogRecord, type ReadingRecord } from '../../core/log';
import type { RecordStore } from './database';

const room = (id: string): LogRecord => ({
  id,
  version: 2,
  atMs: 1_780_000_000_000,
  zoneMin: 0,
  type: 'room',
  tempC: 19,
});
const ids = async (store: RecordStore) => (await store.all()).records.map((r) => r.id).sort();
const heldIds = (store: RecordStore) =>
  store
    .held()
    .map((r) => r.id)
    .sort();

const opened: RecordStore[] = [];
/** As a page that is loaded: its own copy of the module, over the same database. */
async function load(world: 'own' | 'demo' = 'own') {
  jest.resetModules();
  const module = await import('./database');
  const store = module.openStore(world);
  opened.push(store);
  return { ...module, store };
}
/** The store's database, past the store. */
const openedByHand = () =>
  new Promise<IDBDatabase>((resolve) => {
    const request = indexedDB.open('slow-anchor-own');
    request.onsuccess = () => resolve(request.result);
  });
const stores = FakeStore.prototype as IDBObjectStore;
const realPut = stores.put;
type Put = typeof stores.put;
const puts = (put: Put) => {
  stores.put = put;
};

beforeEach(() => {
  globalThis.indexedDB = new IDBFactory();
});
afterEach(() => {
  jest.useRealTimers();
  stores.put = realPut;
  for (const store of opened.splice(0)) store.close();
});

test('what was appended is there after a reload, by another page too', async () => {
  const { store } = await load();
  await store.append([room('a'), room('b')]);
  await store.append([room('c')]);
  const again = await load();
  expect(await ids(again.store)).toEqual(['a', 'b', 'c']);
});

test('one write is refused with two in flight: nothing that was said to be kept is written over', async () => {
  const { store } = await load();
  let n = 0;
  puts(function (this: IDBObjectStore, ...rest: Parameters<Put>) {
    if (++n === 1) throw new DOMException('no room', 'QuotaExceededError');
    return realPut.apply(this, rest);
  });
  const outcomes = await Promise.allSettled(['a', 'b', 'c'].map((id) => store.append([room(id)])));
  expect(outcomes.map((o) => o.status)).toEqual(['rejected', 'fulfilled', 'fulfilled']);
  expect(heldIds(store)).toEqual([]);
  expect(await ids((await load()).store)).toEqual(['a', 'b', 'c']);
});

test('two imports that begin with the same record and overlap are both kept', async () => {
  const { store } = await load();
  const first = Array.from({ length: 36 }, (_, i) => room(`r${i}`));
  const second = Array.from({ length: 83 }, (_, i) => room(i === 0 ? 'r0' : `q${i}`));
  await Promise.all([store.append(first), store.append(second)]);
  expect(await ids((await load()).store)).toHaveLength(36 + 82);
});

test('a write too long for one item is there whole or not at all, and gives back its room where it is refused', async () => {
  const many = Array.from({ length: 20_001 }, (_, i) => room(`r${i}`));
  const { store } = await load();
  await store.append([room('before')]);
  let n = 0;
  puts(function (this: IDBObjectStore, ...rest: Parameters<Put>) {
    if (++n === 2) throw new DOMException('no room', 'QuotaExceededError');
    return realPut.apply(this, rest);
  });
  await expect(store.append(many)).rejects.toThrow('no room');
  store.forget();
  puts(realPut);
  expect(await ids((await load()).store)).toEqual(['before']);
  await store.append(many);
  expect(await ids((await load()).store)).toHaveLength(20_002);
  // Killed in its middle: what came of it is not taken for a log.
  const database = await openedByHand();
  await new Promise<void>((resolve) => {
    const write = database.transaction('records', 'readwrite');
    const keys = write.objectStore('records').getAllKeys();
    keys.onsuccess = () => write.objectStore('records').delete(keys.result.find((k) => String(k).endsWith(':2/2'))!);
    write.oncomplete = () => resolve();
  });
  database.close();
  expect(await ids((await load()).store)).toEqual(['before']);
});

const reading = (i: number, instrumentId = 'x'): LogRecord =>
  ({ ...SAMPLES.reading, id: `${instrumentId}-${i}`, instrumentId, atMs: SAMPLES.reading.atMs + i }) as LogRecord;
/** The browser drops what this site has kept. */
const emptied = () =>
  new Promise((resolve, reject) => {
    const gone = indexedDB.deleteDatabase('slow-anchor-own');
    gone.onsuccess = resolve;
    gone.onerror = reject;
  });

test('many readings of an instrument lie packed, another tab is told them so, and they come back as they were', async () => {
  const many = [...Array(350).keys()].flatMap((i) => [reading(i), reading(i, 'y')]);
  const { store } = await load();
  const other = await load();
  const heard: { records: LogRecord[]; chapters: unknown[] }[] = [];
  other.store.onForeignWrite((written) => written && heard.push(written));
  const written = await store.append([room('a'), ...many]);
  expect(written.records.map((r) => r.id)).toEqual(['a']);
  expect(written.chapters.map((c) => [c.instrumentId, c.atMs.length])).toEqual([
    ['x', 350],
    ['y', 350],
  ]);
  await new Promise((resolve) => setTimeout(resolve, 50));
  expect(heard.flatMap((h) => h.chapters)).toHaveLength(2);
  const { records, chapters } = await (await load()).store.all();
  expect([...records, ...chapters.flatMap(readingsOf)].sort((a, b) => (a.id < b.id ? -1 : 1))).toEqual(
    [room('a'), ...many].sort((a, b) => (a.id < b.id ? -1 : 1)),
  );
  // Emptied underneath while a page is open: what it knew is written again, the chapters too.
  await other.store.all();
  await emptied();
  await other.store.append([room('b')]);
  const back = await (await load()).store.all();
  expect([back.records.map((r) => r.id).sort(), back.chapters.length]).toEqual([['a', 'b'], 2]);
});

test('a log that was written reading by reading is tidied up: few items, the same log; cut off before the old ones are gone too', async () => {
  const { store } = await load();
  for (let i = 0; i < 420; i++) await store.append([reading(i)]);
  await store.append([room('a')]);
  for (const cut of [true, false]) {
    const tidying = (await load()).store;
    await tidying.all();
    const realDelete = stores.delete;
    let n = 0;
    stores.delete = function (this: IDBObjectStore, key) {
      if (cut && ++n === 100) throw new DOMException('gone', 'AbortError');
      return realDelete.call(this, key);
    };
    await tidying.tidy().catch(() => undefined);
    stores.delete = realDelete;
    const { index } = indexOf(await (await load()).store.all());
    expect(index.count()).toBe(421);
    expect(index.records().map((r) => r.id)).toEqual(expect.arrayContaining(['a', 'x-0', 'x-419']));
  }
  const database = await openedByHand();
  const items = database.transaction('records').objectStore('records').count();
  await new Promise((resolve) => (items.onsuccess = resolve));
  database.close();
  expect(items.result).toBeLessThan(10);
});

test('what the worker wrote is written again where the site was cleared underneath, whichever of them writes next', async () => {
  for (const next of ['page', 'worker'] as const) {
    globalThis.indexedDB = new IDBFactory();
    const [page, worker] = [await load(), await load()];
    await page.store.all();
    await worker.store.all();
    // An import, packed and loose, by the worker; a figure by the page.
    await worker.store.append([room('a'), ...[...Array(350).keys()].map((i) => reading(i))]);
    await page.store.append([room('b')]);
    await new Promise((resolve) => setTimeout(resolve, 50));
    await emptied();
    await (next === 'page' ? page : worker).store.append([room('c')]);
    const { index } = indexOf(await (await load()).store.all());
    expect(index.count()).toBe(353);
    // Nothing is written twice: the next write finds the log as it is.
    await page.store.append([room('d')]);
    await worker.store.append([room('e')]);
    const all = await (await load()).store.all();
    expect([all.records.length, all.chapters.length]).toEqual([5, 1]);
    for (const store of opened.splice(0)) store.close();
  }
});

test('of two instruments with the same ids, written one by one, tidying up loses nothing', async () => {
  const { store } = await load();
  const named = (i: number, of: string): LogRecord => ({ ...reading(i, of), id: `r${i}` }) as LogRecord;
  for (let i = 0; i < 200; i++) {
    await store.append([named(i, 'x')]);
    await store.append([named(i, 'y')]);
  }
  const tidying = (await load()).store;
  const before = indexOf(await tidying.all()).index;
  await tidying.tidy();
  const after = indexOf(await (await load()).store.all()).index;
  expect([before.count(), after.count()]).toEqual([400, 400]);
  expect(after.records('y')).toEqual(expect.arrayContaining(before.records('y')));
});

test('of two tabs that wrote different records under one id, or of a chapter that is bent, tidying up loses neither', async () => {
  const { store } = await load();
  const loose = [...Array(320).keys()].map((i) => reading(i));
  for (const r of loose) await store.append([r]);
  // Packed by a tidying up that was cut off, and bent since; and one that says something else.
  const chapter = await chapterOf(loose.slice(0, 310) as ReadingRecord[]);
  const packed = chapter.packed.slice();
  packed[500]! ^= 8;
  await byHand([
    ['1-chapter', [{ ...chapter, packed }]],
    ['2-other', [{ ...loose[315]!, cents: 77 }, { id: 7 }]],
  ]);
  const tidying = (await load()).store;
  await tidying.all();
  await tidying.tidy();
  const { index } = indexOf(await (await load()).store.all());
  const cents = index.records().flatMap((r) => (r.type === 'reading' ? [[r.id, r.cents] as const] : []));
  expect(new Set(cents.map(([id]) => id)).size).toBe(320);
  const lying = JSON.stringify(await items());
  expect(lying).toContain('"cents":77');
  expect((await items()).length).toBeLessThan(8);
});

/** Puts items into the store, past the store. */
async function byHand(list: [string, unknown][]): Promise<void> {
  const database = await openedByHand();
  await new Promise((resolve) => {
    const write = database.transaction('records', 'readwrite');
    for (const [key, value] of list) write.objectStore('records').put(value, key);
    write.oncomplete = resolve;
  });
  database.close();
}

/** Every item of the store, past the store, by its key. */
async function items(): Promise<[string, unknown][]> {
  const database = await openedByHand();
  const shelf = database.transaction('records').objectStore('records');
  const [keys, values] = [shelf.getAllKeys(), shelf.getAll()];
  await new Promise((resolve) => (values.onsuccess = resolve));
  database.close();
  return keys.result.map((key, i) => [String(key), values.result[i]]);
}

test('what is written here is read by the build before: a device may go back to it', async () => {
  const { store } = await load();
  await store.append([room('a'), ...[...Array(350).keys()].map((i) => reading(i))]);
  await store.append([room('b')]);
  const back = readBefore(await items());
  expect(back.unread).toEqual([]);
  expect(back.records.map((r) => r.id).sort()).toEqual(
    ['a', 'b', ...[...Array(350).keys()].map((i) => `x-${i}`)].sort(),
  );
});

test('a build from before versions were told is heard; a newer one stops this one from writing', async () => {
  const { store } = await load();
  const heard: string[][] = [];
  store.onForeignWrite((written) => heard.push(written?.records.map((r) => r.id) ?? ['anew']));
  const stood = jest.fn();
  store.onStand(stood);
  const old = new BroadcastChannel('slow-anchor-own');
  const newer = new BroadcastChannel('slow-anchor-own/told');
  const settled = () => new Promise((resolve) => setTimeout(resolve, 40));
  const saidToOld: unknown[] = [];
  old.onmessage = ({ data }) => saidToOld.push(data);
  for (const told of [[room('a')], { records: [room('b')], chapters: [] }, 'tidied', null, 'anew'])
    old.postMessage(told);
  await settled();
  expect(heard).toEqual([['a'], ['b'], ['anew']]);
  expect(store.stand()).toBe('older is open');
  await store.append([room('c')]);
  // What it would not understand it is not told.
  expect(saidToOld).toEqual([]);
  newer.postMessage({ version: 99, hello: true });
  await settled();
  expect([store.stand(), stood.mock.calls.length]).toEqual(['newer is open', 2]);
  await expect(store.append([room('d')])).rejects.toThrow('newer version');
  expect(heldIds(store)).toEqual([]);
  expect(await ids((await load()).store)).not.toContain('d');
  old.close();
  newer.close();
});

const refusals: [string, Put][] = [
  [
    'no room',
    () => {
      throw new DOMException('The quota has been exceeded.', 'QuotaExceededError');
    },
  ],
  [
    'an error without a word',
    () => {
      throw new Error('');
    },
  ],
  [
    'no error at all',
    () => {
      throw undefined;
    },
  ],
  [
    'a transaction that ends by itself',
    function (this: IDBObjectStore, ...rest: Parameters<Put>) {
      const request = realPut.apply(this, rest);
      this.transaction.abort();
      return request;
    },
  ],
];
test.each(refusals)('%s: a sentence, held in memory, and kept when there is room again', async (_, put) => {
  const { store } = await load();
  await store.append([room('before')]);
  puts(put);
  const refused = await store.append([room('a')]).catch((error: Error) => error.message);
  expect(refused).toMatch(/^The browser did not take the record \([^()]{3,}\)\.$/);
  expect(refused).not.toMatch(/null|undefined/);
  await store.append([room('b')]).catch(() => undefined);
  expect(heldIds(store)).toEqual(['a', 'b']);
  // They are part of what is shown and exported meanwhile.
  expect(await ids(store)).toEqual(['a', 'b', 'before']);
  puts(realPut);
  await store.append([room('c')]);
  expect(heldIds(store)).toEqual([]);
  expect(await ids((await load()).store)).toEqual(['a', 'b', 'before', 'c']);
});

test('what was refused is tried again by and by, without another word', async () => {
  const { store } = await load();
  const told = jest.fn();
  store.onHeld(told);
  puts(refusals[0]![1]);
  jest.useFakeTimers({ doNotFake: ['setImmediate', 'queueMicrotask', 'nextTick'] });
  await store.append([room('a')]).catch(() => undefined);
  expect(told).toHaveBeenCalledTimes(1);
  puts(realPut);
  jest.advanceTimersByTime(16000);
  jest.useRealTimers();
  await new Promise((resolve) => setTimeout(resolve, 50));
  expect(heldIds(store)).toEqual([]);
  expect(told).toHaveBeenCalledTimes(2);
});

test('a write that is never answered is told after a while; answered late, it is kept', async () => {
  const { store } = await load();
  await store.all();
  let answer: (() => void) | undefined;
  puts(function (this: IDBObjectStore, ...rest: Parameters<Put>) {
    const request = realPut.apply(this, rest);
    const transaction = this.transaction as unknown as { oncomplete: (() => void) | null };
    // The transaction's end is kept back.
    queueMicrotask(() => {
      const { oncomplete } = transaction;
      transaction.oncomplete = () => (answer = () => oncomplete?.call(this.transaction));
    });
    return request;
  });
  jest.useFakeTimers({ doNotFake: ['setImmediate', 'queueMicrotask', 'nextTick'] });
  const write = store.append([room('a')]).catch((error: Error) => error.message);
  for (let i = 0; i < 20; i++) await new Promise((resolve) => setImmediate(resolve));
  jest.advanceTimersByTime(9000);
  jest.useRealTimers();
  expect(await write).toBe('The browser did not take the record (it has not answered yet).');
  expect(heldIds(store)).toEqual(['a']);
  puts(realPut);
  answer?.();
  await new Promise((resolve) => setTimeout(resolve, 50));
  expect(heldIds(store)).toEqual([]);
});

test('the database is deleted underneath: what memory holds is written again with the next write', async () => {
  const { store } = await load();
  await store.append([room('a')]);
  await store.append([room('b')]);
  await emptied();
  await store.append([room('c')]);
  expect(await ids((await load()).store)).toEqual(['a', 'b', 'c']);
});

test('IndexedDB refused: no other storage stands in; it is said, and held', async () => {
  const refuse = () => {
    throw new DOMException('The user denied permission', 'SecurityError');
  };
  Object.defineProperty(globalThis, 'indexedDB', { value: { open: refuse }, configurable: true, writable: true });
  const { store } = await load();
  await expect(store.all()).rejects.toThrow();
  const refused = await store.append([room('a')]).catch((error: Error) => error.message);
  expect(refused).toMatch(/^The browser did not take the record \(.{3,}\)\.$/);
  expect(heldIds(store)).toEqual(['a']);
});

test('stored pieces that are no records are set aside and given out, the rest is read', async () => {
  const first = await load();
  await first.store.append([room('a'), room('b')]);
  const database = await new Promise<IDBDatabase>((resolve) => {
    const request = indexedDB.open(first.databaseName('own'));
    request.onsuccess = () => resolve(request.result);
  });
  await new Promise((resolve) => {
    const transaction = database.transaction('records', 'readwrite');
    const records = transaction.objectStore('records');
    records.put('torn', 'k1');
    records.put([room('c'), { id: 7 }, null], 'k2');
    transaction.oncomplete = resolve;
  });
  const { store, rawLog } = await load();
  const { records, damaged } = await store.all();
  expect(records.map((r) => r.id).sort()).toEqual(['a', 'b', 'c']);
  expect(damaged).toEqual([
    { key: 'k1', value: 'torn' },
    { key: 'k2', value: [{ id: 7 }, null] },
  ]);
  expect(JSON.parse(await rawLog('own'))).toMatchObject({ format: 'slow-anchor-log/1', setAside: damaged });
});

test('another tab hears of what was written, and of a log begun anew', async () => {
  const { store } = await load('demo');
  const other = await load('demo');
  const heard: unknown[] = [];
  other.store.onForeignWrite((written) => heard.push(written && written.records.map((r) => r.id)));
  await store.append([room('a')]);
  await store.clear();
  await new Promise((resolve) => setTimeout(resolve, 50));
  expect(heard).toEqual([['a'], null]);
  expect(await ids(other.store)).toEqual([]);
});
