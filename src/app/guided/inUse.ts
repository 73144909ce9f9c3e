import { useEffect, useSyncExternalStore } from 'react';

let uses = 0;
const listeners = new Set<() => void>();
const change = (by: number) => {
  uses += by;
  for (const tell of listeners) tell();
};

/** Says that somebody listens, as long as this is so. */
export function useUse(listening: boolean): void {
  useEffect(() => {
    if (!listening) return;
    change(1);
    return () => change(-1);
  }, [listening]);
}

/** Does somebody listen now? Nothing may disturb then. */
export const useInUse = (): boolean =>
  useSyncExternalStore(
    (tell) => {
      listeners.add(tell);
      return () => listeners.delete(tell);
    },
    () => uses > 0,
  );
