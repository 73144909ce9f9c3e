import { readFileSync } from 'node:fs';
import { createAnalyst } from '../src/app/analyst/analyst';
import { createListening } from '../src/app/sound/listening';
import type { QuestionKind } from '../src/app/analyst/questions';
import { startAnalyst, type Analyst } from '../src/app/analyst/client';
import type { Correspondent } from '../src/app/analyst/correspondent';
import type { Clock } from '../src/app/world/clock';
import { numbersFrom, type DemonstrationFile, type Means } from '../src/app/world/means';
import { SoundTrouble, streamSamples } from '../src/app/sound/sources';
import { memoryStore } from './memory-store';
import type { StoreName } from '../src/app/store/database';

/** What answers a worker's messages, in this thread. */
function inProcess<In, Out>(
  start: (post: (message: Out) => void) => (message: In) => void,
  after: (act: () => void) => void,
): Correspondent<In, Out> {
  const here: Correspondent<In, Out> = {
    postMessage: (message) => hear(message),
    onmessage: null,
    onerror: null,
    terminate: () => undefined,
  };
  const hear = start((message) => after(() => here.onmessage?.({ data: message } as MessageEvent<Out>)));
  return here;
}

/** Two ports of which each hands on at once what the other is given. */
function channel(): ReturnType<Means['channel']> {
  type End = {
    onmessage: ((event: MessageEvent) => void) | null;
    postMessage: (data: unknown) => void;
    close: () => void;
  };
  const end = (other: () => End): End => ({
    onmessage: null,
    postMessage: (data) => other().onmessage?.({ data } as MessageEvent),
    close: () => undefined,
  });
  const port1: End = end(() => port2);
  const port2: End = end(() => port1);
  return { port1, port2 } as unknown as ReturnType<Means['channel']>;
}

/** What nobody looks at is not worked out here: with every record anew, it would take most of the time. */
const without = (unseen: readonly QuestionKind[], analyst: Analyst): Analyst => ({
  ...analyst,
  ask: (question, ask, options) =>
    unseen.includes(question) || ((question === 'status' || question === 'next') && options?.waits)
      ? new Promise(() => undefined)
      : analyst.ask(question, ask, options),
});

const demonstration = (): DemonstrationFile =>
  JSON.parse(readFileSync('public/demonstration.json', 'utf8')) as DemonstrationFile;

const microphones = new WeakMap<Means, { samples: Float32Array; rate: number }>();
/** What the microphone of a world hears from when it is opened on: as time goes by. */
export const giveMicrophone = (means: Means, samples: Float32Array, rate: number): void =>
  void microphones.set(means, { samples, rate });

/** A world in one thread: what is computed is computed at once, time goes on when it is told to, nothing is by chance. */
export function testMeans(world: StoreName, clock: Clock, seed: number, unseen: readonly QuestionKind[]): Means {
  const store = memoryStore();
  const shelf = new Map<string, unknown>();
  const means: Means = {
    clock,
    zone: () => 'Europe/Berlin',
    nextSeed: numbersFrom(seed),
    openStore: () => store,
    analyst: without(
      unseen,
      startAnalyst(
        world,
        inProcess((post) => createAnalyst({ openStore: () => store, post, later: queueMicrotask }), queueMicrotask),
      ),
    ),
    startListener: () => inProcess(createListening, (act) => act()),
    channel,
    microphone: () => {
      const sound = microphones.get(means);
      if (!sound) return Promise.reject(new SoundTrouble('No input was found.'));
      const { samples, rate } = sound;
      let at = 0;
      return Promise.resolve(
        streamSamples({ clock, channel }, rate, (frames) => {
          const block = new Float32Array(frames);
          block.set(samples.subarray(at, (at += frames)));
          return block;
        }),
      );
    },
    demonstration: async () => demonstration(),
    shelf: {
      getItem: async <T>(key: string) => (shelf.get(key) as T | undefined) ?? null,
      setItem: async (key, value) => {
        shelf.set(key, value);
        return value;
      },
    },
  };
  return means;
}
