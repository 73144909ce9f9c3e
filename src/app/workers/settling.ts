import type { LogRecord } from '../../core/records';
import type { Answer, LogNews, QuestionKind, Questions, Request } from './messages';

/** The settling worker of one log: it is told the records as they come, and asked what follows from them. */
export interface Settling {
  tell: (records: readonly LogRecord[]) => void;
  ask: <K extends QuestionKind>(kind: K, ask: Questions[K]['ask']) => Promise<Questions[K]['answer']>;
}

const workers = new Map<string, Settling>();

/** What is heavy is computed beside the page, on the worker's own copy of the log: a question carries no records. */
export function settlingOf(log: string): Settling {
  const known = workers.get(log) ?? startSettling();
  workers.set(log, known);
  return known;
}

function startSettling(): Settling {
  const worker = new Worker(new URL('./settling.worker.ts', import.meta.url), { type: 'module' });
  const waiting = new Map<number, { resolve: (answer: never) => void; reject: (e: Error) => void }>();
  const told = new Set<LogRecord>();
  let serial = 0;
  worker.onmessage = ({ data }: MessageEvent<Answer>) => {
    const asked = waiting.get(data.id);
    waiting.delete(data.id);
    if ('error' in data) asked?.reject(new Error(data.error));
    else asked?.resolve(data.answer as never);
  };
  worker.onerror = (event) => {
    for (const w of waiting.values()) w.reject(new Error(event.message));
    waiting.clear();
  };
  return {
    tell(records) {
      const news = records.filter((r) => !told.has(r));
      const afresh = news.length === records.length;
      if (afresh) told.clear();
      for (const r of news) told.add(r);
      if (afresh || news.length > 0) worker.postMessage({ kind: 'log', records: news, afresh } satisfies LogNews);
    },
    ask: (kind, ask) =>
      new Promise((resolve, reject) => {
        const id = ++serial;
        waiting.set(id, { resolve, reject });
        worker.postMessage({ id, kind, ask } as Request);
      }),
  };
}
