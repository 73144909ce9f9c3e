import { useEffect } from 'react';

/** Keeps the screen awake while it is listened: nobody touches it for a whole pass. Refused, it sleeps as ever. */
export function useWakeLock(wanted: boolean): void {
  useEffect(() => {
    if (!wanted || !('wakeLock' in navigator)) return;
    let lock: WakeLockSentinel | undefined;
    let gone = false;
    // The browser lets go when the page is hidden: it is asked again when it is seen.
    const hold = () => {
      if (document.visibilityState !== 'visible') return;
      navigator.wakeLock.request('screen').then(
        (held) => {
          if (gone) void held.release();
          else lock = held;
        },
        (error: unknown) => console.info('The screen may fall asleep.', error),
      );
    };
    hold();
    document.addEventListener('visibilitychange', hold);
    return () => {
      gone = true;
      document.removeEventListener('visibilitychange', hold);
      void lock?.release();
    };
  }, [wanted]);
}
