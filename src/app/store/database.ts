import { v4 as newId } from 'uuid';
import localforage from 'localforage';
import { once, DAY } from '../../core/base';
import { brief } from '../../core/limits';
import {
  checkRecord,
  isChapter,
  isSame,
  keyOf,
  readingsOf,
  slices,
  type Chapter,
  type LogEntries,
  type LogRecord,
} from '../../core/log';
import { withinTime, PATIENCE_MS, realClock, type Stop } from '../world/clock';
import { storedItems, keysIn, keysOf, readItem, type Items } from './items';
import { createWire, type Stand } from './tabs';

/** What was found in the store and is no list of records: set aside, never dropped. */
export interface Damaged {
  key: string;
  value: unknown;
}

/** The record store: append-only, one IndexedDB transaction a write, one write after another. */
export interface RecordStore {
  /** Everything that is kept or held, and what could not be read. */
  all(): Promise<Stored>;
  /** Resolves with what lies in the database now; rejects when the browser refused, and holds the records in memory. */
  append(records: readonly LogRecord[]): Promise<LogEntries>;
  /** Makes few items of many small ones: a log that was written reading by reading opens as fast as one that was imported. */
  tidy(): Promise<void>;
  /** Records that the browser refused to write; it is asked again by and by, and with every write. */
  held(): readonly LogRecord[];
  /** Lets go of what is held: somebody else has it still. */
  forget(): void;
  /** Calls back when what is held in memory has changed. */
  onHeld(callback: () => void): () => void;
  clear(): Promise<void>;
  /** Calls back with what another tab or the worker has written, or null when it began the log anew. */
  onForeignWrite(callback: (written: LogEntries | null) => void): () => void;
  /** How this build stands to others that have this log open; calls back when that changes. */
  stand(): Stand;
  onStand(callback: () => void): () => void;
  close(): void;
}

export interface Stored extends LogEntries {
  damaged: Damaged[];
}

export type StoreName = 'own' | 'demo';

/** What was refused is tried again so often, ms. */
const AGAIN_MS = 15000;
/** An item without entries that a log has from its first write on: where it is gone, the log was emptied underneath. */
const BORN = 'born-';
/** Other tabs are told of so many records at once. */
const TOLD_AT_ONCE = 3000;
const CHAPTERS_AT_ONCE = 8;
/** Nobody is still at a write begun so long ago, ms: a day. */
const GIVEN_UP_MS = DAY;
/** So many small writes are tidied up (house). */
const MANY_WRITES = 300;
/** A piece of a write: '…:2/5'. It counts when all of them are there. */
const PIECE = /^(.+):\d+\/(\d+)$/;

/** Two builds of this app may not both write to a log. */
export const NEWER_IS_OPEN =
  'A newer version of this app is open in another tab. Reload this page: until then nothing is saved here.';

/** Why the browser refused, in words, whatever it threw. */
export function reasonOf(error: unknown): string {
  const message = error instanceof Error || error instanceof DOMException ? error.message || error.name : '';
  // What storage layers throw when a transaction ended without saying why.
  return message && !/of (null|undefined)/.test(message) ? brief(message) : 'it gave no reason';
}

export const databaseName = (world: StoreName): string => `slow-anchor-${world}`;

