import { useEffect, useRef } from 'react';
import { openDrone, type Drone } from './drone';

/** Sounds a tone as long as a frequency is given; another one follows at once, and nothing is left when the view goes. */
export function useDrone(frequencyHz: number | undefined, level: number): void {
  const drone = useRef<Drone | undefined>(undefined);
  const loud = useRef(level);
  useEffect(() => {
    loud.current = level;
    drone.current?.level(level);
  }, [level]);
  useEffect(() => {
    if (frequencyHz === undefined) return undefined;
    const made = openDrone(frequencyHz, loud.current);
    drone.current = made;
    return () => {
      drone.current = undefined;
      made.stop();
    };
  }, [frequencyHz]);
}
