import { MINUTE } from '../base';
import type { SettlingEvent } from '../settling';
import { ageFromMs, handEvents } from './hand-events';
import { alignedCents } from './aligned';
import { tellingReadings } from './telling';
import type { StringLife, ReadingRecord } from '../log';

/** A string is read so soon after it was pulled, min. */
const STRETCHED_MIN = 0.05;

/**
 * A string's life as the settling model reads it: readings in cents from the target of the time, a retuning before every
 * as-left reading. Times in min since it was strung.
 * @returns the events; and which of its readings are among them: of many those that tell something
 * @param moved readings before which somebody tuned it without a word, by their time, ms
 */
export function settlingEvents(
  life: StringLife,
  moved: readonly number[] = [],
): { events: SettlingEvent[]; readings: ReadingRecord[] } {
  const start = ageFromMs(life);
  if (start === undefined) return { events: [], readings: [] };
  const events: SettlingEvent[] = [{ t: 0, kind: 'retune' }];
  const readings = tellingReadings(life, moved);
  const aligned = alignedCents(readings);
  for (const [i, r] of readings.entries()) {
    const t = (r.atMs - start) / MINUTE;
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
  const hands = handEvents({ ...life, readings }, start).filter((e) => e.t > 0);
  const all = hands.length === 0 ? events : [...events, ...hands].sort((a, b) => a.t - b.t);
  return { events: all, readings };
}

/** The pluck that first showed a slip came at most this long before the one that confirmed it, min. */
const CONFIRM_MIN = 5;

/** By how much a string had moved at once when a second pluck confirmed it, against what was read before both, cents. */
export function leapBefore(readings: readonly ReadingRecord[], confirmed: ReadingRecord): number {
  const i = readings.indexOf(confirmed);
  const first = readings[i - 1];
  const isPair = first !== undefined && confirmed.atMs - first.atMs < CONFIRM_MIN * MINUTE;
  const before = isPair ? (readings[i - 2] ?? first) : first;
  return before ? confirmed.cents - before.cents : 0;
}