/** Opens the user's records or the demonstration's; the two never meet. */
export function openStore(world: StoreName): RecordStore {
  // No other storage stands in for it: where the browser refuses this one, the records are held in memory and it is said.
  const base = localforage.createInstance({
    name: databaseName(world),
    storeName: 'records',
    driver: localforage.INDEXEDDB,
  });
  let held: LogRecord[] = [];
  let queue: Promise<unknown> = Promise.resolve();
  /** The items by which it is known that this is the log that was opened. */
  let born: ReadonlySet<string> = new Set();
  /** How many small writes there were when everything was read. */
  let small = 0;
  /** All that is known to be kept, whoever wrote it. */
  const kept = new Map<string, LogRecord>();
  /** By their ids. */
  const keptChapters = new Map<string, Chapter>();
  const keep = ({ records, chapters }: LogEntries): void => {
    for (const r of records) kept.set(keyOf(r), r);
    for (const c of chapters) keptChapters.set(`${c.instrumentId}${c.ids}`, c);
  };
  const forgetAll = (): void => {
    kept.clear();
    keptChapters.clear();
    born = new Set();
  };
  const foreign = new Set<(written: LogEntries | null) => void>();
  const wire = createWire(databaseName(world), (told) => {
    if (told === 'anew') forgetAll();
    else keep(told);
    for (const tell of foreign) tell(told === 'anew' ? null : told);
  });
  const listeners = new Set<() => void>();
  let endRetry: Stop | undefined;

  /** What is held and more, each record once. */
  const heldAnd = (records: readonly LogRecord[]): LogRecord[] => [
    ...new Map([...held, ...records].map((r) => [keyOf(r), r])).values(),
  ];
  const hold = (records: readonly LogRecord[]): void => {
    held = heldAnd(records);
    changed();
  };
  /** After what was begun before, whatever became of that. */
  const inTurn = <T>(work: () => Promise<T>): Promise<T> => {
    const turn = queue.then(work);
    queue = turn.catch(() => undefined);
    return turn;
  };
  const changed = (): void => {
    for (const tell of listeners) tell();
    endRetry?.();
    if (held.length > 0) endRetry = realClock.after(AGAIN_MS, () => void store.append([]).catch(() => undefined));
  };
  /** One write: it counts when all of its items are there. */
  const put = async (items: Items): Promise<LogEntries> => {
    const key = `${realClock.nowMs()}-${newId()}`;
    const count = items.length;
    const keys = count === 1 ? [key] : items.map((_, i) => `${key}:${i + 1}/${count}`);
    const entries: LogEntries = { records: [], chapters: [] };
    try {
      for (const [i, make] of items.entries()) {
        const item = await make();
        await base.setItem(keys[i]!, item);
        for (const entry of item) {
          if (isChapter(entry)) entries.chapters.push(entry);
          else entries.records.push(entry);
        }
      }
    } catch (error) {
      // No room for the rest: what was written of it is given back.
      if (count > 1) await Promise.allSettled(keys.map((name) => base.removeItem(name)));
      throw error;
    }
    keep(entries);
    return entries;
  };
  /** Every item of a write that is whole. */
  const eachItem = async (see: (value: unknown, key: string) => void): Promise<void> => {
    const pieces = new Map<string, [unknown, string][]>();
    const marks = new Set<string>();
    await base.iterate<unknown, undefined>((value, key) => {
      if (key.startsWith(BORN)) marks.add(key);
      const [, write, of] = PIECE.exec(key) ?? [];
      if (!write) {
        see(value, key);
        return;
      }
      const there = [...(pieces.get(write) ?? []), [value, key] as [unknown, string]];
      pieces.set(write, there);
      if (there.length < Number(of)) return;
      pieces.delete(write);
      for (const piece of there) see(...piece);
    });
    // What is left was cut off: it is let go when whoever was at it is long gone.
    for (const [write, there] of pieces)
      if (Number.parseInt(write) < realClock.nowMs() - GIVEN_UP_MS)
        await Promise.allSettled(there.map(([, key]) => base.removeItem(key)));
    born = marks;
  };
  const mark = async (): Promise<void> => {
    const key = `${BORN}${newId()}`;
    await base.setItem(key, []);
    born = new Set([...born, key]);
  };
  /** What was kept and is gone is written again: somebody cleared this site's data while the page was open. */
  const mend = async (): Promise<void> => {
    if (world !== 'own') return;
    for (const key of born) if ((await base.getItem(key)) !== null) return;
    const there = new Set<string>();
    await eachItem((value) => {
      for (const key of keysIn(value)) there.add(key);
    });
    const lost = [...kept].flatMap(([key, r]) => (there.has(key) ? [] : [r]));
    const lostChapters = [...keptChapters.values()].filter((c) => keysOf(c).some((key) => !there.has(key)));
    const items = storedItems(lost, lostChapters);
    if (items.length > 0) await put(items);
    if (born.size === 0) await mark();
  };
  const write = async (records: readonly LogRecord[]): Promise<LogEntries> => {
    if (wire.stand() === 'newer is open') throw new Error(NEWER_IS_OPEN);
    const batch = heldAnd(records);
    if (batch.length === 0) return { records: [], chapters: [] };
    const items = storedItems(batch);
    const writing = put(items).then(async (entries) => {
      await mend();
      return entries;
    });
    let written: LogEntries;
    try {
      written = await withinTime(writing, PATIENCE_MS * items.length);
    } catch (error) {
      hold(records);
      // Answered after all: what was held is kept.
      writing.then(
        (entries) => release(batch, entries),
        () => undefined,
      );
      throw new Error(`The browser did not take the record (${reasonOf(error)}).`, { cause: error });
    }
    release(batch, written);
    return written;
  };
  const release = (batch: readonly LogRecord[], { records, chapters }: LogEntries): void => {
    const done = new Set(batch.map(keyOf));
    if (held.some((r) => done.has(keyOf(r)))) {
      held = held.filter((r) => !done.has(keyOf(r)));
      changed();
    }
    for (const some of slices(records, TOLD_AT_ONCE)) wire.tell({ records: some, chapters: [] });
    for (const some of slices(chapters, CHAPTERS_AT_ONCE)) wire.tell({ records: [], chapters: some });
  };

  const store: RecordStore = {
    async all() {
      const byKey = new Map<string, LogRecord>();
      const chapters: Chapter[] = [];
      const damaged: Damaged[] = [];
      // A database that is being opened for ever is one that does not open.
      await withinTime(base.ready(), PATIENCE_MS);
      // Each item is what one write appended: a list of records, of chapters where it was long.
      small = 0;
      await eachItem((value, key) => {
        if (key.startsWith(BORN)) return;
        const item = readItem(value);
        if (!item) damaged.push({ key, value });
        else if (item.bad.length > 0) damaged.push({ key, value: item.bad });
        for (const r of item?.records ?? []) byKey.set(keyOf(r), r);
        for (const c of item?.chapters ?? []) chapters.push(c);
        if (item && isSmallWrite(key, item.chapters)) small++;
      });
      keep({ records: [...byKey.values()], chapters });
      for (const r of held) byKey.set(keyOf(r), r);
      return { records: [...byKey.values()], chapters, damaged };
    },
    append: (records) => inTurn(() => write(records)),
    tidy: () =>
      inTurn(async () => {
        if (small < MANY_WRITES || wire.stand() !== 'alone') return;
        small = 0;
        await alone(world, 'tidy', 'give up', async () => {
          const lists = new Map<string, LogRecord[]>();
          const records = new Map<string, LogRecord>();
          /** What stays where it lies, in which chapter where it is packed. */
          const there = new Map<string, LogRecord | Chapter>();
          await eachItem((value, key) => {
            if (key.startsWith(BORN)) return;
            const item = readItem(value);
            // What is not sound stays where it lies, and what says something else than another of its name.
            const isSound =
              item &&
              isSmallWrite(key, item.chapters) &&
              item.bad.length === 0 &&
              item.records.every((r) => checkRecord(r).ok && isSame(records.get(keyOf(r)) ?? r, r));
            if (isSound) {
              lists.set(key, item.records);
              for (const r of item.records) records.set(keyOf(r), r);
              return;
            }
            for (const r of item?.records ?? []) there.set(keyOf(r), r);
            for (const c of item?.chapters ?? []) for (const known of keysOf(c)) there.set(known, c);
          });
          const isThere = ([key, r]: [string, LogRecord]): boolean => {
            const one = there.get(key);
            const same = isChapter(one) ? packedIn(one).get(r.id) : one;
            return same !== undefined && isSame(same, r);
          };
          await put(storedItems([...records].flatMap((entry) => (isThere(entry) ? [] : [entry[1]]))));
          // Killed before they are gone, the same is there twice: it is read once.
          for (const key of lists.keys()) await base.removeItem(key);
        });
      }),
    held: () => held,
    forget() {
      held = [];
      changed();
    },
    onHeld(callback) {
      listeners.add(callback);
      return () => listeners.delete(callback);
    },
    clear: () =>
      inTurn(async () => {
        // Nobody who tidies up brings back what was there.
        await alone(world, 'tidy', 'wait', () => base.clear());
        held = [];
        forgetAll();
        wire.tell('anew');
        changed();
      }),
    onForeignWrite(callback) {
      foreign.add(callback);
      return () => foreign.delete(callback);
    },
    stand: wire.stand,
    onStand: wire.onStand,
    close() {
      endRetry?.();
      wire.close();
    },
  };
  return store;
}

