import { useEffect, useLayoutEffect, useRef, useState } from 'react';
import { type SteadyMoment } from '../../../core/two-strings';
import { averageTone, octaveStretch, type KeyboardA, type ToneReading } from '../../../core/reference';
import type { Trace } from '../../guided/trace';

/** The As of a keyboard that tell its stretch, by octaves from A4. */
export const OTHER_AS = [-1, 1, -2, 2];

/** What is measured of one source: repeats of its A, and of a keyboard its other As. */
export function useMeasuring() {
  const [measuring, setMeasuring] = useState(false);
  const [readings, setReadings] = useState<ToneReading[]>([]);
  /** The first third against the last of each tone, cents: a reed that warms up. */
  const [drifts, setDrifts] = useState<number[]>([]);
  const [others, setOthers] = useState<KeyboardA[] | undefined>(undefined);
  const average = averageTone(readings);
  /** What can be used already, and what nothing more is to be had of. */
  const usable = measuring ? average : undefined;
  const found = usable?.verdict && usable;
  /** Which other A is asked for; undefined where none is. */
  const octave = others && OTHER_AS[others.length];
  const as = found ? [{ octaves: 0, frequencyHz: found.frequencyHz }, ...(others ?? [])] : [];
  return {
    measuring,
    readings,
    average,
    usable,
    found,
    octave,
    others,
    stretch: octaveStretch(as),
    drift: drifts.reduce((a, b) => (Math.abs(b) > Math.abs(a) ? b : a), 0),
    begin: () => {
      setReadings([]);
      setDrifts([]);
      setOthers(undefined);
      setMeasuring(true);
    },
    end: () => setMeasuring(false),
    askStretch: () => setOthers([]),
    take: ({ frequencyHz, sigmaCents, driftCents, limit }: SteadyMoment) => {
      if (octave !== undefined) setOthers((o) => [...(o ?? []), { octaves: octave, frequencyHz }]);
      else {
        setReadings((r) => [...r, { frequencyHz, sigmaCents, limit }]);
        setDrifts((d) => [...d, driftCents]);
      }
    },
  };
}

/** Tells what is heard of a held tone: its reading when it is done, or why there is none. */
export function useSteady(on: boolean, trace: Trace, tell: (heard: SteadyMoment | string) => void): void {
  const latest = useRef(tell);
  useLayoutEffect(() => {
    latest.current = tell;
  });
  useEffect(() => {
    if (!on) return undefined;
    let before: SteadyMoment | string | null = null;
    return trace.subscribe(() => {
      const { steady } = trace.get();
      if (steady === before) return;
      before = steady;
      if (steady !== null && (typeof steady === 'string' || steady.done)) latest.current(steady);
    });
  }, [on, trace]);
}
