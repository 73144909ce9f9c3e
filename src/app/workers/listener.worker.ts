import { createPairListener, createSteadyListener } from '../../core/intervals';
import { createListener, type Listener, type Task } from '../../core/pitch';
import type { BlockMessage, Follow, Followed, FromListener, ToListener } from './messages';

let listener: Listener | undefined;
let task: Task | undefined;
let port: MessagePort | undefined;
let serial = 0;
let rate = 0;
let asked: Follow | null = null;
let follower: ((samples: Float32Array) => Followed | undefined) | undefined;

/** What is followed begins anew with every source and every question. */
function beginFollowing(): void {
  follower = undefined;
  if (!asked || rate === 0) return;
  if (asked.kind === 'pair') {
    const pair = createPairListener(rate, asked);
    follower = (samples) => {
      const newest = pair.push(samples).at(-1);
      return newest && { kind: 'pair', moment: newest.moment };
    };
    return;
  }
  const steady = createSteadyListener(rate, asked.nominalHz, asked.tone);
  follower = (samples) => {
    const newest = steady.push(samples).at(-1);
    return newest === undefined ? undefined : { kind: 'steady', moment: newest };
  };
}

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
  else if (data.kind === 'follow') {
    asked = data.follow;
    beginFollowing();
  } else if (data.kind === 'close') close();
  else {
    close();
    const current = createListener(data.sampleRate);
    if (task) current.setTask(task);
    rate = data.sampleRate;
    beginFollowing();
    listener = current;
    port = data.port;
    serial = data.serial;
    const own = data.port;
    own.onmessage = ({ data: block }: MessageEvent<BlockMessage>) => {
      const heard = current.push(block.samples, block.lost);
      own.postMessage(0);
      const followed = follower?.(block.samples);
      if (heard.length > 0 || followed)
        self.postMessage({ heard, serial: data.serial, ...(followed ? { followed } : {}) } satisfies FromListener);
    };
  }
};
