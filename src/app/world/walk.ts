import { useSyncExternalStore } from 'react';
import { tabStore } from './tab';
import type { StoreName } from '../store/database';

/** Instruments that are gone to one after another, in this tab. */
export interface Walk {
  ids: readonly string[];
}

const keyOf = (world: StoreName) => `walk/${world}`;
const listeners = new Set<() => void>();
const kept = new Map<StoreName, { text: string | null; walk: Walk | undefined }>();

function read(world: StoreName): Walk | undefined {
  const text = tabStore.get(keyOf(world));
  const known = kept.get(world);
  if (known && known.text === text) return known.walk;
  const walk = text === null ? undefined : { ids: text.split(' ') };
  kept.set(world, { text, walk });
  return walk;
}

const changed = () => listeners.forEach((told) => told());
export function beginWalk(world: StoreName, ids: readonly string[]): void {
  tabStore.set(keyOf(world), ids.join(' '));
  changed();
}
export function endWalk(world: StoreName): void {
  tabStore.remove(keyOf(world));
  changed();
}

const subscribe = (told: () => void) => {
  listeners.add(told);
  return () => void listeners.delete(told);
};

/** The walk under way in this tab; undefined where there is none. */
export const useWalk = (world: StoreName): Walk | undefined => useSyncExternalStore(subscribe, () => read(world));

/** Where an instrument stands in a walk, and who comes after it; undefined where it is not in one. */
export function onWalk(walk: Walk | undefined, instrumentId: string) {
  const at = walk?.ids.indexOf(instrumentId) ?? -1;
  return at < 0 ? undefined : { at, of: walk!.ids.length, nextId: walk!.ids[at + 1] };
}
