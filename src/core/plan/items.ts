import { airWords, restringing } from './advice';
import { WALK_FROM_CENTS, type PlannedWalk } from './before';
import { byInstrument, handsFrom, type Takes } from './groups';
import type { Retunings } from './in-show';
import { ROUTINE, type ShowString } from './players';
import type { PlanAsked, PlanItem, PlanStep, PlanString } from './types';
import { betweenWords, lastWords, walkWords } from './words';
import { MINUTE, DAY } from '../base';

/** Strings and cases stand in the room of the show this long before the last tuning, min (house rule). */
const AIR_MIN = 35;
/** Stretch rounds of one string take about this long, min (house estimate). */
const ROUNDS_MIN = 6;
/** Nearer to where it is to be left than this, a string is left alone for the show, cents. */
export const SHOW_FROM_CENTS = 1;

/** What takes the time of a pair of hands. */
export const TAKES_HANDS: ReadonlySet<PlanStep> = new Set(['check', 'rounds', 'last-tuning', 'between']);

/** Retunings in the show, with their times. */
export interface Retuned extends Omit<Retunings<PlanString>, 'visits'> {
  visits: { atMs: number; strings: Retunings<PlanString>['visits'][number]['strings'] }[];
}

/** What was chosen for a show. */
export interface Chosen {
  players: readonly ShowString[];
  walks: readonly PlannedWalk[];
  retunings: Retuned;
  /** What each string is left at at its last tuning, cents. */
  leads: ReadonlyMap<PlanString, number>;
}

type Add = (
  what: PlanStep,
  atMs: number,
  strings: readonly PlanString[],
  minutes: number,
  why: string,
  more?: Partial<PlanItem> & { dueMs?: number },
) => void;

/** What was chosen as items, in order of time. */
export function planItems(
  asked: PlanAsked,
  takes: Takes,
  tunedAt: ReadonlyMap<string, number>,
  { players, walks, retunings, leads }: Chosen,
): PlanItem[] {
  const { strings, session, nowMs } = asked;
  const { curtainMs, hands } = session;
  const items: PlanItem[] = [];
  const add: Add = (what, atMs, list, minutes, why, { dueMs = atMs, ...more } = {}) => {
    if (list.length === 0) return;
    const { instrumentId } = list[0]!;
    const { walkMin } = more;
    items.push({
      uid: `${curtainMs}-${instrumentId}-${what}${walkMin === undefined ? '' : `-${walkMin}`}`,
      atMs: Math.round(Math.max(atMs, nowMs)),
      minutes,
      what,
      instrumentId,
      stringIds: list.map((s) => s.stringId),
      why,
      late: dueMs < nowMs - MINUTE,
      conflict: false,
      ...more,
    });
  };
  /** One walk: one instrument after the other for each hand, each with its own strings, the most in need first. */
  const addWalk = <S extends { string: PlanString }>(
    what: PlanStep,
    chosen: readonly S[],
    dueMs: number,
    walkMin: number,
    need: (s: S) => number,
    told: (own: readonly S[]) => { why: string } & Partial<PlanItem>,
  ) => {
    const begin = handsFrom(hands, Math.max(dueMs, nowMs));
    for (const list of byInstrument(chosen.map((s) => s.string)).values()) {
      const own = chosen.filter((s) => list.includes(s.string)).sort((a, b) => need(b) - need(a));
      const minutes = takes(list);
      const { why, ...more } = told(own);
      add(
        what,
        begin(minutes),
        own.map((s) => s.string),
        minutes,
        why,
        { ...more, walkMin, dueMs },
      );
    }
  };

  addReadying(asked, tunedAt, add);
  const firstTunedMs = Math.min(curtainMs, ...tunedAt.values());
  if (nowMs < firstTunedMs)
    for (const list of byInstrument(strings.filter((s) => !s.fit)).values())
      add('check', nowMs, list, takes(list), 'Not read yet. Pluck each string once, touch no tuner.', {
        for: 'learn',
        walkMin: 0,
      });
  for (const walk of madeFrom(walks, nowMs)) {
    const walkMin = Math.round((curtainMs - walk.atMs) / MINUTE);
    addWalk(
      'check',
      walk.strings,
      walk.dueMs,
      walkMin,
      (s) => s.saves,
      (own) => ({
        why: walkWords(own),
        for: own[0]!.for,
        bringUpFromCents: WALK_FROM_CENTS,
      }),
    );
  }
  if (nowMs < curtainMs) addLastTunings(asked, players, leads, tunedAt, takes, add);
  for (const visit of retunings.visits) {
    const walkMin = Math.round((visit.atMs - curtainMs) / MINUTE);
    addWalk(
      'between',
      visit.strings,
      visit.atMs,
      walkMin,
      (s) => s.rate,
      (own) => ({
        why: betweenWords(own.reduce((sum, s) => sum + s.saves, 0)),
        for: 'retune',
        leaveAtCents: Object.fromEntries(own.map((s) => [s.string.stringId, s.leadCents])),
        bringUpFromCents: SHOW_FROM_CENTS,
      }),
    );
  }
  items.sort((a, b) => a.atMs - b.atMs);
  markConflicts(items, hands);
  return items;
}

