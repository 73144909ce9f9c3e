import localforage from 'localforage';
import type { LogRecord } from '../../core/records';
import type { BridgeTruth, StringTruth } from '../../core/simulate';
import type { RecordStore } from '../database/database';

/** The truth behind the demonstration: its instruments and its clock. */
export interface DemoState {
  truth: Record<string, StringTruth[]>;
  /** Floating bridges, by instrument. */
  bridges: Record<string, BridgeTruth>;
  zoneMin: number;
  /** What the demonstration's clock read when it was last set, and the device's clock then. */
  clockMs: number;
  setAtMs: number;
  /** It is being put back to its beginning: what is found so was cut off in the middle. */
  resetting?: boolean;
}

interface DemonstrationFile {
  startMs: number;
  zoneMin: number;
  records: LogRecord[];
  truth: DemoState['truth'];
  bridges: DemoState['bridges'];
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
  const { truth, bridges, zoneMin, startMs } = file;
  const state: DemoState = { truth, bridges, zoneMin, clockMs: startMs, setAtMs: Date.now() };
  await saveDemo({ ...state, resetting: true });
  await store.clear();
  // Refused, it is held in memory, which the header says.
  await store.append(file.records).catch(() => undefined);
  await saveDemo(state);
  return state;
}

/** The demonstration as it was left, or fresh on the first visit and where its store was emptied. */
export async function openDemo(store: RecordStore): Promise<DemoState> {
  const state = await base.getItem<DemoState>('state');
  const { records } = await store.all();
  if (!state?.bridges || state.resetting || records.length === 0) return resetDemo(store);
  // The demonstration's clock stands still while nobody looks, and never goes back behind what was written.
  const written = records.reduce((latest, r) => Math.max(latest, r.atMs), state.clockMs);
  return { ...state, clockMs: written, setAtMs: Date.now() };
}
