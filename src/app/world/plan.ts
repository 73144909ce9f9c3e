import { useCallback, useMemo } from 'react';
import { isDue, planSession, sessionOf, showOf, WALKS, type PlanSession, type Show } from '../../core/plan';
import type { InstrumentLife } from '../../core/log';
import type { Walks } from '../../core/says';
import type { PlanAsk } from '../analyst/questions';
import { useAsked } from './asked';
import { useNow } from './now';
import { usePriors } from './priors';
import { TOLERANCE_CENTS } from '../../core/check';
import { useWorld } from './world';

const STEP_MS = 30000;
/** The show in hand; undefined where none is ahead. */
export function useShow(): Show | undefined {
  const { bench } = useWorld();
  const now = useNow(STEP_MS);
  return useMemo(() => showOf(bench, now), [bench, now]);
}

/** Stands where no show is: nothing is asked then. */
const NO_SESSION: PlanSession = planSession({ curtainMs: 0, minutes: 0, toleranceCents: TOLERANCE_CENTS }, null);

/** The plan of a show, computed beside the page and renewed with the log. */
export function usePlan(show: Show | undefined) {
  const { bench, zone } = useWorld();
  const now = Math.ceil(useNow(10000) / STEP_MS) * STEP_MS;
  const { priorsFor } = usePriors();
  const playing = useMemo(
    (): InstrumentLife[] => bench.instruments.filter((i) => show?.instrumentIds.includes(i.record.instrumentId)),
    [bench.instruments, show?.instrumentIds],
  );
  const priors = useMemo(
    () => Object.fromEntries(playing.map(({ record: { instrumentId } }) => [instrumentId, priorsFor(instrumentId)])),
    [playing, priorsFor],
  );
  const ask: PlanAsk = {
    instrumentIds: playing.map((i) => i.record.instrumentId),
    session: show ? sessionOf(show, bench.room?.tempC ?? null) : NO_SESSION,
    nowMs: now,
    zone,
    priors,
  };
  const enabled = show !== undefined && playing.length > 0;
  const { data: plan, error } = useAsked({ question: 'plan', subject: '', of: bench, ask, enabled });
  return { plan, error, playing, now, ask, enabled };
}

/** The walks that the plan of the show in hand has for each instrument. */
export function useAllWalks(): (instrumentId: string) => Walks {
  const show = useShow();
  const { plan, error } = usePlan(show);
  return useCallback(
    (instrumentId) => {
      if (!show?.instrumentIds.includes(instrumentId) || error) return 'in no show';
      return plan ? plan.items.filter((i) => i.instrumentId === instrumentId && WALKS.has(i.what)) : 'not yet';
    },
    [show, plan, error],
  );
}

/** What the plan of the show in hand has for one instrument. */
export function useWalks(instrumentId: string): Walks {
  const walksOf = useAllWalks();
  return useMemo(() => walksOf(instrumentId), [walksOf, instrumentId]);
}

/** What the plan of the show has in mind for one instrument; undefined where no show is ahead. */
export function useVisits(instrumentId: string) {
  const walks = useWalks(instrumentId);
  const now = useNow(STEP_MS);
  return useMemo(() => {
    if (typeof walks === 'string') return undefined;
    const [next] = walks;
    return {
      next,
      /** The visit that a pass begun now is. */
      due: next && isDue(next, now) ? next : undefined,
    };
  }, [walks, now]);
}
