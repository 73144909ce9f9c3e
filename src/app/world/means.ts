import localforage from 'localforage';
import { isZone, type Zone } from '../../core/base';
import type { LogRecord } from '../../core/log';
import type { BridgeTruth, StringTruth } from '../../core/simulate';
import type { FromListener, OpenMicrophone, ToListener } from '../sound/messages';
import { startAnalyst, type Analyst } from '../analyst/client';
import type { Correspondent } from '../analyst/correspondent';
import { realClock, type Clock } from './clock';
import { demoClock, seedOfTab } from './tab';
import { openStore, type RecordStore, type StoreName } from '../store/database';

export type ListenerLink = Correspondent<ToListener, FromListener>;

/** The demonstration as it was made. */
export interface DemonstrationFile {
  startMs: number;
  zoneMin: number;
  records: LogRecord[];
  truth: Record<string, StringTruth[]>;
  /** Floating bridges, by instrument. */
  bridges: Record<string, BridgeTruth>;
}

/** Where the demonstration's truth is kept. */
export interface DemoShelf {
  getItem<T>(key: string): Promise<T | null>;
  setItem<T>(key: string, value: T): Promise<T>;
}

/** What a world is made of that is not the same everywhere: a browser has its own, a test gives others. */
export interface Means {
  clock: Clock;
  /** The time zone of this device. */
  zone: () => Zone;
  /** What the simulated voice draws from: another one each time it is opened. */
  nextSeed: () => number;
  openStore: (world: StoreName) => RecordStore;
  analyst: Analyst;
  startListener: () => ListenerLink;
  /** Another microphone than the browser's: a test gives one. */
  microphone?: OpenMicrophone;
  /** Two ports that hand samples on. */
  channel: () => Pick<MessageChannel, 'port1' | 'port2'>;
  demonstration: () => Promise<DemonstrationFile>;
  shelf: DemoShelf;
}

/** Where no name is known, the offset of now. */
const deviceZone = (): Zone => {
  const name = Intl.DateTimeFormat().resolvedOptions().timeZone;
  return name && isZone(name) ? name : -new Date(realClock.nowMs()).getTimezoneOffset();
};

async function fetchDemonstration(): Promise<DemonstrationFile> {
  const response = await fetch('/demonstration.json');
  if (!response.ok) throw new Error('The demonstration is not part of this build: run npm run demo.');
  return (await response.json()) as DemonstrationFile;
}

/** One number after another, from this one on. */
export function numbersFrom(seed: number): () => number {
  let next = seed;
  return () => next++;
}

const means = new Map<StoreName, Means>();

/** The browser's, one for each world as long as the page lives. */
export function browserMeans(world: StoreName): Means {
  const known = means.get(world) ?? {
    clock: world === 'demo' ? demoClock() : realClock,
    zone: deviceZone,
    nextSeed: numbersFrom(seedOfTab()),
    openStore,
    analyst: startAnalyst(
      world,
      new Worker(new URL('../analyst/analyst.worker.ts', import.meta.url), { type: 'module' }),
    ),
    startListener: () => new Worker(new URL('../sound/listener.worker.ts', import.meta.url), { type: 'module' }),
    channel: () => new MessageChannel(),
    demonstration: fetchDemonstration,
    shelf: localforage.createInstance({ name: 'slow-anchor-demo', storeName: 'simulator' }),
  };
  means.set(world, known);
  return known;
}
