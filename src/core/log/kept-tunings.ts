import type { Bench } from './bench';
import type { TuningRecord } from './records';

/** The tunings of an instrument by their names, as each was last used, the newest first; those deleted since left out. */
export function keptTunings({ tunings, forgotten }: Bench, instrumentId: string): TuningRecord[] {
  const own = tunings.filter((t) => t.instrumentId === instrumentId);
  const isGone = (t: TuningRecord) =>
    forgotten.some((f) => f.instrumentId === instrumentId && f.name === t.name && f.atMs >= t.atMs);
  return [...new Map(own.map((t) => [t.name, t])).values()].filter((t) => !isGone(t)).sort((a, b) => b.atMs - a.atMs);
}
