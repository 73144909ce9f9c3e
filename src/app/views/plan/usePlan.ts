import { useMemo } from 'react';
import { doneWalks, minutesPerString, READY_SCHOOLS, type PlanSession, type ReadySchool } from '../../../core/plan';
import type { InstrumentLife, SessionRecord } from '../../../core/records';
import { useAsked } from '../../store/asked';
import { useNow } from '../../store/now';
import { usePriors } from '../../store/priors';
import { TOLERANCE_CENTS } from '../../store/status';
import { useWorld } from '../../store/world';

const STEP_MS = 30000;
const MINUTE = 60000;

export type Show = Omit<SessionRecord, 'id' | 'version' | 'atMs' | 'zoneMin' | 'type'> & {
  /** Since when its walks are counted. */
  sinceMs: number;
};

/** The show in hand: the last one written down, or what the curtain alone says. */
export function useShow(): Show | undefined {
  const { bench } = useWorld();
  const now = useNow(STEP_MS);
  const { session, curtain, instruments } = bench;
  return useMemo(() => {
    // A curtain set later, or at another time, than the written show is another show.
    const curtainMs = curtain?.curtainMs ?? null;
    if (session && (curtainMs === null || curtainMs === session.curtainMs || curtain!.atMs < session.atMs)) {
      if (session.curtainMs + session.minutes * MINUTE > now) return { ...session, sinceMs: session.atMs };
    }
    if (curtainMs === null || curtainMs + 90 * MINUTE <= now) return undefined;
    return {
      place: 'the show',
      curtainMs,
      minutes: 90,
      toleranceCents: TOLERANCE_CENTS,
      intervalMin: null,
      school: READY_SCHOOLS[0],
      instrumentIds: instruments.map((i) => i.record.instrumentId),
      thereC: null,
      sinceMs: curtain!.atMs,
    };
  }, [session, curtain, instruments, now]);
}

export const asSession = (show: Show, hereC: number | null): PlanSession => ({
  curtainMs: show.curtainMs,
  minutes: show.minutes,
  toleranceCents: show.toleranceCents,
  intervalMin: show.intervalMin,
  school: show.school as ReadySchool,
  thereC: show.thereC,
  hereC,
});

/** Stands where no show is: nothing is asked then. */
const NO_SESSION: PlanSession = {
  curtainMs: 0,
  minutes: 0,
  toleranceCents: TOLERANCE_CENTS,
  intervalMin: null,
  school: READY_SCHOOLS[0],
  thereC: null,
  hereC: null,
};

/** The plan of a show, computed beside the page and renewed with the log; and what of it is done. */
export function usePlan(show: Show | undefined) {
  const { bench, zoneMin } = useWorld();
  const now = Math.ceil(useNow(10000) / STEP_MS) * STEP_MS;
  const { priorsFor } = usePriors();
  const playing = useMemo(
    (): InstrumentLife[] => bench.instruments.filter((i) => show?.instrumentIds.includes(i.record.instrumentId)),
    [bench.instruments, show?.instrumentIds],
  );
  const done = useMemo(() => (show ? doneWalks(playing, show.sinceMs) : []), [playing, show]);
  const perString = useMemo(() => minutesPerString(bench), [bench]);
  const doneChecks = useMemo(() => {
    const counts: Record<string, number> = {};
    for (const { instrumentId } of done) counts[instrumentId] = (counts[instrumentId] ?? 0) + 1;
    return counts;
  }, [done]);
  const priors = useMemo(
    () => Object.assign({}, ...playing.map((i) => priorsFor(i.record.instrumentId))) as ReturnType<typeof priorsFor>,
    [playing, priorsFor],
  );
  const { data: plan, error } = useAsked({
    question: 'plan',
    subject: '',
    of: bench,
    ask: {
      instrumentIds: playing.map((i) => i.record.instrumentId),
      session: show ? asSession(show, bench.room?.tempC ?? null) : NO_SESSION,
      nowMs: now,
      zoneMin,
      minutesPerString: perString,
      doneChecks,
      priors,
    },
    enabled: show !== undefined && playing.length > 0,
  });
  return { plan, error, done, playing, now };
}
