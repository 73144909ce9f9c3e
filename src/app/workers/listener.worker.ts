import { createPairListener, type PairListener, type PairOptions } from '../../core/intervals';
import { createListener, type Listener, type Task } from '../../core/pitch';
import type { BlockMessage, FromListener, ToListener } from './messages';

let listener: Listener | undefined;
let task: Task | undefined;
let port: MessagePort | undefined;
let serial = 0;
let rate = 0;
let asked: PairOptions | null = null;
let pairListener: PairListener | undefined;
const followPair = () => {
  pairListener = asked && rate > 0 ? createPairListener(rate, asked) : undefined;
};

function close(): void {
  port?.close();
  port = undefined;
  listener = undefined;
}

self.onmessage = ({ data }: MessageEvent<ToListener>) => {
  if (data.kind === 'task') {
    task = data.task;
    listener?.setTask(task);
  } else if (data.kind === 'read-now') {
    const heard = listener?.readNow() ?? [];
    if (heard.length > 0) self.postMessage({ heard, serial } satisfies FromListener);
  } else if (data.kind === 'check') listener?.check(data.referenceHz);
  else if (data.kind === 'deafen') listener?.deafen(data.seconds);
  else if (data.kind === 'pair') {
    asked = data.pair;
    followPair();
  } else if (data.kind === 'close') close();
  else {
    close();
    const current = createListener(data.sampleRate);
    if (task) current.setTask(task);
    rate = data.sampleRate;
    followPair();
    listener = current;
    port = data.port;
    serial = data.serial;
    const own = data.port;
    own.onmessage = ({ data: block }: MessageEvent<BlockMessage>) => {
      const heard = current.push(block.samples, block.lost);
      own.postMessage(0);
      const pair = pairListener?.push(block.samples).at(-1);
      if (heard.length > 0 || pair)
        self.postMessage({
          heard,
          serial: data.serial,
          ...(pair ? { pair: pair.moment } : {}),
        } satisfies FromListener);
    };
  }
};
