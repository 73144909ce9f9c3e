import { TOLERANCE_CENTS } from '../check';
import type { Bench, PassVisit, SessionRecord } from '../log';
import { planSession } from './ask';
import { READY_SCHOOLS, type PlanItem, type PlanSession, type PlanStep } from './types';
import { MINUTE } from '../base';

/** A pass that begins so shortly before its visit is that visit, min. */
const EARLY_MIN = 20;
/** A show of which only the start is known lasts so long, min (house). */
const USUAL_MIN = 90;

export type Show = Omit<SessionRecord, 'id' | 'version' | 'atMs' | 'zoneMin' | 'type'> & {
  /** Since when its walks are counted. */
  sinceMs: number;
};

/** The show in hand: the last one written down, or what its start alone says; undefined where none is ahead. */
export function showOf({ session, curtain, instruments }: Bench, nowMs: number): Show | undefined {
  // A start set later, or at another time, than the written show is another show.
  const curtainMs = curtain?.curtainMs ?? null;
  if (session && (curtainMs === null || curtainMs === session.curtainMs || curtain!.atMs < session.atMs)) {
    if (session.curtainMs + session.minutes * MINUTE > nowMs) return { ...session, sinceMs: session.atMs };
  }
  if (curtainMs === null || curtainMs + USUAL_MIN * MINUTE <= nowMs) return undefined;
  return {
    place: 'the show',
    curtainMs,
    minutes: USUAL_MIN,
    toleranceCents: TOLERANCE_CENTS,
    intervalMin: null,
    school: READY_SCHOOLS[0],
    instrumentIds: instruments.map((i) => i.record.instrumentId),
    thereC: null,
    sinceMs: curtain!.atMs,
  };
}

/** A show for the plan: nothing was missed before it was written down. @param hereC temperature here, deg C */
export const sessionOf = (show: Show, hereC: number | null): PlanSession =>
  planSession({ ...show, skippedMs: Math.max(show.skippedMs ?? 0, show.sinceMs) }, hereC);

/** The walks to the instruments. */
export const WALKS: ReadonlySet<PlanStep> = new Set(['check', 'last-tuning', 'between']);
/** Whether a walk is to be done now. */
export const isDue = (item: PlanItem, nowMs: number): boolean => item.atMs <= nowMs + EARLY_MIN * MINUTE;

/** What a plan asks of one walk, as a pass keeps it. */
export const visitOf = (item: PlanItem): PassVisit => ({
  purpose: item.for ?? item.what,
  strings: item.stringIds.map((stringId) => ({ stringId, leadCents: item.leaveAtCents?.[stringId] ?? 0 })),
  bringUpFromCents: item.bringUpFromCents ?? 0,
});
