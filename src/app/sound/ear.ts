import type { Heard, ListenTask } from '../../core/pitch';
import type { FromListener, SoundSource, ToListener } from './messages';
import type { Follow, Followed } from '../../core/two-strings';
import type { Correspondent } from '../analyst/correspondent';

/** The page's end of the listener worker: takes a source and a task, tells what is heard. */
export interface Ear {
  /** @param clockRatio true sample rate over the nominal one */
  listen(source: SoundSource, clockRatio?: number): void;
  setTask(task: ListenTask): void;
  /** What else to follow, or nothing. */
  follow(what: Follow | null): void;
  readNow(): void;
  check(referenceHz?: number): void;
  /** Hears nothing for so long: the app itself sounds. */
  deafen(seconds: number): void;
  pause(): void;
  close(): void;
}

/** @param worker the listener, which is the ear's from now on */
export function createEar(
  worker: Correspondent<ToListener, FromListener>,
  onTrouble: (sentence: string) => void,
  onHeard: (heard: Heard[]) => void,
  onFollowed: (followed: Followed) => void,
): Ear {
  let source: SoundSource | undefined;
  let serial = 0;
  worker.onmessage = ({ data }) => {
    if (!source || data.serial !== serial) return;
    onHeard(data.heard);
    if (data.followed) onFollowed(data.followed);
    if (data.took) source.next?.();
  };
  worker.onerror = (event) =>
    onTrouble(`The listener failed (${event.message}). What was kept is safe; reload the page to go on.`);
  const pause = () => {
    source?.stop();
    source = undefined;
    worker.postMessage({ kind: 'close' } satisfies ToListener);
  };
  return {
    listen(next, clockRatio = 1) {
      if (source) pause();
      source = next;
      serial++;
      worker.postMessage(
        {
          kind: 'source',
          port: next.port,
          sampleRate: next.sampleRate * clockRatio,
          serial,
          waits: next.next !== undefined,
        } satisfies ToListener,
        [next.port],
      );
      next.next?.();
    },
    setTask(task) {
      worker.postMessage({ kind: 'task', task } satisfies ToListener);
    },
    follow(what) {
      worker.postMessage({ kind: 'follow', follow: what } satisfies ToListener);
    },
    readNow() {
      worker.postMessage({ kind: 'read-now' } satisfies ToListener);
    },
    check(referenceHz) {
      worker.postMessage({
        kind: 'check',
        ...(referenceHz === undefined ? {} : { referenceHz }),
      } satisfies ToListener);
    },
    deafen(seconds) {
      worker.postMessage({ kind: 'deafen', seconds } satisfies ToListener);
    },
    pause,
    close() {
      pause();
      worker.terminate();
    },
  };
}
