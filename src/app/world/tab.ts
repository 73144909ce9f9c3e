import { pacedClock, realClock, type Clock } from './clock';

/** The fastest that a listener keeps up with, times real time. */
const FASTEST = 20;

/** What this tab was told in its address (`?pace=8&seed=5`), kept while it is open; undefined where it was not. */
function told(name: string): number | undefined {
  const given = new URLSearchParams(window.location.search).get(name);
  try {
    if (given !== null) sessionStorage.setItem(name, given);
    const kept = sessionStorage.getItem(name);
    return kept === null || !Number.isFinite(Number(kept)) ? undefined : Number(kept);
  } catch {
    // A tab without such a store forgets it with the next page.
    return given === null || !Number.isFinite(Number(given)) ? undefined : Number(given);
  }
}

let clock: Clock | undefined;
/** The demonstration's clock: as fast as the address asks, one for the page. */
export function demoClock(): Clock {
  const pace = Math.min(FASTEST, Math.max(1, told('pace') ?? 1));
  return (clock ??= pace === 1 ? realClock : pacedClock(pace));
}

/** What the simulated voice draws from: the same for the same seed, else another one each time. */
export const seedOfTab = (): number => told('seed') ?? Math.floor(realClock.elapsedMs()) + 1;
