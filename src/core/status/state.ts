import { chanceToStay, leapOf, offsetNow, standAt, type SettlingFit, type Surprise } from '../settling';
import { fallenSeries } from './fallen';
import { lastLeft } from './falls';
import { leapBefore } from './events';
import type { InstrumentLife, StringLife } from '../log';
import { fitLives, nextChecks, surpriseAt, type Priors } from './fits';
import { MINUTE, DAY } from '../base';
import { isReadTwice } from './outlook';
import { READY } from './ready';

export type StringState = 'settling' | 'holding' | 'slipped' | 'rose' | 'unread';

export interface Wish {
  nowMs: number;
  toleranceCents: number;
  /** How long it should hold from now, min. */
  holdMin: number;
  /** Curtain, ms; null when none is set. */
  curtainMs: number | null;
  confidence: number;
  /** What strings of a material start from; the house's estimates where it is missing. */
  priors?: Priors;
  /** The forecast from now on is wanted, for a lane. */
  lane?: boolean;
}

/** A band of the forecast at one time. */
export interface ForecastBand {
  atMs: number;
  cents: number;
  low: number;
  high: number;
}

/** What the bench says of one string. */
export interface StringStatus {
  stringId: string;
  state: StringState;
  /** Last reading, cents; null when unread. */
  cents: number | null;
  sigmaCents: number | null;
  lastReadMs: number | null;
  /** It stands outside the tolerance, and was not left there on purpose. */
  off: boolean;
  /** How far above its target it was left because it is going to fall, cents. */
  leadCents: number;
  /** Where it is expected to have gone since, left alone; null before two readings at different times. */
  byNow: { cents: number; sigmaCents: number } | null;
  /** How far its last reading lies from where it was left and what it was expected to do since, with the doubt of that; null where nothing was expected. */
  unexpected: { cents: number; sigmaCents: number } | null;
  /** When it moved at once, for a string that slipped or rose. */
  slippedMs: number | null;
  totalFallCents: number | null;
  /** P(within tolerance all the time to holdMin). null before two readings at different times. */
  chance: number | null;
  nextCheckMs: number | null;
  /** Where it will stand at the curtain if left alone. */
  atCurtain: ForecastBand | null;
  /** The forecast from now on, for the lane; empty where none is wanted or known. */
  ahead: ForecastBand[];
  /** Which of its readings is to be confirmed by a second pluck, and by how much it moved at once, cents. */
  leap: { readingId: string; cents: number } | null;
}

/** No more is given to a string whose last figure stands outside (house). */
const OFF_CHANCE = 0.5;
/** Moments of a lane, of the time that is to be held. */
const LANE = [0.02, 0.06, 0.15, 0.35, 0.7, 1, 1.5, 2.5, 4];

/** Where it is, with its doubt, and what comes, together. */
function bandAt(fit: SettlingFit, nowMs: number, hMin: number): ForecastBand {
  const { mean, q05, q95 } = standAt(fit, hMin);
  return { atMs: nowMs + hMin * MINUTE, cents: mean, low: q05, high: q95 };
}

/** Above where it was left on purpose by no more than this is no error, cents. */
const LEAD_SLACK_CENTS = 1;

/** What a string was last left at above its target, cents; and whether it stands outside the tolerance beyond that. */
export function stringStanding({ readings }: StringLife, toleranceCents: number): { off: boolean; leadCents: number } {
  const leadCents = lastLeft(readings)?.leadCents ?? 0;
  const cents = readings.at(-1)?.cents ?? 0;
  const most = leadCents > 0 ? Math.max(toleranceCents, leadCents + LEAD_SLACK_CENTS) : toleranceCents;
  return { off: cents > most || cents < -toleranceCents, leadCents };
}

/** How far a string stands from where it was to be: from where it was last left, and by what it did since that nobody expected. */
function unexpectedOf({ readings, strungMs }: StringLife, surprise?: Surprise): StringStatus['unexpected'] {
  const last = readings.at(-1)!;
  const left = lastLeft(readings);
  // An old string of which nobody said where it was left was to stand at its target.
  if (!left) {
    const isOld = strungMs === null || last.atMs - strungMs > OLD_MS;
    return isOld ? { cents: last.cents, sigmaCents: OLD_CENTS } : null;
  }
  const leftOff = left.cents - (left.leadCents ?? 0);
  if (left === last) return { cents: leftOff, sigmaCents: last.sigmaCents };
  return surprise
    ? { cents: leftOff + surprise.innovationCents, sigmaCents: Math.sqrt(surprise.varianceCents2) }
    : null;
}
const OLD_MS = 14 * DAY;
const OLD_CENTS = 1;

