import { useSyncExternalStore } from 'react';
import type { PairMoment, SteadyMoment } from '../../core/two-strings';
import type { GuideView } from '../../core/guided';
import type { TrackPoint } from '../../core/pitch';

/** What is heard from moment to moment: drawn by those few parts that subscribe, so that nothing else is drawn at every point. */
export interface Moment extends GuideView {
  /** The last seconds of the live trace, oldest first. */
  trail: readonly TrackPoint[];
  /** The app itself sounds: nothing is heard. */
  deaf: boolean;
  /** Two strings heard together, where they are followed; null where they are not. */
  pair: PairMoment | null;
  /** A held tone, or why it is not read, where one is followed. */
  steady: SteadyMoment | string | null;
  /** How far a recording has been played, whole seconds; null where none is. */
  played: { atS: number; ofS: number } | null;
}

export interface Trace {
  get(): Moment;
  set(change: Partial<Moment>): void;
  subscribe(listener: () => void): () => void;
}

const NOTHING: Moment = {
  sentence: '',
  figure: null,
  faded: null,
  tuner: null,
  turning: false,
  trail: [],
  deaf: false,
  pair: null,
  steady: null,
  played: null,
};

export function createTrace(): Trace {
  let now = NOTHING;
  const listeners = new Set<() => void>();
  return {
    get: () => now,
    set(change) {
      const keys = Object.keys(change) as (keyof Moment)[];
      if (keys.every((k) => change[k] === now[k])) return;
      now = { ...now, ...change };
      for (const tell of listeners) tell();
    },
    subscribe(listener) {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
  };
}

/** One thing of the moment; drawn anew when that has changed. */
export const useMoment = <T>(trace: Trace, select: (moment: Moment) => T): T =>
  useSyncExternalStore(trace.subscribe, () => select(trace.get()));
