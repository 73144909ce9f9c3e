import { MINUTE } from '../base';
import type { HandEvent } from '../settling';
import type { StringLife } from '../log';

/** A string nobody dated counts as this old at its first reading, min (house rule). */
const UNDATED_MIN = 30 * 1440;

/** When a string's age counts from, ms. */
export function ageFromMs({ strungMs, readings }: Pick<StringLife, 'strungMs' | 'readings'>): number | undefined {
  return strungMs ?? (readings[0] && readings[0].atMs - UNDATED_MIN * MINUTE);
}

/** Warmed by hand or played so long where nobody said, min (house). */
const USUAL_MIN = 5;
/** Less is no playing, min. */
const LEAST_PLAYED_MIN = 3;

/** When hands began to warm or play it, and ended, ms. */
export const handMoments = ({ treatments, shows = [] }: StringLife): number[] =>
  [...treatments.map((t) => ({ minutes: USUAL_MIN, ...t })), ...shows].flatMap(({ atMs, minutes }) => [
    atMs,
    atMs + minutes * MINUTE,
  ]);

/** What was noted as warmed or played, and the shows that have been: between their readings, up to the last reading of all. */
export function handEvents({ readings, treatments, shows = [] }: StringLife, start: number): HandEvent[] {
  const lastMs = readings.at(-1)?.atMs ?? 0;
  const minute = (ms: number) => (ms - start) / MINUTE;
  const noted = treatments.flatMap(({ atMs, treatment, minutes = USUAL_MIN }): HandEvent[] =>
    treatment === 'warmed' || treatment === 'played'
      ? [{ t: minute(atMs), kind: treatment === 'warmed' ? 'warm' : 'play', minutes }]
      : [],
  );
  const played = shows.flatMap(({ atMs, minutes }): HandEvent[] => {
    const endMs = Math.min(lastMs, atMs + minutes * MINUTE);
    const within = readings.map((r) => r.atMs).filter((ms) => ms > atMs && ms < endMs);
    const bounds = [atMs, ...within, endMs];
    return bounds.slice(1).flatMap((to, i): HandEvent[] => {
      const played = minute(to) - minute(bounds[i]!);
      return played < LEAST_PLAYED_MIN ? [] : [{ t: minute(bounds[i]!) + 0.01, kind: 'play', minutes: played - 0.02 }];
    });
  });
  return [...noted, ...played];
}
