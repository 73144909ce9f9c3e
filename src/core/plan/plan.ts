import { mixtureQuantile } from '../settling';
import { airWords, restringing } from './advice';
import { chooseWalks, walkTimes, WALK_FROM_CENTS, type Walk } from './before';
import { byInstrument, spread, type Takes } from './groups';
import { chooseRetunings, type InShow, type Prices } from './in-show';
import { rowOf } from './lead';
import { chanceWithin } from './outlook';
import { lastTunings, playerOf, ROUTINE, withWalks, type Player } from './players';
import {
  EFFORTS,
  type Effort,
  type Plan,
  type PlanItem,
  type PlanSession,
  type PlanStep,
  type PlanString,
  type PlanSum,
  type ShowOutlook,
} from './types';
import { betweenWords, lastWords, walkWords } from './words';

const MINUTE = 60000;
const DAY = 1440 * MINUTE;
/** Strings and cases stand in the room of the show this long before the last tuning, min (house rule). */
const AIR_MIN = 35;
/** Stretch rounds of one string take about this long, min (house estimate). */
const ROUNDS_MIN = 6;
/** Strings read so shortly before the last reading belong to the same walk, min. */
const SAME_WALK_MIN = 10;
/** A walk that was missed until so shortly before the last tuning is made by that, min (house). */
const TOO_NEAR_MIN = 10;
/** Nearer to where it is to be left than this, a string is left alone for the show, cents. */
const SHOW_FROM_CENTS = 1;
/** Going to the instruments in the interval costs this share of going between two pieces. */
const INTERVAL_SHARE = 0.4;

/**
 * What a walk and a string in it must save, minutes out of tolerance, before the show and in it: house prices, so that five
 * hours with new nylon ask for three to five walks.
 */
const PRICES: Record<Effort, { before: Prices; inShow: Prices }> = {
  once: { before: { visit: Infinity, string: 0.1 }, inShow: { visit: 40, string: 4 } },
  few: { before: { visit: 0.7, string: 0.02 }, inShow: { visit: 4, string: 0.6 } },
  often: { before: { visit: 0.05, string: 0.005 }, inShow: { visit: 1.5, string: 0.3 } },
};

export interface PlanAsked {
  strings: readonly PlanString[];
  session: PlanSession;
  nowMs: number;
  zoneMin: number;
  /** How long one string takes to check and bring up, min, learned from the record. */
  minutesPerString: number;
}

/** One plan, and what it is weighed by. */
interface Weighed {
  plan: Plan;
  cost: number;
}

/** What to do from now to the end of a show, for all instruments at once, in order of time; with a spare where that costs less. */
export function planShow(asked: PlanAsked): Plan {
  const { session } = asked;
  const { spares, curtainMs, minutes, intervalMin } = session;
  const waiting = Object.fromEntries(spares.map((s) => [s.instrumentId, { fromMin: minutes, toMin: minutes }]));
  const plays = { ...session.plays, ...waiting };
  let best = weigh({ ...asked, session: { ...session, plays } });
  for (const { instrumentId, forId } of spares) {
    const retuned = best.plan.items.find((i) => i.what === 'between' && i.instrumentId === forId);
    const swapMs = intervalMin === null ? retuned?.atMs : curtainMs + intervalMin * MINUTE;
    if (swapMs === undefined || swapMs <= asked.nowMs || !asked.strings.some((s) => s.instrumentId === forId)) continue;
    const swapMin = (swapMs - curtainMs) / MINUTE;
    const swapped = {
      ...plays,
      [forId]: { fromMin: plays[forId]?.fromMin ?? 0, toMin: swapMin },
      [instrumentId]: { fromMin: swapMin, toMin: minutes },
    };
    const other = weigh({ ...asked, session: { ...session, plays: swapped } });
    if (other.cost < best.cost) best = { ...other, plan: withSwap(other.plan, instrumentId, forId, swapMs, curtainMs) };
  }
  return best.plan;
}

