import { useMemo } from 'react';
import { planSession, READY_SCHOOLS, type PlanItem, type PlanSession, type PlanStep } from '../../core/plan';
import type { InstrumentLife, PassVisit, SessionRecord } from '../../core/records';
import type { PlanAsk } from '../analyst/questions';
import { useAsked } from './asked';
import { useNow } from './now';
import { usePriors } from './priors';
import { TOLERANCE_CENTS } from '../../core/check';
import { useWorld } from './world';

const STEP_MS = 30000;
const MINUTE = 60000;
/** A pass that begins so shortly before its visit is that visit, min. */
const EARLY_MIN = 20;
export const isDue = (item: PlanItem, nowMs: number): boolean => item.atMs <= nowMs + EARLY_MIN * MINUTE;

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

/** Stands where no show is: nothing is asked then. */
const NO_SESSION: PlanSession = planSession({ curtainMs: 0, minutes: 0, toleranceCents: TOLERANCE_CENTS }, null);

/** The plan of a show, computed beside the page and renewed with the log. */
export function usePlan(show: Show | undefined) {
  const { bench, zoneMin } = useWorld();
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
    // Nothing was missed before the show was written down.
    session: show
      ? planSession({ ...show, skippedMs: Math.max(show.skippedMs ?? 0, show.sinceMs) }, bench.room?.tempC ?? null)
      : NO_SESSION,
    nowMs: now,
    zoneMin,
    priors,
  };
  const enabled = show !== undefined && playing.length > 0;
  const { data: plan, error } = useAsked({ question: 'plan', subject: '', of: bench, ask, enabled });
  return { plan, error, playing, now, ask, enabled };
}

/** What hands do at the instruments. */
export const WORK: ReadonlySet<PlanStep> = new Set(['check', 'last-tuning', 'between']);

/** What a plan asks of one walk, as a pass keeps it. */
export const visitOf = (item: PlanItem): PassVisit => ({
  purpose: item.for ?? item.what,
  strings: item.stringIds.map((stringId) => ({ stringId, leadCents: item.leaveAtCents?.[stringId] ?? 0 })),
  bringUpFromCents: item.bringUpFromCents ?? 0,
});

/** What the plan of the show has in mind for one instrument; undefined where no show is ahead. */
export function useVisits(instrumentId: string) {
  const show = useShow();
  const plays = show?.instrumentIds.includes(instrumentId) ?? false;
  const { plan, now } = usePlan(plays ? show : undefined);
  return useMemo(() => {
    if (!plays || !plan) return undefined;
    const items = plan.items.filter((i) => i.instrumentId === instrumentId && WORK.has(i.what));
    const next = items[0];
    return {
      next,
      /** The visit that a pass begun now is. */
      due: next && isDue(next, now) ? next : undefined,
      /** When a string is named next; undefined where it is not. */
      nextOf: (stringId: string) => items.find((i) => i.stringIds.includes(stringId)),
    };
  }, [plays, plan, now, instrumentId]);
}