/** What a chapter holds, by id; nothing where it is damaged. */
const packedIn = once((chapter: Chapter): ReadonlyMap<string, LogRecord> => {
  try {
    return new Map(readingsOf(chapter).map((r) => [r.id, r]));
  } catch {
    return new Map();
  }
});

/** Whether an item is all of a write that has no chapter; a piece of a longer one stays, or the others would not count. */
const isSmallWrite = (key: string, chapters: readonly Chapter[]): boolean => !PIECE.test(key) && chapters.length === 0;

/**
 * Alone of all that have this log open and are at the same, where the browser knows locks.
 * @param otherwise what it does where another one is at it
 */
export async function alone(
  world: StoreName,
  at: 'tidy' | 'import',
  otherwise: 'give up' | 'wait',
  work: () => Promise<void>,
): Promise<void> {
  const locks = globalThis.navigator?.locks as LockManager | undefined;
  if (!locks) return work();
  const options = { ifAvailable: otherwise === 'give up' };
  await locks.request(`${databaseName(world)}-${at}`, options, async (lock) => lock && work());
}

/**
 * Everything in the store as it lies there, unchecked, as a log file: for when a view, or the log itself, fails.
 */
export async function rawLog(world: StoreName): Promise<string> {
  const store = openStore(world);
  try {
    const { records, chapters, damaged } = await store.all();
    const setAside: unknown[] = [...damaged];
    for (const c of chapters)
      try {
        for (const r of readingsOf(c)) records.push(r);
      } catch {
        setAside.push(c);
      }
    const { writeLogFile } = await import('../../core/exchange/index');
    return writeLogFile(records, realClock.nowMs(), setAside);
  } finally {
    store.close();
  }
}
