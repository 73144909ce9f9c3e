import localforage from 'localforage';
import type { LogRecord } from '../../core/records';
import type { StringTruth } from '../../core/simulate';
import type { RecordStore } from './store';

/** The truth behind the demonstration: its instruments and its clock. */
export interface DemoState {
  truth: Record<string, StringTruth[]>;
  zoneMin: number;
  /** What the demonstration's clock read when it was last set, and the device's clock then. */
  clockMs: number;
  setAtMs: number;
}

interface DemonstrationFile {
  startMs: number;
  zoneMin: number;
  records: LogRecord[];
  truth: DemoState['truth'];
}

const base = localforage.createInstance({ name: 'slow-anchor-demo', storeName: 'simulator' });

export async function saveDemo(state: DemoState): Promise<void> {
  await base.setItem('state', state);
}

/** Puts the demonstration back to its beginning. */
export async function resetDemo(store: RecordStore): Promise<DemoState> {
  const response = await fetch('/demonstration.json');
  if (!response.ok) throw new Error('The demonstration is not part of this build: run npm run demo.');
  const file = (await response.json()) as DemonstrationFile;
  await store.clear();
  await store.append(file.records);
  const state = { truth: file.truth, zoneMin: file.zoneMin, clockMs: file.startMs, setAtMs: Date.now() };
  await saveDemo(state);
  return state;
}

/** The demonstration as it was left, or fresh on the first visit. */
export async function openDemo(store: RecordStore): Promise<DemoState> {
  const state = await base.getItem<DemoState>('state');
  if (!state) return resetDemo(store);
  // The demonstration's clock stands still while nobody looks, and never goes back behind what was written.
  const written = (await store.all()).reduce((latest, r) => Math.max(latest, r.atMs), state.clockMs);
  return { ...state, clockMs: written, setAtMs: Date.now() };
}
