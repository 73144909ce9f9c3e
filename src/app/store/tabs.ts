import type { LogEntries } from '../../core/log';

/** How the items of the store are written. A build reads what the one before it wrote, and the one before reads what it writes. */
export const STORE_VERSION = 2;

/** What others that have this log open are told: what was written, or that it was begun anew. */
export type TabNews = LogEntries | 'anew';
type Message = { version: number } & ({ told: TabNews } | { hello: true } | { here: true });

/** 'alone': all that have this log open are of this build's kind. */
export type Stand = 'alone' | 'older is open' | 'newer is open';

/** Tells others that have the same log open what is written, and hears it of them. */
export interface Wire {
  tell(told: TabNews): void;
  stand(): Stand;
  /** Calls back when the stand changes. */
  onStand(callback: () => void): () => void;
  close(): void;
}

/** What a build from before versions were told says to those that hear it: what it wrote, or a word. */
function toldOfOld(data: unknown): TabNews | undefined {
  if (data === 'anew') return 'anew';
  if (Array.isArray(data)) return { records: data as LogEntries['records'], chapters: [] };
  if (typeof data !== 'object' || data === null) return undefined;
  const { records, chapters } = data as Partial<LogEntries>;
  return Array.isArray(records) ? { records, chapters: Array.isArray(chapters) ? chapters : [] } : undefined;
}

/**
 * @param name of the log. Builds from before versions were told have a channel of this name: they are heard there, and hear nothing that
 * they would not understand.
 */
export function createWire(name: string, hear: (told: TabNews) => void, version = STORE_VERSION): Wire {
  const channel = new BroadcastChannel(`${name}/told`);
  const old = new BroadcastChannel(name);
  const listeners = new Set<() => void>();
  let stand: Stand = 'alone';
  const be = (next: Stand): void => {
    // What is newer stays so until this page is loaded again.
    if (next === stand || stand === 'newer is open') return;
    stand = next;
    for (const tell of listeners) tell();
  };
  const say = (message: object): void => channel.postMessage({ version, ...message });
  channel.onmessage = ({ data }: MessageEvent<Message>) => {
    if (data.version > version) be('newer is open');
    if (data.version < version) be('older is open');
    if ('hello' in data) say({ here: true });
    if ('told' in data && data.version <= version) hear(data.told);
  };
  old.onmessage = ({ data }: MessageEvent<unknown>) => {
    be('older is open');
    const told = toldOfOld(data);
    if (told) hear(told);
  };
  say({ hello: true });
  return {
    tell: (told) => say({ told }),
    stand: () => stand,
    onStand(callback) {
      listeners.add(callback);
      return () => listeners.delete(callback);
    },
    close() {
      channel.close();
      old.close();
    },
  };
}