function withSwap(plan: Plan, spareId: string, forId: string, atMs: number, curtainMs: number): Plan {
  const chance = plan.outlook.filter((o) => o.instrumentId === spareId).reduce((p, o) => p * (o.chance ?? 0.5), 1);
  const item: PlanItem = {
    uid: `${curtainMs}-${forId}-swap`,
    atMs,
    minutes: 1,
    what: 'swap',
    instrumentId: forId,
    stringIds: [],
    spareId,
    why: `Swap it for the spare, which holds with ${(100 * chance).toFixed(0)} % to the end.`,
    late: false,
    conflict: false,
  };
  return { ...plan, items: [...plan.items, item].sort((a, b) => a.atMs - b.atMs) };
}

/** The same show for everybody's patience. */
export function planChoices(asked: PlanAsked): Record<Effort, PlanSum> {
  const sums = EFFORTS.map((effort) => {
    const { before, inShow, minutes, out } = planShow({ ...asked, session: { ...asked.session, effort } });
    return [effort, { before, inShow, minutes, out }];
  });
  return Object.fromEntries(sums) as Record<Effort, PlanSum>;
}

const WORK: ReadonlySet<PlanStep> = new Set(['check', 'rounds', 'last-tuning', 'between']);

type Add = (
  what: PlanStep,
  atMs: number,
  strings: readonly PlanString[],
  minutes: number,
  why: string,
  more?: Partial<PlanItem> & { mark?: number; dueMs?: number },
) => void;

function weigh(asked: PlanAsked): Weighed {
  const { strings, session, nowMs, zoneMin } = asked;
  const { curtainMs, toleranceCents } = session;
  const takes: Takes = (list, times = 1) => Math.max(1, Math.round(times * asked.minutesPerString * list.length));
  const tunedAt = lastTunings(strings, session, takes);
  const firstTunedMs = Math.min(curtainMs, ...tunedAt.values());
  // Everything is planned as from the last reading, or the last visit that was skipped: asked again later, nothing moves.
  const readMs = Math.max(-Infinity, ...strings.map((s) => s.lastReadMs ?? -Infinity));
  const skippedMs = session.skippedMs ?? -Infinity;
  const sinceMs = Math.max(readMs, skippedMs);
  const anchorMs = sinceMs > -Infinity ? Math.min(sinceMs, nowMs) : nowMs;
  const isRead = (s: PlanString) =>
    readMs < skippedMs || (s.lastReadMs ?? -Infinity) > anchorMs - SAME_WALK_MIN * MINUTE;
  const prices = PRICES[session.effort];

  const found = strings.flatMap((s): Player[] =>
    s.fit ? [playerOf(s, session, nowMs, tunedAt.get(s.instrumentId)!)] : [],
  );
  const early = nowMs < firstTunedMs - TOO_NEAR_MIN * MINUTE;
  const walks = early
    ? chooseWalks(
        found.filter((p) => p.toTune),
        walkTimes(firstTunedMs, anchorMs, zoneMin),
        prices.before,
        anchorMs,
        isRead,
      )
    : [];
  const players = found.map((p) => withWalks(p, walks));
  const retunings = retuningsOf(players, session, nowMs, anchorMs, isRead, prices.inShow);
  const leads = new Map(players.map((p, i) => [p.string, retunings.startLead[i]!]));

  const items: PlanItem[] = [];
  const add: Add = (what, atMs, list, minutes, why, { mark, dueMs = atMs, ...more } = {}) => {
    if (list.length === 0) return;
    const { instrumentId } = list[0]!;
    items.push({
      uid: `${curtainMs}-${instrumentId}-${what}${mark === undefined ? '' : `-${mark}`}`,
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
  addReadying(asked, tunedAt, add);
  const unread = strings.filter((s) => !s.fit);
  if (nowMs < firstTunedMs)
    for (const list of byInstrument(unread).values())
      add('check', nowMs, list, takes(list), 'Not read yet: one pluck a string, touch no tuner.', {
        for: 'learn',
        mark: 0,
      });
  addWalks(walks, session, nowMs, takes, add);
  if (nowMs < curtainMs) addLastTunings(asked, players, leads, tunedAt, takes, add);
  for (const { time, strings: retuned } of retunings.visits) {
    const dueMs = retunings.times[time]!;
    spread(
      retuned.map((s) => s.string.string),
      Math.max(dueMs, nowMs),
      session.hands,
      takes,
      (list, atMs) => {
        const own = retuned.filter((s) => list.includes(s.string.string));
        add(
          'between',
          atMs,
          own.map((s) => s.string.string),
          takes(list),
          betweenWords(own.reduce((sum, s) => sum + s.saves, 0)),
          {
            for: 'retune',
            leaveAtCents: Object.fromEntries(own.map((s) => [s.string.string.stringId, s.leadCents])),
            bringUpFromCents: SHOW_FROM_CENTS,
            mark: Math.round((dueMs - curtainMs) / MINUTE),
            dueMs,
          },
        );
      },
    );
  }
  items.sort((a, b) => a.atMs - b.atMs);
  markConflicts(items, session.hands);

  const outlook = strings.map((s) =>
    outlookOf(
      s,
      players.find((p) => p.string === s),
      leads.get(s) ?? 0,
      toleranceCents,
    ),
  );
  const holds = outlook.flatMap((o) =>
    o.chance === null ? [] : [[`${o.instrumentId}/${o.stringId}`, o.chance] as const],
  );
  const visits = new Set(items.filter((i) => i.what === 'check').map((i) => walkMark(i)));
  const before = visits.size + (items.some((i) => i.what === 'last-tuning') ? 1 : 0);
  const inShow = retunings.visits.length;
  const minutes = items.reduce((sum, i) => sum + (WORK.has(i.what) ? i.minutes : 0), 0);
  const stringMinutes = players.reduce((sum, p) => sum + p.cells.reduce((m, c) => m + c.minutes, 0), 0);
  return {
    plan: {
      items,
      outlook,
      holds: Object.fromEntries(holds),
      before,
      inShow,
      minutes,
      out: retunings.out / Math.max(1, stringMinutes),
    },
    cost: retunings.cost,
  };
}

/** Checks of several instruments at one time are one walk. */
const walkMark = ({ uid }: PlanItem) => uid.slice(uid.lastIndexOf('-'));

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
      const why = 'New strings settle by stretch rounds: until two drops in a row stay under 2 cents.';
      add('rounds', nowMs, fresh, ROUNDS_MIN * fresh.length, why);
    }
    add('acclimatise', tunedMs - AIR_MIN * MINUTE, list, AIR_MIN, airWords(list, session));
  }
}

