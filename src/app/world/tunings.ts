import type { TuningRecord } from '../../core/records';
import type { Draft } from './world';

/** A tuning of an instrument as it is handed about: what is kept of it beside whose it is. */
export type Tuning = Pick<TuningRecord, 'name' | 'capo' | 'strings'>;

/** The tunings of an instrument by their names, as each was last used, the newest first. */
export function keptTunings(all: readonly TuningRecord[], instrumentId: string): TuningRecord[] {
  const own = all.filter((t) => t.instrumentId === instrumentId);
  return [...new Map(own.map((t) => [t.name, t])).values()].sort((a, b) => b.atMs - a.atMs);
}

/** The record that puts a tuning in force. */
export const tuningDraft = (instrumentId: string, { name, capo, strings }: Tuning): Draft => ({
  type: 'tuning',
  instrumentId,
  name,
  ...(capo ? { capo } : {}),
  strings,
});
