import localforage from 'localforage';
import { migrate, type LogRecord } from '../../core/records';

/** The record store: append-only, one IndexedDB transaction a write. */
export interface RecordStore {
  all(): Promise<LogRecord[]>;
  /** Resolves when the records are in the database; rejects when the browser refused, and keeps them in `unkept`. */
  append(records: LogRecord[]): Promise<void>;
  /** Records the browser refused to write; they are part of `all` and of exports until it takes them. */
  unkept(): LogRecord[];
  clear(): Promise<void>;
  /** Calls back with what another tab has written, or null when it began the log anew. */
  onForeignWrite(callback: (records: LogRecord[] | null) => void): () => void;
}

export type World = 'own' | 'demo';

/** Opens the user's records or the demonstration's; the two never meet. */
export function openStore(world: World): RecordStore {
  const base = localforage.createInstance({ name: `slow-anchor-${world}`, storeName: 'records' });
  const channel = new BroadcastChannel(`slow-anchor-${world}`);
  let refused: LogRecord[] = [];
  return {
    async all() {
      const byId = new Map<string, LogRecord>();
      // Each item is what one write appended: a list of records.
      await base.iterate<LogRecord[], undefined>((written) => {
        for (const r of written) byId.set(r.id, migrate(r) as LogRecord);
      });
      for (const r of refused) byId.set(r.id, r);
      return [...byId.values()];
    },
    async append(records) {
      if (records.length === 0) return;
      const batch = [...refused, ...records];
      try {
        await base.setItem(batch[0]!.id, batch);
        refused = [];
        channel.postMessage(batch);
      } catch (error) {
        refused = batch;
        throw new Error(`The browser did not take the record (${(error as Error).message}).`, { cause: error });
      }
    },
    unkept: () => refused,
    async clear() {
      await base.clear();
      refused = [];
      channel.postMessage(null);
    },
    onForeignWrite(callback) {
      const hear = ({ data }: MessageEvent<LogRecord[] | null>) => callback(data);
      channel.addEventListener('message', hear);
      return () => channel.removeEventListener('message', hear);
    },
  };
}

/** Small settings of this device (the chart's colours, the chosen input): not part of the log. */
export const settings = localforage.createInstance({ name: 'slow-anchor-settings', storeName: 'settings' });