/** New strings, stretch rounds, and the air of the show. */
function addReadying(asked: PlanAsked, tunedAt: ReadonlyMap<string, number>, add: Add): void {
  const { session, nowMs } = asked;
  const endMs = session.curtainMs + session.minutes * MINUTE;
  for (const [id, list] of byInstrument(asked.strings)) {
    const tunedMs = tunedAt.get(id)!;
    for (const a of restringing(asked, list, tunedMs, endMs)) add(a.what, a.atMs, a.strings, 0, a.why);
    if (tunedMs <= nowMs) continue;
    if (session.school === 'make-ready') {
      const fresh = list.filter((s) => s.strungMs !== null && nowMs - s.strungMs < DAY && s.rounds === 0);
      const why = 'Stretch the new strings in rounds, until two drops in a row are under 2 cents.';
      add('rounds', nowMs, fresh, ROUNDS_MIN * fresh.length, why);
    }
    add('acclimatise', tunedMs - AIR_MIN * MINUTE, list, AIR_MIN, airWords(list, session));
  }
}

/** Walks before the last tuning; those that were missed are made as one. */
function madeFrom(walks: readonly PlannedWalk[], nowMs: number): (PlannedWalk & { dueMs: number })[] {
  const missed = walks.filter((w) => w.atMs <= nowMs);
  const strings = [...new Map(missed.flatMap((w) => w.strings).map((s) => [s.string, s])).values()];
  const overdue = missed.length > 0 ? [{ atMs: missed.at(-1)!.atMs, dueMs: missed[0]!.atMs, strings }] : [];
  return [...overdue, ...walks.filter((w) => w.atMs > nowMs).map((w) => ({ ...w, dueMs: w.atMs }))];
}

/** The last tunings, one instrument after the other for each hand, also where they are late. */
function addLastTunings(
  { strings, session, nowMs }: PlanAsked,
  players: readonly ShowString[],
  leads: ReadonlyMap<PlanString, number>,
  tunedAt: ReadonlyMap<string, number>,
  takes: Takes,
  add: Add,
): void {
  const begin = handsFrom(session.hands, nowMs);
  const inOrder = [...byInstrument(strings)].sort(([a], [b]) => tunedAt.get(a)! - tunedAt.get(b)!);
  for (const [id, list] of inOrder) {
    const own = players.filter((p) => p.toTune && p.string.instrumentId === id).map((p) => p.string);
    const named = list.filter((s) => !s.fit || own.includes(s));
    if (named.length === 0) continue;
    const dueMs = tunedAt.get(id)!;
    const minutes = takes(named, ROUTINE);
    add('last-tuning', begin(minutes, dueMs), named, minutes, lastWords(own.some((s) => leads.get(s)! > 0)), {
      for: 'last-tuning',
      leaveAtCents: Object.fromEntries(own.map((s) => [s.stringId, leads.get(s)!])),
      bringUpFromCents: SHOW_FROM_CENTS,
      dueMs,
    });
  }
}

/** Items that take time and overlap are marked, the later ones, where they are more than there are hands. */
function markConflicts(items: readonly PlanItem[], hands: number): void {
  const busy = Array.from({ length: Math.max(1, hands) }, () => -Infinity);
  for (const item of items.filter((i) => TAKES_HANDS.has(i.what))) {
    const hand = busy.indexOf(Math.min(...busy));
    item.conflict = item.atMs < busy[hand]! - MINUTE / 2;
    busy[hand] = Math.max(busy[hand]!, item.atMs + item.minutes * MINUTE);
  }
}
