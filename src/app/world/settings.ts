import { v4 as newId } from 'uuid';
import localforage from 'localforage';
import { withinTime, PATIENCE_MS } from './clock';

const store = localforage.createInstance({ name: 'slow-anchor-settings', storeName: 'settings' });
/** The store has once not answered: from then on it is not waited for. */
let dumb = false;
const asked = async <T>(work: () => Promise<T | null>): Promise<T | null> => {
  if (dumb) return null;
  try {
    return await withinTime(work(), PATIENCE_MS);
  } catch (error) {
    dumb = true;
    console.warn('Settings of this device are not kept.', error);
    return null;
  }
};

/**
 * Small settings of this device (the chart's colours, the chosen input): not part of the log. Where the browser does not keep
 * them, all are as usual, and chosen again next time.
 */
export const settings = {
  getItem: <T>(key: string): Promise<T | null> => asked(() => store.getItem<T>(key)),
  setItem: <T>(key: string, value: T): Promise<T | null> => asked(() => store.setItem(key, value)),
};

/** The name of this browser among those that write to a log. */
export async function writerName(): Promise<string> {
  const known = await settings.getItem<string>('writer');
  const name = known ?? newId();
  // Refused, it is a new one next time: only the order of two sessions rests on their times then.
  if (!known) await settings.setItem('writer', name);
  return name;
}
