import type { TuningRecord } from '../../core/records';

/** The tunings of an instrument by their names, as each was last used, the newest first. */
export function keptTunings(all: readonly TuningRecord[], instrumentId: string): TuningRecord[] {
  const own = all.filter((t) => t.instrumentId === instrumentId);
  return [...new Map(own.map((t) => [t.name, t])).values()].sort((a, b) => b.atMs - a.atMs);
}
