import { useEffect, useState } from 'react';
import { useWorld } from './world';

/** The world's time, refreshed every `stepMs`. */
export function useNow(stepMs = 5000): number {
  const { nowMs, clockSet } = useWorld();
  const [now, setNow] = useState(nowMs);
  useEffect(() => {
    setNow(nowMs());
    const timer = window.setInterval(() => setNow(nowMs()), stepMs);
    return () => window.clearInterval(timer);
  }, [nowMs, stepMs, clockSet]);
  return now;
}
