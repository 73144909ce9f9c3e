import { clockTime, type Zone, MINUTE, DAY } from '../base';
import type { SettlingMaterial } from '../settling';
import { ifRestrung, readyAgeMin } from './outlook';
import type { PlanSession, PlanStep, PlanString } from './types';
/** Below this there, instruments stay in their cases until it is warmer, deg C. */
const FREEZING_C = 2;

const minus = (cents: number) => cents.toFixed(0).replace('-', '−');

/** Advice about one instrument: what, when, which strings, why. */
export interface Advice {
  what: PlanStep;
  atMs: number;
  strings: readonly PlanString[];
  why: string;
}

/** Latest sensible restringing of an instrument, or that it is too late; and strings too fresh for the chosen school. */
export function restringing(
  { session, nowMs, zone }: { session: PlanSession; nowMs: number; zone: Zone },
  list: readonly PlanString[],
  tunedMs: number,
  endMs: number,
): Advice[] {
  const told: Advice[] = [];
  const add = (what: PlanStep, atMs: number, strings: readonly PlanString[], why: string) =>
    told.push({ what, atMs, strings, why });
  const madeReady = session.school === 'make-ready';
  const holdMin = (endMs - tunedMs) / MINUTE;
  const intervalMs = session.intervalMin === null ? endMs : session.curtainMs + session.intervalMin * MINUTE;
  const until = session.intervalMin === null ? 'the end' : 'the interval';
  const kinds = new Map<SettlingMaterial, PlanString>();
  for (const s of list) if (!kinds.has(s.material)) kinds.set(s.material, s);
  const ages = [...kinds.values()].map((s) => ({ s, age: readyAgeMin(s, holdMin, session.toleranceCents, madeReady) }));
  const slowest = ages.reduce((a, b) => ((b.age ?? Infinity) > (a.age ?? Infinity) ? b : a));
  const latestMs =
    slowest.age === null ? -Infinity : Math.min(tunedMs - slowest.age * MINUTE, madeReady ? Infinity : tunedMs - DAY);
  if (latestMs > nowMs) {
    add('restring', latestMs, list, `Last chance for new strings. Later, ${slowest.s.note} would not settle in time.`);
  } else if (tunedMs > nowMs) {
    const worst = ifRestrung(
      slowest.s,
      nowMs + 10 * MINUTE,
      tunedMs,
      intervalMs,
      endMs,
      session.toleranceCents,
      madeReady,
    );
    const out = worst.fall.q50;
    const retune = tunedMs + (intervalMs - tunedMs) * Math.min(1, session.toleranceCents / Math.max(0.1, out));
    const enough = out <= session.toleranceCents;
    add(
      'too-late',
      nowMs,
      list,
      enough
        ? 'Too late for new strings: your rule is never on the day of the show.'
        : `Too late for a new set: ${slowest.s.note} would be ${out.toFixed(0)} cents flat by ${until} (${minus(worst.fall.q05)} to ${minus(worst.fall.q95)}). The first chance to retune is ${clockTime(retune, zone)}.`,
    );
  }
  const sameDay = list.filter((s) => s.strungMs !== null && session.curtainMs - s.strungMs < DAY);
  if (!madeReady && sameDay.length > 0 && tunedMs > nowMs)
    add(
      'same-day',
      nowMs,
      sameDay,
      'New strings less than a day before the show: your rule does not allow them. Use another instrument, or allow stretching in the show’s settings.',
    );
  return told;
}

/** What the air there does to the strings, in a sentence; '' where nothing is to be said. */
export function airWords(list: readonly PlanString[], { thereC, hereC }: PlanSession): string {
  if (thereC !== null && thereC < FREEZING_C)
    return `It is about ${thereC.toFixed(0)} °C there. Leave the cases shut until it is warmer, then open them for half an hour.`;
  if (thereC === null || hereC === null || Math.abs(thereC - hereC) < 1)
    return 'Open the cases where you play, half an hour or more before the last tuning.';
  const shifts = list.map((s) => s.prior.tempMean * (thereC - hereC));
  const least = Math.min(...shifts);
  const most = Math.max(...shifts);
  const words = Math.abs(most - least) < 0.5 ? minus(most) : `${minus(least)} to ${minus(most)}`;
  return `Open the cases for half an hour: a change of ${minus(thereC - hereC)} °C moves the strings by about ${words} cents.`;
}
