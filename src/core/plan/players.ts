import { lastBringUp, type PlannedWalk } from './before';
import { byInstrument, type Takes } from './groups';
import { cellsOf, rowOf, type Cell, type LeadRule, type LeadRow } from './lead';
import { chanceWithin } from './outlook';
import type { PlanSession, PlanString } from './types';
import { MINUTE } from '../base';
import { coursesOf, type StringCourse, type Courses } from './courses';

/** Between the last tuning and the curtain, min. */
const BREATH_MIN = 5;
/** Full bends or bar dives on every string, and the retuning after them, take this much longer than a check. */
export const ROUTINE = 2;
/** What was tuned so shortly before its last tuning need not be tuned again, min. */
const TUNED_EARLY_MIN = 20;
/** A string that is this likely to hold as it stands is not tuned again, if it was read this recently, min. */
const HOLDS_AS_IT_IS = 0.97;
const READ_LATELY_MIN = 180;
/** The show is looked at in so many stretches. */
const CELLS = 12;

/** A string with what it does from its start in the show on. */
export interface ShowString {
  string: PlanString;
  courses: Courses;
  /** When it is tuned for the last time before the curtain. */
  tunedMs: number;
  /** It is to be tuned before the curtain. */
  toTune: boolean;
  start: StringCourse;
  row: LeadRow;
  rule: LeadRule;
  /** The show in its stretches; those that it does not play in count nothing. */
  cells: readonly Cell[];
  playsMs: { from: number; to: number };
}

/** The show in stretches, and the part of it in which an instrument plays. */
function playing({ curtainMs, minutes, plays }: PlanSession, instrumentId: string) {
  // An instrument may be named as a property that every object has.
  const own = (Object.hasOwn(plays, instrumentId) && plays[instrumentId]) || { fromMin: 0, toMin: minutes };
  const playsMs = { from: curtainMs + own.fromMin * MINUTE, to: curtainMs + own.toMin * MINUTE };
  const cells = cellsOf(curtainMs, curtainMs + minutes * MINUTE, CELLS).map((c) =>
    c.atMs > playsMs.from && c.atMs < playsMs.to ? c : { ...c, minutes: 0 },
  );
  return { cells, playsMs };
}

/** When each instrument has its last tuning: those that were strung last come last, nearest to the curtain. */
export function lastTunings(
  strings: readonly PlanString[],
  { curtainMs, hands }: PlanSession,
  takes: Takes,
): Map<string, number> {
  const strungMs = (list: readonly PlanString[]) => Math.max(...list.map((s) => s.strungMs ?? s.startMs ?? 0));
  const groups = [...byInstrument(strings)].sort(([, a], [, b]) => strungMs(b) - strungMs(a));
  const free = Array.from({ length: Math.max(1, hands) }, () => curtainMs - BREATH_MIN * MINUTE);
  return new Map(
    groups.map(([id, list]) => {
      const hand = free.indexOf(Math.max(...free));
      return [id, (free[hand]! -= takes(list, ROUTINE) * MINUTE)];
    }),
  );
}

/** A string with when it plays and how it was left. @param lastTuningMs when it is tuned last */
export function playerOf(string: PlanString, session: PlanSession, nowMs: number, lastTuningMs: number): ShowString {
  const courses = coursesOf(string);
  const { toleranceCents, curtainMs } = session;
  const { cells, playsMs } = playing(session, string.instrumentId);
  const rule: LeadRule = { toleranceCents, mostCents: session.leads ? string.mostLeadCents : 0 };
  const asIs = courses.asRead();
  const isTuned = string.lastReadMs! > lastTuningMs - TUNED_EARLY_MIN * MINUTE && string.leftThere;
  const lately = string.lastReadMs! > lastTuningMs - READ_LATELY_MIN * MINUTE;
  const holds = lately && chanceWithin(asIs, asIs.standsCents!, playsMs, toleranceCents) > HOLDS_AS_IT_IS;
  const toTune = nowMs < curtainMs && !isTuned && !holds;
  const tunedMs = Math.max(lastTuningMs, nowMs);
  const start = toTune ? courses.broughtUp(tunedMs, 0) : asIs;
  return { string, courses, tunedMs, toTune, start, row: rowOf(start, cells, rule), rule, cells, playsMs };
}

/** The bring-up at the last tuning is as large as what will have gone since the last walk before it. */
export function withWalks(p: ShowString, walks: readonly PlannedWalk[]): ShowString {
  if (!p.toTune) return p;
  const last = walks.findLast((w) => w.strings.some((s) => s.string === p.string));
  const start = p.courses.broughtUp(p.tunedMs, lastBringUp(p, last?.atMs));
  return { ...p, start, row: rowOf(start, p.cells, p.rule) };
}
