import { hourOfDay, MINUTE, type Zone } from '../base';
import { FRICTION_MOST_CENTS, FRICTION_SHARE, mixtureMoments, RENEWAL_CENTS, renewalOf } from '../settling';
import type { Prices } from './in-show';
import { rowFrom, type Cell, type LeadRule } from './lead';
import type { PlanString, VisitPurpose } from './types';
import type { Courses, Fall } from './courses';

/** In a walk before the show what stands nearer to its target than this is left alone, cents. */
export const WALK_FROM_CENTS = 1.5;
/** Walks that can be chosen, min before the last tuning: nearer together the nearer it comes (house). */
const BEFORE_MIN = [30, 60, 90, 120, 180, 240, 330, 450, 600, 840, 1200, 1680, 2400, 3600];
/** Nobody is sent out at night for a show later than this, min; night by local time. */
const SAME_DAY_MIN = 300;
const NIGHT = { from: 23, to: 7 };
/** What two readings and the string's wander leave of doubt in a measured fall, cents (house estimate). */
const MEASURED_CENTS = 1.2;
/** A slope measured at another age is off by this share for each e-fold of age between (house estimate: the laws of creep differ by as much). */
const AGEING = 0.25;
/** A string is retuned in the show when it has fallen by this share of the tolerance, but not more often than this. */
const SPELL_SHARE = 1.6;
const MOST_SPELLS = 5;

/** What a string has at stake in the walks before its last tuning. */
export interface Stake {
  string: PlanString;
  courses: Courses;
  tunedMs: number;
  /** The show in its stretches. */
  cells: readonly Cell[];
  rule: LeadRule;
}

/** When somebody may be sent before the last tuning, earliest first; the same whenever it is asked. */
export function walkTimes(tunedMs: number, sinceMs: number, zone: Zone): number[] {
  return BEFORE_MIN.filter((m) => {
    const hour = hourOfDay(tunedMs - m * MINUTE, zone);
    return m <= SAME_DAY_MIN || (hour >= NIGHT.to && hour < NIGHT.from);
  })
    .map((m) => tunedMs - m * MINUTE)
    .filter((t) => t >= sinceMs)
    .reverse();
}

/** How far a string is brought up at its last tuning, cents: what has gone since the last walk, or stands there now. */
export function lastBringUp({ string, courses, tunedMs }: Stake, lastWalkMs: number | undefined): number {
  const { asRead, creepTo } = courses;
  const gone =
    lastWalkMs === undefined
      ? creepTo(string.lastReadMs!, tunedMs).mean - asRead().standsCents!
      : creepTo(lastWalkMs, tunedMs).mean;
  return Math.max(0, gone);
}

/** How many minutes a string will be out after its last tuning, hands off, if it is read and brought up at given times before. */
function stakeOf(stake: Stake) {
  const { string, courses, tunedMs, cells, rule } = stake;
  const { fit, broughtUp, creepTo, ageMin } = courses;
  const lastMs = string.lastReadMs!;
  const free = broughtUp(tunedMs, 0);
  const falls = cells.map((c) => mixtureMoments(free.fallTo(c.atMs)));
  const endMs = cells[cells.length - 1]!.atMs;
  const lnAge = (atMs: number) => Math.log(Math.max(1, ageMin(atMs)));
  const showAge = 0.5 * (lnAge(tunedMs) + lnAge(endMs));
  const { mean, variance } = creepTo(tunedMs, endMs);
  /** Relative variance of the slope, and what of the show's fall it leaves to chance. */
  const far = AGEING * (showAge - lnAge(lastMs));
  const unsure = mean > 0.05 ? Math.min(1, variance / (mean * mean) + far * far) : 0;
  const chance = falls.map((f) => Math.max(0.09, f.sd ** 2 - unsure * f.mean ** 2));
  const spells = spellsOf(falls, rule.toleranceCents);
  const renewal = renewalOf(fit);
  const renewalSpread = Math.sqrt(renewal * (1 - Math.min(1, renewal)));
  const slope = creepTo(lastMs, endMs).mean / Math.log(ageMin(endMs) / Math.max(1, ageMin(lastMs)));
  const fallTo = remembered((atMs: number) => (atMs <= lastMs ? 0 : creepTo(lastMs, atMs).mean));
  const sizeAfter = remembered((walkMs: number | undefined) => lastBringUp(stake, walkMs));
  return (times: readonly number[]): { out: number; sharpness: number; sizeCents: number } => {
    let information = 0;
    let before = 0;
    let sinceMs = lastMs;
    for (const t of times) {
      const fall = fallTo(t) - before;
      const apart = showAge - 0.5 * (lnAge(sinceMs) + lnAge(t));
      information += 1 / ((MEASURED_CENTS / Math.max(0.01, fall)) ** 2 + (AGEING * apart) ** 2);
      before += fall;
      sinceMs = t;
    }
    const sharpness = unsure > 0 ? 1 / (1 / unsure + information) : 0;
    const sizeCents = sizeAfter(times.at(-1));
    const friction = FRICTION_SHARE * Math.min(FRICTION_MOST_CENTS, sizeCents);
    const moved = falls.map((f, i): Fall => {
      const again =
        (slope * sizeCents * Math.log1p((cells[i]!.atMs - tunedMs) / MINUTE / string.prior.tauMin)) / RENEWAL_CENTS;
      return { mean: f.mean + renewal * again + friction, sd: renewalSpread * again };
    });
    // It is retuned as often as its fall asks for: knowing it well helps until the next time only.
    const out = spells.reduce((sum, from, k) => {
      const base = k === 0 ? { mean: 0, sd: 0 } : moved[from]!;
      const own = moved.slice(from, spells[k + 1]).map((m, i): Fall => {
        const mean = m.mean - base.mean;
        return { mean, sd: Math.sqrt(chance[i]! + sharpness * mean ** 2 + (m.sd - base.sd) ** 2) };
      });
      const row = rowFrom(tunedMs, cells, from, own, null, rule);
      return sum + row.until[cells.length]!.out;
    }, 0);
    return { out, sharpness, sizeCents };
  };
}

