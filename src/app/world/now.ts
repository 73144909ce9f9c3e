import { useEffect, useState } from 'react';
import { useWorld } from './world';

/** The world's time, refreshed every `stepMs`. */
export function useNow(stepMs = 5000): number {
  const { clock, nowMs, clockSet } = useWorld();
  const [now, setNow] = useState(nowMs);
  useEffect(() => {
    setNow(nowMs());
    return clock.every(stepMs, () => setNow(nowMs()));
  }, [clock, nowMs, stepMs, clockSet]);
  return now;
}
