import type { HandEvent, SettlingEvent } from '../settling';
import { alignedCents } from './aligned';
import type { StringLife } from './life';
import type { ReadingRecord } from './records';

/** A string nobody dated counts as this old at its first reading, min (house rule). */
const UNDATED_MIN = 30 * 1440;

/** When a string's age counts from, ms. */
export function ageFromMs({ strungMs, readings }: Pick<StringLife, 'strungMs' | 'readings'>): number | undefined {
  return strungMs ?? (readings[0] && readings[0].atMs - UNDATED_MIN * 60000);
}

/**
 * A string's life as the settling model reads it: readings in cents from the target of the time, a retuning before every
 * as-left reading. Times in min since it was strung.
 * @param moved readings before which somebody tuned it without a word, by their time, ms
 */
export function settlingEvents(life: StringLife, moved: readonly number[] = []): SettlingEvent[] {
  const start = ageFromMs(life);
  if (start === undefined) return [];
  const events: SettlingEvent[] = [{ t: 0, kind: 'retune' }];
  const aligned = alignedCents(life.readings);
  for (const [i, r] of life.readings.entries()) {
    const t = (r.atMs - start) / 60000;
    if (r.slip) {
      // A slip starts the offset afresh; the first pluck that showed it says the same and is left out.
      const before = events[events.length - 1]!;
      if (before.kind === 'read' && t - before.t < CONFIRM_MIN) events.pop();
    }
    if (r.slip || moved.includes(r.atMs)) events.push({ t, kind: 'retune', anywhere: true });
    if (r.stretched) events.push({ t: Math.max(0, t - STRETCHED_MIN), kind: 'stretch' });
    if (r.purpose === 'as-left') events.push({ t: Math.max(0, t - 0.02), kind: 'retune' });
    events.push({
      t,
      kind: 'read',
      cents: aligned[i]!,
      sigmaCents: r.sigmaCents,
      source: r.source === 'typed' ? 'typed' : 'heard',
      ...(r.tempC === undefined ? {} : { tempC: r.tempC }),
    });
  }
  const hands = handsOn(life, start).filter((e) => e.t > 0);
  return hands.length === 0 ? events : [...events, ...hands].sort((a, b) => a.t - b.t);
}

/** What was noted as warmed or played, and the shows that have been: between their readings, up to the last reading of all. */
function handsOn({ readings, treatments, shows = [] }: StringLife, start: number): HandEvent[] {
  const lastMs = readings.at(-1)?.atMs ?? 0;
  const minute = (ms: number) => (ms - start) / 60000;
  const noted = treatments.flatMap(({ atMs, treatment, minutes = USUAL_MIN }): HandEvent[] =>
    treatment === 'warmed' || treatment === 'played'
      ? [{ t: minute(atMs), kind: treatment === 'warmed' ? 'warm' : 'play', minutes }]
      : [],
  );
  const played = shows.flatMap(({ atMs, minutes }): HandEvent[] => {
    const endMs = Math.min(lastMs, atMs + minutes * 60000);
    const within = readings.map((r) => r.atMs).filter((ms) => ms > atMs && ms < endMs);
    const bounds = [atMs, ...within, endMs];
    return bounds.slice(1).flatMap((to, i): HandEvent[] => {
      const played = minute(to) - minute(bounds[i]!);
      return played < LEAST_PLAYED_MIN ? [] : [{ t: minute(bounds[i]!) + 0.01, kind: 'play', minutes: played - 0.02 }];
    });
  });
  return [...noted, ...played];
}
/** A string is read so soon after it was pulled, min. */
const STRETCHED_MIN = 0.05;
/** Warmed by hand or played so long where nobody said, min (house). */
const USUAL_MIN = 5;
/** Less is no playing, min. */
const LEAST_PLAYED_MIN = 3;

/** The pluck that first showed a slip came at most this long before the one that confirmed it, min. */
const CONFIRM_MIN = 5;

/** By how much a string had moved at once when a second pluck confirmed it, against what was read before both, cents. */
export function leapBefore(readings: readonly ReadingRecord[], confirmed: ReadingRecord): number {
  const i = readings.indexOf(confirmed);
  const first = readings[i - 1];
  const isPair = first !== undefined && confirmed.atMs - first.atMs < CONFIRM_MIN * 60000;
  const before = isPair ? (readings[i - 2] ?? first) : first;
  return before ? confirmed.cents - before.cents : 0;
}
