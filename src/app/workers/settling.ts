import type { Answer, QuestionKind, Questions, Request } from './messages';

let worker: Worker | undefined;
let serial = 0;
const waiting = new Map<number, { resolve: (answer: never) => void; reject: (e: Error) => void }>();

function settlingWorker(): Worker {
  if (!worker) {
    worker = new Worker(new URL('./settling.worker.ts', import.meta.url), { type: 'module' });
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
  }
  return worker;
}

/** Asks the settling worker: what is heavy is computed beside the page. */
export function askSettling<K extends QuestionKind>(
  kind: K,
  ask: Questions[K]['ask'],
): Promise<Questions[K]['answer']> {
  return new Promise<Questions[K]['answer']>((resolve, reject) => {
    const id = ++serial;
    waiting.set(id, { resolve, reject });
    settlingWorker().postMessage({ id, kind, ask } as Request);
  });
}
