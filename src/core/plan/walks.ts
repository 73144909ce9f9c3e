import { carryTo, nextCheckMin, type SettlingFit } from '../settling';
import type { PlanString } from './types';

const MINUTE = 60000;
const CONFIDENCE = 0.9;
const EVEN = 0.5;
/** Nobody walks the bench more often, min (house rule). */
const LEAST_GAP_MIN = 5;

export interface Walk {
  atMs: number;
  /** When the first of its strings was due: before now where the walk is late. */
  dueMs: number;
  strings: PlanString[];
  /** When each of them was last at pitch or read, ms, by the plan; null before a reading. */
  sinceMs: (number | null)[];
}

/** The settling of a string at a later moment, left alone until then and brought to pitch there. */
export function fitAt(string: PlanString, atMs: number): SettlingFit {
  return carryTo(string.fit!, (atMs - string.startMs!) / MINUTE);
}

interface Due {
  string: PlanString;
  sinceMs: number | null;
  dueMs: number;
  intervalMin: number;
}

/** When a string that was brought to pitch at atMs is to be read again, ms. */
function dueAfter(string: PlanString, atMs: number, intervalMin: number, toleranceCents: number): number {
  const check = nextCheckMin(fitAt(string, atMs), {
    toleranceCents,
    offsetCents: 0,
    lastIntervalMin: Math.max(LEAST_GAP_MIN, intervalMin),
    confidence: CONFIDENCE,
  });
  return atMs + Math.max(LEAST_GAP_MIN, check) * MINUTE;
}

function firstDue(string: PlanString, nowMs: number, toleranceCents: number): Due {
  const { readFit, offsetCents, lastReadMs, lastIntervalMin } = string;
  if (!readFit || lastReadMs === null || offsetCents === null || Math.abs(offsetCents) > toleranceCents)
    return { string, sinceMs: lastReadMs, dueMs: nowMs, intervalMin: lastIntervalMin };
  const check = nextCheckMin(readFit, {
    toleranceCents,
    offsetCents,
    lastIntervalMin: Math.max(LEAST_GAP_MIN, lastIntervalMin),
    // Half gone and left there: it is looked at again when it is as likely out as in, and brought up then.
    confidence: Math.abs(offsetCents) > toleranceCents / 2 ? EVEN : CONFIDENCE,
  });
  // Counted from the reading: asked again it does not move, and what has passed is late.
  const dueMs = lastReadMs + Math.max(LEAST_GAP_MIN, check) * MINUTE;
  return { string, sinceMs: lastReadMs, dueMs, intervalMin: lastIntervalMin };
}

/**
 * The walks of the bench from now until a time: the first when the first string is due; every string that would be due before
 * that one's next turn is taken along, so that the walks are as few as keep all within tolerance (interval stabbing by the
 * earliest deadline).
 */
export function walksUntil(
  strings: readonly PlanString[],
  nowMs: number,
  untilMs: number,
  toleranceCents: number,
  most = 60,
): Walk[] {
  let open = strings.map((s): Due => firstDue(s, nowMs, toleranceCents));
  const walks: Walk[] = [];
  let lastMs = -Infinity;
  while (walks.length < most && open.length > 0) {
    const earliest = Math.min(...open.map((d) => d.dueMs));
    const atMs = Math.max(earliest, nowMs, lastMs + LEAST_GAP_MIN * MINUTE);
    if (atMs >= untilMs) break;
    const renewed = ({ string, sinceMs, intervalMin }: Due): Due => {
      const interval = sinceMs === null ? intervalMin : (atMs - sinceMs) / MINUTE;
      // A string without any reading is known no better in advance: it is read once, and planned from then on.
      const dueMs = string.fit ? dueAfter(string, atMs, interval, toleranceCents) : Infinity;
      return { string, sinceMs: atMs, dueMs, intervalMin: interval };
    };
    const now = open.filter((d) => d.dueMs <= atMs);
    const again = now.map(renewed);
    const turn = Math.min(...again.map((d) => d.dueMs));
    const along = open.filter((d) => d.dueMs > atMs && d.dueMs < turn);
    const taken = [...now, ...along];
    walks.push({
      atMs,
      dueMs: earliest,
      strings: taken.map((d) => d.string),
      sinceMs: taken.map((d) => d.sinceMs),
    });
    open = [...open.filter((d) => d.dueMs >= turn && d.dueMs > atMs), ...again, ...along.map(renewed)];
    lastMs = atMs;
  }
  return walks;
}
