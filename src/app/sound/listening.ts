import { createPairListener, createSteadyListener, type Follow, type Followed } from '../../core/two-strings';
import { createListener, type Listener, type ListenTask } from '../../core/pitch';
import type { BlockMessage, FromListener, ToListener } from './messages';

/** Hears one source after another for what it was told to listen for, and posts what it heard. */
export function createListening(post: (message: FromListener) => void): (message: ToListener) => void {
  let listener: Listener | undefined;
  let task: ListenTask | undefined;
  let port: MessagePort | undefined;
  let serial = 0;
  let rate = 0;
  let asked: Follow | null = null;
  let follower: ((samples: Float32Array) => Followed | undefined) | undefined;

  /** What is followed begins anew with every source and every question. */
  const beginFollowing = (): void => {
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
  };
  const close = (): void => {
    port?.close();
    port = undefined;
    listener = undefined;
  };
  const listenTo = (own: MessagePort, sampleRate: number, of: number, waits: boolean): void => {
    close();
    const current = createListener(sampleRate);
    if (task) current.setTask(task);
    rate = sampleRate;
    beginFollowing();
    listener = current;
    port = own;
    serial = of;
    own.onmessage = ({ data: block }: MessageEvent<BlockMessage>) => {
      const heard = current.push(block.samples, block.lost);
      if (!waits) own.postMessage(0);
      const followed = follower?.(block.samples);
      if (waits || heard.length > 0 || followed)
        post({ heard, serial: of, ...(followed ? { followed } : {}), ...(waits ? { took: true } : {}) });
    };
  };

  return (message) => {
    if (message.kind === 'task') {
      task = message.task;
      listener?.setTask(task);
    } else if (message.kind === 'read-now') {
      const heard = listener?.readNow() ?? [];
      if (heard.length > 0) post({ heard, serial });
    } else if (message.kind === 'check') listener?.check(message.referenceHz);
    else if (message.kind === 'deafen') listener?.deafen(message.seconds);
    else if (message.kind === 'follow') {
      asked = message.follow;
      beginFollowing();
    } else if (message.kind === 'close') close();
    else listenTo(message.port, message.sampleRate, message.serial, message.waits);
  };
}
