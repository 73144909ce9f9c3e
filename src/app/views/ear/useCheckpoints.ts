import { v4 as newId } from 'uuid';
import { useCallback, useEffect, useLayoutEffect, useRef, useState } from 'react';
import { mean, sampleStandardDeviation } from 'simple-statistics';
import type { PairMoment } from '../../../core/two-strings';
import type { EarRound } from '../../../core/by-ear';
import type { Trace } from '../../guided/trace';

/** So many moments that agree within this, cents, are a reading. */
const MOMENTS = 6;
const AGREE_CENTS = 0.5;

/** A round of checkpoints: every step's two strings are sounded together in turn. */
export function useCheckpoints(round: EarRound | undefined) {
  const [run, setRun] = useState<{ passId: string; at: number } | undefined>(undefined);
  const count = round?.steps.length ?? 0;
  const next = useCallback(() => setRun((r) => (r && r.at + 1 < count ? { ...r, at: r.at + 1 } : undefined)), [count]);
  return {
    run,
    step: run && round?.steps[run.at],
    begin: () => setRun({ passId: newId(), at: 0 }),
    /** Read, or without this one. */
    next,
    end: () => setRun(undefined),
  };
}

/** Reads a checkpoint by itself when what is heard of the two stands still. */
export function useSteadyPair(
  wanted: unknown,
  trace: Trace,
  onRead: (reading: Pick<PairMoment, 'cents' | 'sigmaCents' | 'beatsHz'>) => void,
): void {
  const tell = useRef(onRead);
  useLayoutEffect(() => {
    tell.current = onRead;
  });
  useEffect(() => {
    if (!wanted) return undefined;
    let gathered: PairMoment[] = [];
    return trace.subscribe(() => {
      const { pair } = trace.get();
      if (pair === gathered.at(-1)) return;
      gathered = pair ? [...gathered.slice(1 - MOMENTS), pair] : [];
      const cents = gathered.map((m) => m.cents);
      if (!pair || cents.length < MOMENTS) return;
      const spread = sampleStandardDeviation(cents);
      if (spread > AGREE_CENTS) return;
      const beatsHz = mean(gathered.map((m) => m.beatsHz));
      gathered = [];
      tell.current({ cents: mean(cents), sigmaCents: Math.max(spread, pair.sigmaCents), beatsHz });
    });
  }, [wanted, trace]);
}
