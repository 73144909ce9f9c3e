import { saveFile } from '../parts/saveFile';
import { openStore, type Damaged, type World } from './store';

/** What could not be read, as a file. */
export function exportSetAside(damaged: readonly Damaged[]): void {
  saveFile('slow-anchor-set-aside.json', JSON.stringify(damaged, null, 1), 'application/json');
}

/** Everything in the store as it lies there, unread and unchecked: for when a view, or the log itself, fails. */
export async function exportRaw(world: World): Promise<void> {
  const store = openStore(world);
  try {
    const { records, damaged } = await store.all();
    const file = { format: 'slow-anchor-log/1', exportedMs: Date.now(), records, setAside: damaged };
    saveFile(`slow-anchor-${world}-as-stored.json`, JSON.stringify(file), 'application/json');
  } finally {
    store.close();
  }
}
