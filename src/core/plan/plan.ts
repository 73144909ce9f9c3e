import { chanceWords } from '../check';
import { mixtureMoments } from '../settling';
import { chooseWalks, walkTimes } from './before';
import { WALK_GAP_MIN, type Takes } from './groups';
import { chooseRetunings, type InShow, type Prices } from './in-show';
import { planItems, SHOW_FROM_CENTS, TAKES_HANDS, type Retuned } from './items';
import { rowOf } from './lead';
import { chanceWithin, fallSpan } from './outlook';
import { lastTunings, playerOf, withWalks, type ShowString } from './players';
import {
  EFFORTS,
  type Effort,
  type Plan,
  type PlanAsked,
  type PlanItem,
  type PlanSession,
  type PlanString,
  type PlanSum,
  type ShowOutlook,
} from './types';
import { MINUTE } from '../base';

/** A walk that was missed until so shortly before the last tuning is made by that, min (house). */
const TOO_NEAR_MIN = 10;
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
    why: `Use the spare instead: ${chanceWords(chance)} to the end.`,
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

function weigh(asked: PlanAsked): Weighed {
  const { strings, session, nowMs, zone } = asked;
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
    readMs < skippedMs || (s.lastReadMs ?? -Infinity) > anchorMs - WALK_GAP_MIN * MINUTE;
  const prices = PRICES[session.effort];

  const found = strings.flatMap((s): ShowString[] =>
    s.fit ? [playerOf(s, session, nowMs, tunedAt.get(s.instrumentId)!)] : [],
  );
  const early = nowMs < firstTunedMs - TOO_NEAR_MIN * MINUTE;
  const walks = early
    ? chooseWalks(
        found.filter((p) => p.toTune),
        walkTimes(firstTunedMs, anchorMs, zone),
        prices.before,
        anchorMs,
        isRead,
      )
    : [];
  const players = found.map((p) => withWalks(p, walks));
  const retunings = retuningsOf(players, session, nowMs, anchorMs, isRead, prices.inShow);
  const leads = new Map(players.map((p, i) => [p.string, retunings.startLead[i]!]));

  const items = planItems(asked, takes, tunedAt, { players, walks, retunings, leads });
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
  const checks = new Set(items.filter((i) => i.what === 'check').map((i) => i.walkMin));
  const before = checks.size + (items.some((i) => i.what === 'last-tuning') ? 1 : 0);
  const inShow = retunings.visits.length;
  const minutes = items.reduce((sum, i) => sum + (TAKES_HANDS.has(i.what) ? i.minutes : 0), 0);
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

/** Retunings in the show, by the courses of all strings from their starts on. */
function retuningsOf(
  players: readonly ShowString[],
  { curtainMs, minutes, intervalMin }: PlanSession,
  nowMs: number,
  anchorMs: number,
  isRead: (s: PlanString) => boolean,
  prices: Prices,
): Retuned {
  const begunMs = Math.max(curtainMs, anchorMs);
  const cells = players[0]?.cells ?? [];
  const grid = cells.map((_, i) => curtainMs + (i * minutes * MINUTE) / cells.length);
  const intervalMs = intervalMin === null ? undefined : curtainMs + intervalMin * MINUTE;
  // Who stands at the instruments, or has missed the last tuning, can begin at once.
  const standing = anchorMs > curtainMs;
  const untuned = nowMs >= curtainMs && players.some((p) => p.string.lastReadMs! < p.tunedMs);
  const later = [...grid, ...(intervalMs === undefined ? [] : [intervalMs])].filter((t) => t > begunMs);
  const times = [...new Set([...(standing || untuned ? [begunMs] : []), ...later])].sort((a, b) => a - b);
  const inShow = players.map((p): InShow<PlanString> => {
    // A string that holds is not looked at further.
    if (p.row.until[cells.length]!.out < prices.string) return { string: p.string, start: p.row, at: [] };
    const at = times.map((t) => {
      if (t >= p.playsMs.to || (standing && t === begunMs && isRead(p.string))) return undefined;
      const size = t > p.start.fromMs ? Math.max(0, p.courses.creepTo(p.start.fromMs, t).mean) : 0;
      const row = rowOf(p.courses.broughtUp(t, size), p.cells, p.rule);
      // What will still stand near where it would be left is not asked for: it would be read and left alone.
      const { standsCents, fallTo } = p.start;
      const lead = row.until.at(-1)!.leadCents;
      const off = standsCents === null ? Infinity : lead - standsCents + mixtureMoments(fallTo(t)).mean;
      return Math.abs(off) < SHOW_FROM_CENTS ? undefined : row;
    });
    return { string: p.string, start: p.row, at };
  });
  const share = (i: number) => (standing && times[i] === begunMs ? 0 : times[i] === intervalMs ? INTERVAL_SHARE : 1);
  const { visits, ...rest } = chooseRetunings(inShow, times.length, prices, share);
  return { ...rest, visits: visits.map(({ time, strings }) => ({ atMs: times[time]!, strings })) };
}

function outlookOf(
  s: PlanString,
  player: ShowString | undefined,
  leadCents: number,
  toleranceCents: number,
): ShowOutlook {
  const { instrumentId, stringId } = s;
  if (!player) return { instrumentId, stringId, chance: null, fall: null };
  const { start, playsMs } = player;
  const mix = start.fallTo(Math.max(playsMs.to, start.fromMs + MINUTE));
  return {
    instrumentId,
    stringId,
    chance: chanceWithin(start, leadCents, playsMs, toleranceCents),
    fall: fallSpan(mix),
  };
}
