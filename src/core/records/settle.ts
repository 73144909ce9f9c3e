import { fitSettling, nextCheckMin, type SettlingEvent, type SettlingFit, type SettlingPrior } from '../settling';
import { SETTLES_AS } from '../strings';
import { ageFromMs, settlingEvents, type StringLife } from './log';

const MINUTE = 60000;
/** From this chance to hold on a string counts as holding (house). */
export const READY = 0.85;
const SHORTEST_INTERVAL_MIN = 10;

/** A string's settling as its record tells it at a moment. */
export interface LifeFit {
  /** When its age counts from, ms. */
  startMs: number;
  events: SettlingEvent[];
  fit: SettlingFit;
}

/** Fits the record of a string; undefined where nothing tells its age. */
export function fitLife(life: StringLife, nowMs: number, prior: SettlingPrior | undefined): LifeFit | undefined {
  const startMs = ageFromMs(life);
  if (startMs === undefined) return undefined;
  const events = settlingEvents(life);
  const nowMin = Math.max((nowMs - startMs) / MINUTE, events[events.length - 1]!.t);
  const material = SETTLES_AS[life.plan.material];
  return { startMs, events, fit: fitSettling({ material, events, ...(prior ? { prior } : {}) }, nowMin) };
}

/** Surprise of a reading taken at atMs; undefined where the fit has none. */
export function surpriseAt({ startMs, events, fit }: LifeFit, atMs: number) {
  const i = events.findLastIndex((e) => e.kind === 'read' && Math.abs(startMs + e.t * MINUTE - atMs) < 1);
  return fit.surprises[i] ?? undefined;
}

/** Time between the last two checks of a string that was read, or since its age began, min. */
export function lastIntervalMin({ readings }: StringLife, startMs: number): number {
  const last = readings[readings.length - 1]!;
  const before = readings.findLast((r) => last.atMs - r.atMs > MINUTE);
  return (last.atMs - (before?.atMs ?? startMs)) / MINUTE;
}

/** When a string is to be read again, min from now; one out of tolerance is taken as brought to pitch. */
export function checkAfterMin(
  life: StringLife,
  { startMs, fit }: LifeFit,
  offsetCents: number,
  toleranceCents: number,
  confidence: number,
): number {
  return nextCheckMin(fit, {
    toleranceCents,
    offsetCents: Math.abs(offsetCents) > toleranceCents ? 0 : offsetCents,
    lastIntervalMin: Math.max(SHORTEST_INTERVAL_MIN, lastIntervalMin(life, startMs)),
    confidence,
  });
}
