import { useMemo } from 'react';
import { CONFIDENCE, HOLD_MIN, TOLERANCE_CENTS } from '../../core/check';
import type { InstrumentLife, StringStatus } from '../../core/records';
import { useAskedEach } from './asked';
import { usePriors } from './priors';
import { useWorld } from './world';

/** The instrument in hand is reckoned anew so often, ms; the others on the rack in their turn. */
const IN_HAND_MS = 15000;
const ON_RACK_MS = 600000;

export interface Statuses {
  of: Map<string, StringStatus[]>;
  /** Why one of them could not be reckoned. */
  error: Error | undefined;
}

/** States and forecasts of instruments, computed in the worker, renewed with the log and by and by; the one in hand first. */
export function useStatuses(
  instruments: readonly InstrumentLife[],
  nowMs: number,
  curtainMs: number | null,
  inHandId: string,
): Statuses {
  const { priorsFor } = usePriors();
  const { data, error } = useAskedEach(
    instruments.map((life) => {
      const { instrumentId } = life.record;
      const inHand = instrumentId === inHandId;
      const every = inHand ? IN_HAND_MS : ON_RACK_MS;
      const wish = {
        nowMs: Math.ceil(nowMs / every) * every,
        toleranceCents: TOLERANCE_CENTS,
        holdMin: HOLD_MIN,
        curtainMs,
        confidence: CONFIDENCE,
        priors: priorsFor(instrumentId),
      };
      return { question: 'status', subject: instrumentId, of: life, ask: { instrumentId, wish }, waits: !inHand };
    }),
  );
  const of = useMemo(
    () => new Map(instruments.map((life, i) => [life.record.instrumentId, data[i] ?? NONE])),
    [instruments, data],
  );
  return { of, error };
}

/** The states of one instrument. */
export function useStatus(life: InstrumentLife, nowMs: number) {
  const { bench } = useWorld();
  const one = useMemo(() => [life], [life]);
  const { instrumentId } = life.record;
  const { of, error } = useStatuses(one, nowMs, bench.curtain?.curtainMs ?? null, instrumentId);
  return { statuses: of.get(instrumentId) ?? NONE, error };
}
const NONE: StringStatus[] = [];
