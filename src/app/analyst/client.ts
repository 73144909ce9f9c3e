import type { Correspondent } from './correspondent';
import type { Chapter, LogRecord } from '../../core/log';
import type { Answer, QuestionKind, Questions, Request, ToAnalyst } from './questions';
import type { StoreName } from '../store/database';

export interface AskOptions {
  /** Aborted, the question is dropped: nobody waits for it any more. */
  signal?: AbortSignal;
  /** Gives way to other questions. */
  waits?: boolean;
  onProgress?: (done: number) => void;
}

/** The analyst of one log: it reads the store itself, is told what comes after, and is asked what follows. */
export interface Analyst {
  /** Begins with what the store holds. @param onAside called back when a chapter proves damaged */
  open: (onAside?: (chapter: Chapter) => void) => void;
  tell: (records: readonly LogRecord[], chapters?: readonly Chapter[]) => void;
  ask: <K extends QuestionKind>(
    question: K,
    ask: Questions[K]['ask'],
    options?: AskOptions,
  ) => Promise<Questions[K]['answer']>;
}

/** What is heavy is computed beside the page, on the worker's own copy of the log: a question carries no records. */
export function startAnalyst(world: StoreName, worker: Correspondent<ToAnalyst, Answer>): Analyst {
  const waiting = new Map<
    number,
    { resolve: (answer: never) => void; reject: (e: Error) => void; onProgress?: (done: number) => void }
  >();
  const post = (message: ToAnalyst) => worker.postMessage(message);
  let serial = 0;
  let onAside: (chapter: Chapter) => void = () => undefined;
  worker.onmessage = ({ data }: MessageEvent<Answer>) => {
    if ('aside' in data) {
      onAside(data.aside);
      return;
    }
    const asked = waiting.get(data.id);
    if ('done' in data) {
      asked?.onProgress?.(data.done);
      return;
    }
    waiting.delete(data.id);
    if ('error' in data) asked?.reject(new Error(data.error));
    else asked?.resolve(data.answer as never);
  };
  worker.onerror = (event) => {
    for (const w of waiting.values()) w.reject(new Error(event.message));
    waiting.clear();
  };
  return {
    open(callback = () => undefined) {
      onAside = callback;
      post({ kind: 'open', world });
    },
    tell(records, chapters = []) {
      if (records.length + chapters.length > 0) post({ kind: 'log', records, chapters });
    },
    ask: (question, ask, { signal, waits = false, onProgress } = {}) =>
      new Promise((resolve, reject) => {
        const id = ++serial;
        waiting.set(id, { resolve, reject, ...(onProgress ? { onProgress } : {}) });
        signal?.addEventListener('abort', () => {
          if (!waiting.delete(id)) return;
          post({ kind: 'drop', id });
          reject(new DOMException('Nobody waits for this any more.', 'AbortError'));
        });
        post({ id, kind: 'ask', waits, question, ask } as Request);
      }),
  };
}