/** The same answer without the work: walks are tried at the same few times again and again. */
function remembered<K>(work: (key: K) => number): (key: K) => number {
  const results = new Map<K, number>();
  return (key) => {
    const result = results.get(key) ?? work(key);
    results.set(key, result);
    return result;
  };
}

/** Where the show parts into spells that each fall no more than a lead can meet. */
function spellsOf(falls: readonly Fall[], toleranceCents: number): number[] {
  const most = Math.max(SPELL_SHARE * toleranceCents, (falls[falls.length - 1]!.mean - falls[0]!.mean) / MOST_SPELLS);
  const starts = [0];
  falls.forEach((f, i) => {
    if (f.mean - falls[starts[starts.length - 1]!]!.mean > most) starts.push(i);
  });
  return starts;
}

export interface PlannedWalk {
  atMs: number;
  strings: { string: PlanString; saves: number; for: VisitPurpose }[];
}

/**
 * Walks before the last tuning that are worth their price: the best one is added while it saves more than it costs; a string
 * comes along where that saves more than its own price.
 * @param freeMs somebody stands there at this time anyway: it costs no walk
 * @param readThere strings that were read then
 */
export function chooseWalks(
  stakes: readonly Stake[],
  times: readonly number[],
  prices: Prices,
  freeMs: number,
  readThere: (s: PlanString) => boolean,
): PlannedWalk[] {
  const all = stakes.map((s) => ({ ...s, out: stakeOf(s) }));
  const chosen: { atMs: number; with: Set<number> }[] = [];
  const timesOf = (i: number) =>
    chosen
      .filter((w) => w.with.has(i))
      .map((w) => w.atMs)
      .sort((a, b) => a - b);
  const costs = all.map((s) => s.out([]).out);
  const savesAt = (atMs: number, i: number): number => {
    const own = timesOf(i);
    if (own.includes(atMs)) return 0;
    return costs[i]! - all[i]!.out([...own, atMs].sort((a, b) => a - b)).out - prices.string;
  };
  const dues = (atMs: number) =>
    all.map((s, i) =>
      atMs < s.tunedMs && !(atMs === freeMs && readThere(s.string)) ? Math.max(0, savesAt(atMs, i)) : 0,
    );
  for (;;) {
    let best: { atMs: number; saves: number; each: number[] } | undefined;
    for (const atMs of [freeMs, ...times]) {
      const each = dues(atMs);
      const there = chosen.some((w) => w.atMs === atMs) || atMs === freeMs;
      const saves = each.reduce((a, b) => a + b, 0) - (there ? 0 : prices.visit);
      if (saves > (best?.saves ?? 1e-6)) best = { atMs, saves, each };
    }
    if (!best) break;
    const { atMs, each } = best;
    let walk = chosen.find((w) => w.atMs === atMs);
    if (!walk) chosen.push((walk = { atMs, with: new Set() }));
    each.forEach((saves, i) => {
      if (saves <= 0) return;
      walk.with.add(i);
      costs[i] = all[i]!.out(timesOf(i)).out;
    });
  }
  chosen.sort((a, b) => a.atMs - b.atMs);
  return chosen.map(({ atMs, with: strings }) => ({
    atMs,
    strings: [...strings].map((i) => {
      const { string, out } = all[i]!;
      const own = timesOf(i);
      const without = out(own.filter((t) => t !== atMs));
      const with_ = out(own);
      const settles = without.sizeCents - with_.sizeCents > 3 && without.sharpness < 1.5 * with_.sharpness;
      return { string, saves: without.out - with_.out, for: settles ? 'settle' : 'learn' };
    }),
  }));
}
