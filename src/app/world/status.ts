import { useMemo } from 'react';
import { CONFIDENCE, HOLD_MIN, TOLERANCE_CENTS } from '../../core/check';
import type { InstrumentLife } from '../../core/log';
import { visitIn, type NextThing, type Walks } from '../../core/says';
import { useAskedEach } from './asked';
import { usePriors } from './priors';
import { useWorld } from './world';
import { MINUTE } from '../../core/base';
import type { Priors, StringStatus, Wish } from '../../core/status';

/** The instrument in hand is reckoned anew so often, ms; the others on the rack in their turn. */
const IN_HAND_MS = 15000;
const ON_RACK_MS = 10 * MINUTE;

export interface Statuses {
  of: Map<string, StringStatus[]>;
  /** Why one of them could not be reckoned. */
  error: Error | undefined;
}

/** What the strings of an instrument are asked for at a moment. */
export const wishOf = (nowMs: number, curtainMs: number | null, priors: Priors): Wish => ({
  nowMs,
  toleranceCents: TOLERANCE_CENTS,
  holdMin: HOLD_MIN,
  curtainMs,
  confidence: CONFIDENCE,
  priors,
});

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
      const wish = { ...wishOf(Math.ceil(nowMs / every) * every, curtainMs, priorsFor(instrumentId)), lane: true };
      return { question: 'status', subject: instrumentId, of: life, ask: { instrumentId, wish }, waits: !inHand };
    }),
  );
  const of = useMemo(
    () => new Map(instruments.map((life, i) => [life.record.instrumentId, data[i] ?? NONE])),
    [instruments, data],
  );
  return { of, error };
}

/** The next thing is looked for anew so often, ms. */
const NEXT_MS = MINUTE;
const NEXT_ON_RACK_MS = 120000;

/** The one next thing of every instrument, in their order; undefined until it is known. */
export function useNextThings(
  instruments: readonly InstrumentLife[],
  nowMs: number,
  walksOf: (instrumentId: string) => Walks,
  inHandId: string,
): (NextThing | undefined)[] {
  const { bench, a4Hz, zone } = useWorld();
  const { priorsFor } = usePriors();
  const curtainMs = bench.curtain?.curtainMs ?? null;
  return useAskedEach(
    instruments.map((life) => {
      const { instrumentId } = life.record;
      const every = instrumentId === inHandId ? NEXT_MS : NEXT_ON_RACK_MS;
      const wish = wishOf(Math.floor(nowMs / every) * every, curtainMs, priorsFor(instrumentId));
      const walks = walksOf(instrumentId);
      return {
        question: 'next',
        subject: instrumentId,
        of: life,
        ask: { instrumentId, wish, a4Hz, zone, visit: visitIn(walks) },
        enabled: walks !== 'not yet',
        waits: instrumentId !== inHandId,
      };
    }),
  ).data;
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
