import { useQueries, useQueryClient } from '@tanstack/react-query';
import type { InstrumentLife, StringStatus } from '../../core/records';
import { usePriors } from './priors';
import { useWorld } from './world';

/** What the bench is asked for (house defaults): tolerance in cents, time to hold in min, confidence of the next check. */
export const TOLERANCE_CENTS = 3;
export const HOLD_MIN = 90;
const CONFIDENCE = 0.9;

const revisions = new WeakMap<InstrumentLife, number>();
let newest = 0;
/** A number for what the log says of an instrument: the index gives it afresh when something was written of it. */
function revisionOf(life: InstrumentLife): number {
  const known = revisions.get(life) ?? ++newest;
  revisions.set(life, known);
  return known;
}

/** The instrument in hand is reckoned anew so often, ms; the others on the rack in their turn. */
const IN_HAND_MS = 15000;
const ON_RACK_MS = 600000;

/** States and forecasts of instruments, computed in the worker, renewed with the log and by and by; the one in hand first. */
export function useStatuses(
  instruments: InstrumentLife[],
  nowMs: number,
  curtainMs: number | null,
  inHandId: string,
): Map<string, StringStatus[]> {
  const { ask, world } = useWorld();
  const { priorsFor, basis } = usePriors();
  const client = useQueryClient();
  /** What was last known of an instrument, while the new answer is worked out: lanes never go blank meanwhile. */
  const lastKnown = (recordId: string): StringStatus[] | undefined =>
    client
      .getQueryCache()
      .findAll({ queryKey: ['status', world, recordId] })
      .filter((q) => q.state.data !== undefined)
      .reduce<{ at: number; data: StringStatus[] } | undefined>((newest, q) => {
        const at = q.state.dataUpdatedAt;
        return newest && newest.at >= at ? newest : { at, data: q.state.data as StringStatus[] };
      }, undefined)?.data;
  return useQueries({
    queries: instruments.map((life) => {
      const inHand = life.record.instrumentId === inHandId;
      const every = inHand ? IN_HAND_MS : ON_RACK_MS;
      const then = Math.ceil(nowMs / every) * every;
      return {
        queryKey: ['status', world, life.record.id, revisionOf(life), then, curtainMs, basis],
        queryFn: ({ signal }: { signal: AbortSignal }) =>
          ask(
            'status',
            {
              instrumentId: life.record.instrumentId,
              wish: {
                nowMs: then,
                toleranceCents: TOLERANCE_CENTS,
                holdMin: HOLD_MIN,
                curtainMs,
                confidence: CONFIDENCE,
                priors: priorsFor(life.record.instrumentId),
              },
            },
            { signal, waits: !inHand },
          ),
        placeholderData: () => lastKnown(life.record.id),
        gcTime: inHand ? 30000 : ON_RACK_MS,
      };
    }),
    combine: (results) => new Map(instruments.map((life, i) => [life.record.instrumentId, results[i]?.data ?? []])),
  });
}
