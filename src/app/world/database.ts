import { v4 as newId } from 'uuid';
import localforage from 'localforage';
import { brief } from '../../core/limits';
import { migrate, type LogRecord } from '../../core/log';
import { inTime, PATIENCE_MS, realClock, type Stop } from './clock';

/** What was found in the store and is no list of records: set aside, never dropped. */
export interface Damaged {
  key: string;
  value: unknown;
}

/** The record store: append-only, one IndexedDB transaction a write, one write after another. */
export interface RecordStore {
  /** Everything that is kept or held, and what could not be read. */
  all(): Promise<{ records: LogRecord[]; damaged: Damaged[] }>;
  /** Resolves when the records are in the database; rejects when the browser refused, and holds them in memory. */
  append(records: readonly LogRecord[]): Promise<void>;
  /** Records that the browser refused to write; it is asked again by and by, and with every write. */
  held(): readonly LogRecord[];
  /** Lets go of what is held: somebody else has it still. */
  forget(): void;
  /** Calls back when what is held in memory has changed. */
  onHeld(callback: () => void): () => void;
  clear(): Promise<void>;
  /** Calls back with what another tab or the worker has written, or null when it began the log anew. */
  onForeignWrite(callback: (records: LogRecord[] | null) => void): () => void;
  close(): void;
}

export type World = 'own' | 'demo';

/** What was refused is tried again so often, ms. */
const AGAIN_MS = 15000;
/** Other tabs are told of so many records at once. */
const TOLD_AT_ONCE = 3000;
/** A browser takes some 100 MB as one item: a long write is several, of so many records each (house). */
const ITEM_RECORDS = 20000;
/** Nobody is still at a write begun so long ago, ms: a day. */
const GIVEN_UP_MS = 86_400_000;
/** A piece of a write: '…:2/5'. It counts when all of them are there. */
const PIECE = /^(.+):\d+\/(\d+)$/;

/** Why the browser refused, in words, whatever it threw. */
export function reasonOf(error: unknown): string {
  const message = error instanceof Error || error instanceof DOMException ? error.message || error.name : '';
  // What storage layers throw when a transaction ended without saying why.
  return message && !/of (null|undefined)/.test(message) ? brief(message) : 'it gave no reason';
}

export const databaseName = (world: World): string => `slow-anchor-${world}`;

