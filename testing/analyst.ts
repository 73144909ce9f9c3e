import { createAnalyst } from '../src/app/analyst/analyst';
import { startAnalyst, type Analyst } from '../src/app/analyst/client';
import type { Answer, ToAnalyst } from '../src/app/analyst/questions';
import type { LogRecord } from '../src/core/log';
import { memoryStore } from './memory-store';
import type { RecordStore } from '../src/app/store/database';

/** An analyst over a store of its own, and what it was sent and answered, in order. */
export function analyst(records: readonly LogRecord[], store: RecordStore = memoryStore()) {
  const answers: Answer[] = [];
  const hear = createAnalyst({
    openStore: () => store,
    post: (answer) => {
      answers.push(answer);
      here.onmessage?.({ data: answer } as MessageEvent<Answer>);
    },
    later: (act) => setImmediate(act),
  });
  const here: Parameters<typeof startAnalyst>[1] = {
    postMessage: (message: ToAnalyst) => hear(message),
    onmessage: null,
    onerror: null,
    terminate: () => undefined,
  };
  const asked: Analyst = startAnalyst('own', here);
  return { asked, answers, ready: store.append(records).then(() => asked.open()), store };
}
