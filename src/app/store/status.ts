import { useQueries, useQueryClient } from '@tanstack/react-query';
import type { InstrumentLife, StringStatus } from '../../core/records';
import { usePriors } from './priors';
import { useWorld } from './world';

/** What the bench is asked for (house defaults): tolerance in cents, time to hold in min, confidence of the next check. */
export const TOLERANCE_CENTS = 3;
export const HOLD_MIN = 90;
const CONFIDENCE = 0.9;

/** States and forecasts of all instruments, computed in the worker, renewed with the log and every quarter minute. */
export function useStatuses(
  instruments: InstrumentLife[],
  nowMs: number,
  curtainMs: number | null,
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
  const quarter = Math.ceil(nowMs / 15000) * 15000;
  return useQueries({
    queries: instruments.map((life) => ({
      queryKey: [
        'status',
        world,
        life.record.id,
        life.strings.map((s) => [s.strungMs, s.readings.length, s.readings.at(-1)?.id]),
        quarter,
        curtainMs,
        basis,
      ],
      queryFn: () =>
        ask('status', {
          instrumentId: life.record.instrumentId,
          wish: {
            nowMs: quarter,
            toleranceCents: TOLERANCE_CENTS,
            holdMin: HOLD_MIN,
            curtainMs,
            confidence: CONFIDENCE,
            priors: priorsFor(life.record.instrumentId),
          },
        }),
      placeholderData: () => lastKnown(life.record.id),
      gcTime: 30000,
    })),
    combine: (results) => new Map(instruments.map((life, i) => [life.record.instrumentId, results[i]?.data ?? []])),
  });
}