/** Opens the user's records or the demonstration's; the two never meet. */
export function openStore(world: World): RecordStore {
  // No other storage stands in for it: where the browser refuses this one, the records are held in memory and it is said.
  const base = localforage.createInstance({
    name: databaseName(world),
    storeName: 'records',
    driver: localforage.INDEXEDDB,
  });
  const channel = new BroadcastChannel(databaseName(world));
  let held: LogRecord[] = [];
  let queue: Promise<unknown> = Promise.resolve();
  /** How many batches the database is known to hold, and what they are: where it holds fewer, it was emptied underneath. */
  let batches = 0;
  const kept = new Map<string, LogRecord>();
  const listeners = new Set<() => void>();
  let endRetry: Stop | undefined;

  /** What is held and more, each record once. */
  const heldAnd = (records: readonly LogRecord[]): LogRecord[] => [
    ...new Map([...held, ...records].map((r) => [r.id, r])).values(),
  ];
  const hold = (records: readonly LogRecord[]): void => {
    held = heldAnd(records);
    changed();
  };
  /** After what was begun before, whatever became of that. */
  const inTurn = (work: () => Promise<void>): Promise<void> => {
    const turn = queue.then(work);
    queue = turn.catch(() => undefined);
    return turn;
  };
  const changed = (): void => {
    for (const tell of listeners) tell();
    endRetry?.();
    if (held.length > 0) endRetry = realClock.after(AGAIN_MS, () => void store.append([]).catch(() => undefined));
  };
  const put = async (batch: readonly LogRecord[]): Promise<void> => {
    const key = `${realClock.nowMs()}-${newId()}`;
    const count = piecesIn(batch);
    const keys = count === 1 ? [key] : Array.from({ length: count }, (_, i) => `${key}:${i + 1}/${count}`);
    try {
      for (const [i, name] of keys.entries())
        await base.setItem(name, batch.slice(i * ITEM_RECORDS, (i + 1) * ITEM_RECORDS));
    } catch (error) {
      // No room for the rest: what was written of it is given back.
      if (count > 1) await Promise.allSettled(keys.map((name) => base.removeItem(name)));
      throw error;
    }
    batches += count;
    for (const r of batch) kept.set(r.id, r);
  };
  /** Every item of a write that is whole. @returns how many items there are, of any kind */
  const eachItem = async (see: (value: unknown, key: string) => void): Promise<number> => {
    const pieces = new Map<string, [unknown, string][]>();
    let count = 0;
    await base.iterate<unknown, undefined>((value, key) => {
      count++;
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
    return count;
  };
  /** What was kept and is gone is written again: somebody cleared this site's data while the page was open. */
  const mend = async (): Promise<void> => {
    if (world !== 'own' || (await base.length()) >= batches) return;
    const there = new Set<string>();
    batches = await eachItem((batch) => {
      if (Array.isArray(batch)) for (const r of batch as LogRecord[]) there.add(r.id);
    });
    const lost = [...kept.values()].filter((r) => !there.has(r.id));
    if (lost.length > 0) await put(lost);
  };
  const write = async (records: readonly LogRecord[]): Promise<void> => {
    const batch = heldAnd(records);
    if (batch.length === 0) return;
    const writing = put(batch).then(mend);
    try {
      await inTime(writing, PATIENCE_MS * piecesIn(batch));
    } catch (error) {
      hold(records);
      // Answered after all: what was held is kept.
      writing.then(
        () => release(batch),
        () => undefined,
      );
      throw new Error(`The browser did not take the record (${reasonOf(error)}).`, { cause: error });
    }
    release(batch);
  };
  const release = (batch: readonly LogRecord[]): void => {
    const done = new Set(batch.map((r) => r.id));
    if (held.some((r) => done.has(r.id))) {
      held = held.filter((r) => !done.has(r.id));
      changed();
    }
    for (let i = 0; i < batch.length; i += TOLD_AT_ONCE) channel.postMessage(batch.slice(i, i + TOLD_AT_ONCE));
  };

  const store: RecordStore = {
    async all() {
      const byId = new Map<string, LogRecord>();
      const damaged: Damaged[] = [];
      // A database that is being opened for ever is one that does not open.
      await inTime(base.ready(), PATIENCE_MS);
      // Each item is what one write appended: a list of records.
      batches = await eachItem((value, key) => {
        const list = Array.isArray(value) ? value.map(migrate) : [];
        const bad = list.filter((r) => !isRecord(r));
        if (!Array.isArray(value)) damaged.push({ key, value });
        else if (bad.length > 0) damaged.push({ key, value: bad });
        for (const r of list) if (isRecord(r)) byId.set(r.id, r);
      });
      for (const [id, r] of byId) kept.set(id, r);
      for (const r of held) byId.set(r.id, r);
      return { records: [...byId.values()], damaged };
    },
    append: (records) => inTurn(() => write(records)),
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
        await base.clear();
        held = [];
        batches = 0;
        kept.clear();
        channel.postMessage(null);
        changed();
      }),
    onForeignWrite(callback) {
      const hear = ({ data }: MessageEvent<LogRecord[] | null>) => {
        for (const r of data ?? []) kept.set(r.id, r);
        callback(data);
      };
      channel.addEventListener('message', hear);
      return () => channel.removeEventListener('message', hear);
    },
    close() {
      endRetry?.();
      channel.close();
    },
  };
  return store;
}

const piecesIn = (records: readonly LogRecord[]): number => Math.ceil(records.length / ITEM_RECORDS);

/** Enough of a record to be read; whole records are checked when they come in. */
function isRecord(value: unknown): value is LogRecord {
  if (typeof value !== 'object' || value === null) return false;
  const { id, type, atMs, zoneMin } = value as Record<string, unknown>;
  return typeof id === 'string' && typeof type === 'string' && Number.isFinite(atMs) && Number.isFinite(zoneMin);
}

/**
 * Everything in the store as it lies there, unchecked, as a log file: for when a view, or the log itself, fails.
 */
export async function rawLog(world: World): Promise<string> {
  const store = openStore(world);
  try {
    const { records, damaged } = await store.all();
    return JSON.stringify({ format: 'slow-anchor-log/1', exportedMs: realClock.nowMs(), records, setAside: damaged });
  } finally {
    store.close();
  }
}