/** Walks before the last tuning; those that were missed are made at once, as one. */
function addWalks(walks: readonly Walk[], session: PlanSession, nowMs: number, takes: Takes, add: Add): void {
  const missed = walks.filter((w) => w.atMs <= nowMs);
  const strings = [...new Map(missed.flatMap((w) => w.strings).map((s) => [s.string, s])).values()];
  const overdue = missed.length > 0 ? [{ atMs: missed[missed.length - 1]!.atMs, dueMs: missed[0]!.atMs, strings }] : [];
  const ahead = walks.filter((w) => w.atMs > nowMs).map((w) => ({ ...w, dueMs: w.atMs }));
  for (const walk of [...overdue, ...ahead])
    spread(
      walk.strings.map((s) => s.string),
      Math.max(walk.atMs, nowMs),
      session.hands,
      takes,
      (list, atMs) => {
        const own = walk.strings.filter((s) => list.includes(s.string)).sort((a, b) => b.saves - a.saves);
        add(
          'check',
          atMs,
          own.map((s) => s.string),
          takes(list),
          walkWords(own),
          {
            for: own[0]!.for,
            bringUpFromCents: WALK_FROM_CENTS,
            mark: Math.round((session.curtainMs - walk.atMs) / MINUTE),
            dueMs: walk.dueMs,
          },
        );
      },
    );
}

