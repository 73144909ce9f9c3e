import { pacedClock, realClock, type Clock } from './clock';
import { clamp } from '../../core/base';

/** The fastest that a listener keeps up with, times real time. */
const FASTEST = 20;

/** Where the tab's own store is blocked, it is the page's memory. */
const memory = new Map<string, string>();

/** What a tab knows of itself over a reload; where the browser keeps no such store, until the next page. */
export const tabStore = {
  get(key: string): string | null {
    try {
      return sessionStorage.getItem(key);
    } catch {
      return memory.get(key) ?? null;
    }
  },
  set(key: string, value: string): void {
    try {
      sessionStorage.setItem(key, value);
    } catch {
      memory.set(key, value);
    }
  },
  remove(key: string): void {
    try {
      sessionStorage.removeItem(key);
    } catch {
      memory.delete(key);
    }
  },
};

/** What this tab was told in its address (`?pace=8&seed=5`), kept while it is open; undefined where it was not. */
function told(name: string): number | undefined {
  const given = new URLSearchParams(window.location.search).get(name);
  if (given !== null) tabStore.set(name, given);
  const kept = tabStore.get(name);
  return kept === null || !Number.isFinite(Number(kept)) ? undefined : Number(kept);
}

let clock: Clock | undefined;
/** The demonstration's clock: as fast as the address asks, one for the page. */
export function demoClock(): Clock {
  const pace = clamp(told('pace') ?? 1, 1, FASTEST);
  return (clock ??= pace === 1 ? realClock : pacedClock(pace));
}

/** What the simulated voice draws from: the same for the same seed, else another one each time. */
export const seedOfTab = (): number => told('seed') ?? Math.floor(realClock.elapsedMs()) + 1;
