import type { BreakPlace, FittedRecord, ReadingRecord, RemovalReason, RemovedRecord } from './records';

/** What a string that is gone leaves behind. */
export interface PastLife {
  /** When it was put on; null when nobody said. */
  strungMs: number | null;
  endedMs: number;
  /** null where it was replaced without a word. */
  reason: RemovalReason | null;
  place: BreakPlace | null;
  readings: ReadingRecord[];
}

/**
 * The strings that were at one place before the present one, oldest first: each ends when it was removed or, without a
 * word, when the next one was put on. A second removal with nothing put on between corrects the first.
 * @param on fittings of the place, oldest first
 * @param off removals of the place, oldest first
 * @param readings all readings of the place, oldest first
 */
export function pastLives(on: FittedRecord[], off: RemovedRecord[], readings: ReadingRecord[]): PastLife[] {
  const marks = [...on, ...off].sort((a, b) => a.atMs - b.atMs);
  const lives: PastLife[] = [];
  let fromMs = -Infinity;
  let strungMs: number | null = null;
  let there = true;
  for (const mark of marks) {
    const gone = mark.type === 'removed';
    const own = readings.filter((r) => r.atMs >= fromMs && r.atMs < mark.atMs);
    const last = lives[lives.length - 1];
    if (!there && gone && last) Object.assign(last, { reason: mark.reason, place: mark.place ?? null });
    else if (there && (strungMs !== null || own.length > 0 || gone))
      lives.push({
        strungMs,
        endedMs: mark.atMs,
        reason: gone ? mark.reason : null,
        place: (gone && mark.place) || null,
        readings: own,
      });
    fromMs = mark.atMs;
    there = !gone;
    strungMs = gone ? null : mark.atMs;
  }
  return lives;
}

/** How often strings broke here, by place. */
export function breaksAt(past: readonly PastLife[]): Map<BreakPlace, number> {
  const counts = new Map<BreakPlace, number>();
  for (const { place } of past) if (place) counts.set(place, (counts.get(place) ?? 0) + 1);
  return counts;
}
