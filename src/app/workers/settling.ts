import type { InstrumentLife, StringStatus, Wish } from '../../core/records';
import type { StatusAnswer, StatusRequest } from './messages';

let worker: Worker | undefined;
let serial = 0;
const waiting = new Map<number, { resolve: (s: StringStatus[]) => void; reject: (e: Error) => void }>();

function settlingWorker(): Worker {
  if (!worker) {
    worker = new Worker(new URL('./settling.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data }: MessageEvent<StatusAnswer>) => {
      waiting.get(data.id)?.resolve(data.statuses);
      waiting.delete(data.id);
    };
    worker.onerror = (event) => {
      for (const w of waiting.values()) w.reject(new Error(event.message));
      waiting.clear();
    };
  }
  return worker;
}

/** States and forecasts of one instrument, computed beside the page. */
export function computeStatus(life: InstrumentLife, wish: Wish): Promise<StringStatus[]> {
  return new Promise((resolve, reject) => {
    const id = ++serial;
    waiting.set(id, { resolve, reject });
    settlingWorker().postMessage({ id, life, wish } satisfies StatusRequest);
  });
}
