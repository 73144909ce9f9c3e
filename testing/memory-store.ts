import type { LogRecord } from '../src/core/log';
import type { RecordStore } from '../src/app/store/database';

/** A record store that keeps everything in memory, at once, and refuses nothing. */
export function memoryStore(): RecordStore {
  let records: LogRecord[] = [];
  return {
    all: async () => ({ records: [...records], chapters: [], damaged: [] }),
    append: async (more) => {
      records = [...records, ...more];
      return { records: [...more], chapters: [] };
    },
    tidy: async () => undefined,
    held: () => [],
    forget: () => undefined,
    onHeld: () => () => undefined,
    clear: async () => {
      records = [];
    },
    onForeignWrite: () => () => undefined,
    stand: () => 'alone',
    onStand: () => () => undefined,
    close: () => undefined,
  };
}