/** The last tunings, one instrument after the other for each hand, also where they are late. */
function addLastTunings(
  { strings, session, nowMs }: PlanAsked,
  players: readonly Player[],
  leads: ReadonlyMap<PlanString, number>,
  tunedAt: ReadonlyMap<string, number>,
  takes: Takes,
  add: Add,
): void {
  const free = Array.from({ length: Math.max(1, session.hands) }, () => nowMs);
  const inOrder = [...byInstrument(strings)].sort(([a], [b]) => tunedAt.get(a)! - tunedAt.get(b)!);
  for (const [id, list] of inOrder) {
    const own = players.filter((p) => p.toTune && p.string.instrumentId === id).map((p) => p.string);
    const named = list.filter((s) => !s.fit || own.includes(s));
    if (named.length === 0) continue;
    const hand = free.indexOf(Math.min(...free));
    const dueMs = tunedAt.get(id)!;
    const atMs = Math.max(dueMs, free[hand]!);
    const minutes = takes(named, ROUTINE);
    free[hand] = atMs + minutes * MINUTE;
    add('last-tuning', atMs, named, minutes, lastWords(own.some((s) => leads.get(s)! > 0)), {
      for: 'last-tuning',
      leaveAtCents: Object.fromEntries(own.map((s) => [s.stringId, leads.get(s)!])),
      bringUpFromCents: SHOW_FROM_CENTS,
      dueMs,
    });
  }
}

/** Retunings in the show, by the courses of all strings from their starts on. */
function retuningsOf(
  players: readonly Player[],
  { curtainMs, minutes, intervalMin }: PlanSession,
  nowMs: number,
  anchorMs: number,
  isRead: (s: PlanString) => boolean,
  prices: Prices,
) {
  const begunMs = Math.max(curtainMs, anchorMs);
  const cells = players[0]?.cells ?? [];
  const grid = cells.map((_, i) => curtainMs + (i * minutes * MINUTE) / cells.length);
  const intervalMs = intervalMin === null ? undefined : curtainMs + intervalMin * MINUTE;
  // Who stands at the instruments, or has missed the last tuning, can begin at once.
  const standing = anchorMs > curtainMs;
  const untuned = nowMs >= curtainMs && players.some((p) => p.string.lastReadMs! < p.tunedMs);
  const later = [...grid, ...(intervalMs === undefined ? [] : [intervalMs])].filter((t) => t > begunMs);
  const times = [...new Set([...(standing || untuned ? [begunMs] : []), ...later])].sort((a, b) => a - b);
  const inShow = players.map((p): InShow<Player> => {
    // A string that holds is not looked at further.
    if (p.row.until[cells.length]!.out < prices.string) return { string: p, start: p.row, at: [] };
    const at = times.map((t) => {
      if (t >= p.playsMs.to || (standing && t === begunMs && isRead(p.string))) return undefined;
      const size = t > p.start.fromMs ? Math.max(0, p.courses.creepTo(p.start.fromMs, t).mean) : 0;
      return rowOf(p.courses.broughtUp(t, size), p.cells, p.rule);
    });
    return { string: p, start: p.row, at };
  });
  const share = (i: number) => (standing && times[i] === begunMs ? 0 : times[i] === intervalMs ? INTERVAL_SHARE : 1);
  return { ...chooseRetunings(inShow, times.length, prices, share), times };
}

function outlookOf(s: PlanString, player: Player | undefined, leadCents: number, toleranceCents: number): ShowOutlook {
  const { instrumentId, stringId } = s;
  if (!player) return { instrumentId, stringId, chance: null, fall: null };
  const { start, playsMs } = player;
  const mix = start.fallTo(Math.max(playsMs.to, start.fromMs + MINUTE));
  return {
    instrumentId,
    stringId,
    chance: chanceWithin(start, leadCents, playsMs, toleranceCents),
    fall: { q05: mixtureQuantile(mix, 0.05), q50: mixtureQuantile(mix, 0.5), q95: mixtureQuantile(mix, 0.95) },
  };
}

/** Items that take time and overlap are marked, the later ones, where they are more than there are hands. */
function markConflicts(items: readonly PlanItem[], hands: number): void {
  const busy = Array.from({ length: Math.max(1, hands) }, () => -Infinity);
  for (const item of items.filter((i) => WORK.has(i.what))) {
    const hand = busy.indexOf(Math.min(...busy));
    item.conflict = item.atMs < busy[hand]! - MINUTE / 2;
    busy[hand] = Math.max(busy[hand]!, item.atMs + item.minutes * MINUTE);
  }
}
