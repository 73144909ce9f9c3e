/** Takes back what was asked of a clock. */
export type Stop = () => void;

/** Where time is read and waited for; the only one, so that a test or the demonstration may let it run faster. */
export interface Clock {
  /** How much faster than the time outside it runs. */
  readonly pace: number;
  /** The time of day, ms since 1970. It may be set back. */
  nowMs(): number;
  /** A time that only goes on, ms. */
  elapsedMs(): number;
  every(ms: number, act: () => void): Stop;
  after(ms: number, act: () => void): Stop;
  /** A clock that need not keep up with the time outside stands still while this is so: sound waits for what hears it. */
  holdWhile(busy: () => boolean): Stop;
}

/** The device's own. */
export const realClock: Clock = {
  pace: 1,
  nowMs: () => Date.now(),
  elapsedMs: () => performance.now(),
  every(ms, act) {
    const timer = setInterval(act, ms);
    return () => clearInterval(timer);
  },
  after(ms, act) {
    const timer = setTimeout(act, ms);
    return () => clearTimeout(timer);
  },
  holdWhile: () => () => undefined,
};

/** What a browser is asked for was not answered in time. */
export class NotAnswered extends Error {
  constructor() {
    super('it has not answered yet');
  }
}

/** What the browser answers within so long; rejects with NotAnswered where it does not. */
export async function withinTime<T>(work: Promise<T>, ms: number): Promise<T> {
  let stop: Stop | undefined;
  const late = new Promise<never>((_, reject) => {
    stop = realClock.after(ms, () => reject(new NotAnswered()));
  });
  try {
    return await Promise.race([work, late]);
  } finally {
    stop?.();
  }
}

/** A store that does not answer for so long is told, and gone on without, ms. */
export const PATIENCE_MS = 8000;

/** A clock that goes on when it is told to. */
export interface SteppedClock extends Clock {
  /** Goes on by so much; what was waited for happens on the way, each at its moment. */
  advance(ms: number): void;
  held(): boolean;
}

export function steppedClock(startMs: number, pace = 1): SteppedClock {
  let elapsed = 0;
  let serial = 0;
  const waits = new Map<number, { dueMs: number; everyMs: number | undefined; act: () => void }>();
  const holds = new Set<() => boolean>();
  const wait = (ms: number, everyMs: number | undefined, act: () => void): Stop => {
    const id = ++serial;
    waits.set(id, { dueMs: elapsed + ms, everyMs, act });
    return () => waits.delete(id);
  };
  return {
    pace,
    nowMs: () => startMs + elapsed,
    elapsedMs: () => elapsed,
    every: (ms, act) => wait(ms, Math.max(1, ms), act),
    after: (ms, act) => wait(ms, undefined, act),
    holdWhile(busy) {
      holds.add(busy);
      return () => holds.delete(busy);
    },
    held: () => [...holds].some((busy) => busy()),
    advance(ms) {
      const until = elapsed + ms;
      for (;;) {
        // The first that is due; of two at one moment the one that was asked first.
        let next: number | undefined;
        for (const [id, w] of waits)
          if (w.dueMs <= until && (next === undefined || w.dueMs < waits.get(next)!.dueMs)) next = id;
        if (next === undefined) break;
        const due = waits.get(next)!;
        elapsed = Math.max(elapsed, due.dueMs);
        if (due.everyMs === undefined) waits.delete(next);
        else due.dueMs += due.everyMs;
        due.act();
      }
      elapsed = until;
    },
  };
}

const TICK_MS = 10;
/** A tick that comes later than this makes up for no more, ms. */
const LONGEST_TICK_MS = 50;

/** Runs so many times faster than the time outside, as far as what is held lets it. */
export function pacedClock(pace: number): Clock {
  const clock = steppedClock(Date.now(), pace);
  let last = performance.now();
  setInterval(() => {
    const now = performance.now();
    const passed = Math.min(LONGEST_TICK_MS, now - last);
    last = now;
    if (!clock.held()) clock.advance(passed * pace);
  }, TICK_MS);
  return clock;
}