/**
 * States, forecasts and next checks of all strings of an instrument. Slips are judged against the other strings, which the
 * room moves alike.
 */
export function instrumentStatus({ strings }: InstrumentLife, wish: Wish): StringStatus[] {
  const fits = fitLives(strings, wish.nowMs, wish.priors);
  const checks = nextChecks(strings, wish, wish.priors);
  const newest = (i: number): { atMs: number; surprise: Surprise } | undefined => {
    const life = strings[i]!;
    const f = fits[i];
    const last = life.readings.findLast((r) => r.purpose === 'as-found');
    const surprise = last && f && surpriseAt(f, last.atMs);
    return surprise ? { atMs: last.atMs, surprise } : undefined;
  };
  return strings.map((life, i): StringStatus => {
    const lastRead = life.readings[life.readings.length - 1];
    const blank: StringStatus = {
      stringId: life.plan.stringId,
      state: 'unread',
      cents: null,
      sigmaCents: null,
      lastReadMs: null,
      slippedMs: null,
      totalFallCents: null,
      chance: null,
      nextCheckMs: null,
      atCurtain: null,
      byNow: null,
      unexpected: null,
      ahead: [],
      leap: null,
      off: false,
      leadCents: 0,
    };
    const f = fits[i];
    if (!lastRead || !f) return blank;
    const known = {
      ...blank,
      cents: lastRead.cents,
      sigmaCents: lastRead.sigmaCents,
      lastReadMs: lastRead.atMs,
      totalFallCents: fallenSeries(life, f).at(-1)!.cents,
      unexpected: unexpectedOf(life),
      ...stringStanding(life, wish.toleranceCents),
    };
    const own = newest(i);
    const others = strings.flatMap((_, j) => {
      const o = j === i ? undefined : newest(j);
      return o && own && Math.abs(o.atMs - own.atMs) < 20 * MINUTE ? [o.surprise] : [];
    });
    const judged = lastRead.purpose === 'as-found' && !lastRead.slip && life.readings.length > 2;
    const leapCents = own && judged ? leapOf(own.surprise, others) : undefined;
    const moved = lastRead.slip && leapBefore(life.readings, lastRead) > 0 ? 'rose' : 'slipped';
    if (!isReadTwice(life)) return { ...known, state: 'settling' };
    const now = offsetNow(f.fit);
    const surprise = surpriseAt(f, lastRead.atMs);
    const curtainMin = wish.curtainMs === null ? null : (wish.curtainMs - wish.nowMs) / MINUTE;
    const stays = chanceToStay(f.fit, wish.holdMin, wish.toleranceCents);
    // What was just read outside is not said to hold, however much it surprised.
    const chance = known.off ? Math.min(stays, OFF_CHANCE) : stays;
    return {
      ...known,
      state: lastRead.slip ? moved : chance >= READY ? 'holding' : 'settling',
      slippedMs: lastRead.slip ? lastRead.atMs : null,
      chance,
      byNow: { cents: now.cents, sigmaCents: now.sigmaCents },
      unexpected: unexpectedOf(life, surprise),
      nextCheckMs: checks[i] ?? null,
      atCurtain: curtainMin !== null && curtainMin > 0 ? bandAt(f.fit, wish.nowMs, curtainMin) : null,
      ahead: wish.lane ? LANE.map((x) => bandAt(f.fit, wish.nowMs, x * Math.max(60, wish.holdMin))) : [],
      leap: leapCents === undefined ? null : { readingId: lastRead.id, cents: leapCents },
    };
  });
}

/** When a string is to be looked at, ms: one that stands off, or was never read, at once. */
export const dueMs = ({ cents, off, lastReadMs, nextCheckMs }: StringStatus): number =>
  cents === null || off ? (lastReadMs ?? 0) : (nextCheckMs ?? Infinity);

/** Strings that were put on within a day are one set, and of one age. */
export function isOneSet({ strings }: Pick<InstrumentLife, 'strings'>): boolean {
  const put = strings.map((s) => s.strungMs ?? -Infinity);
  return Math.max(...put) - Math.min(...put) < DAY;
}
