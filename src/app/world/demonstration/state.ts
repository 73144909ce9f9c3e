import { newestMs } from '../../../core/log';
import { withinTime, PATIENCE_MS } from '../clock';
import type { DemonstrationFile, Means } from '../means';
import type { RecordStore } from '../../store/database';

/** The truth behind the demonstration: its instruments and its clock. */
export interface DemoState extends Pick<DemonstrationFile, 'truth' | 'bridges' | 'zoneMin'> {
  /** What the demonstration's clock read when it was last set, and how far the page's had gone then. */
  clockMs: number;
  setAtMs: number;
  /** It is being put back to its beginning: what is found so was cut off in the middle. */
  resetting?: boolean;
}

export const saveDemo = async ({ shelf }: Means, state: DemoState): Promise<void> => {
  // Refused, the demonstration begins anew next time.
  await withinTime(shelf.setItem('state', state), PATIENCE_MS).catch(() => undefined);
};

/** Puts the demonstration back to its beginning. */
export async function resetDemo(means: Means, store: RecordStore): Promise<DemoState> {
  const { truth, bridges, zoneMin, startMs, records } = await means.demonstration();
  const state: DemoState = { truth, bridges, zoneMin, clockMs: startMs, setAtMs: means.clock.elapsedMs() };
  await saveDemo(means, { ...state, resetting: true });
  await store.clear();
  // Refused, it is held in memory, which the header says.
  await store.append(records).catch(() => undefined);
  await saveDemo(means, state);
  return state;
}

/** The demonstration as it was left, or fresh on the first visit and where its store was emptied. */
export async function openDemo(means: Means, store: RecordStore): Promise<DemoState> {
  const state = await withinTime(means.shelf.getItem<DemoState>('state'), PATIENCE_MS).catch(() => null);
  const { records, chapters } = await store.all();
  if (!state?.bridges || state.resetting || records.length === 0) return resetDemo(means, store);
  // The demonstration's clock stands still while nobody looks, and never goes back behind what was written.
  const times = [...records.map((r) => r.atMs), ...chapters.map(newestMs)];
  const written = times.reduce((latest, atMs) => Math.max(latest, atMs), state.clockMs);
  return { ...state, clockMs: written, setAtMs: means.clock.elapsedMs() };
}
