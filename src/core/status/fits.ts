import {
  carryTo,
  keptOf,
  fitSettling,
  nextCheckMin,
  offsetNow,
  roomAt,
  roomFromStrings,
  SETTLING_PRIORS,
  type RoomString,
  type SettlingEvent,
  type SettlingFit,
  type SettlingMaterial,
  type SettlingPrior,
  type StringHistory,
  type Surprise,
} from '../settling';
import { SETTLES_AS } from '../strings';
import { totalFallSeries } from './falls';
import { settlingEvents } from './events';
import { ageFromMs } from './hand-events';
import { tellingReadings } from './telling';
import type { StringLife, ReadingRecord } from '../log';
import { MINUTE } from '../base';
const SHORTEST_INTERVAL_MIN = 10;

/** A string's settling as its record tells it at a moment. */
export interface LifeFit {
  /** When its age counts from, ms. */
  startMs: number;
  events: SettlingEvent[];
  /** The readings that were fitted. */
  told: readonly ReadingRecord[];
  fit: SettlingFit;
  /** The same when it was read last. */
  readFit: SettlingFit;
  /** How far each reading that was fitted lay from what was expected, by its time, ms. */
  surprises: ReadonlyMap<number, Surprise>;
  /** Readings before which it had been tuned without a word. */
  moved: readonly Moved[];
  /** What tells how it answers to warmth. */
  temperatureFrom: 'thermometer' | 'other strings' | 'assumed';
}

/** A reading that shows that a string had been tuned without a word: which string, when, and by how much it surprised. */
interface Moved {
  index: number;
  atMs: number;
  surprise: Surprise;
}

/** What strings of a material start from; the house's estimates where it is missing. */
export type Priors = Partial<Record<SettlingMaterial, SettlingPrior>>;

/** Fits at the last reading, kept as long as the strings they are of: what is asked again at another time is only carried on. */
const known = new WeakMap<readonly StringLife[], Map<string, (LifeFit | undefined)[]>>();

/**
 * Fits the record of every string of an instrument; undefined where nothing tells a string's age. Without a thermometer what
 * the other steel strings did alike stands in for it.
 */
export function fitLives(
  strings: readonly StringLife[],
  nowMs: number | 'at the last reading',
  priors: Priors = {},
): (LifeFit | undefined)[] {
  const basis = JSON.stringify(priors);
  const fits = known.get(strings)?.get(basis) ?? fitAtLastReadings(strings, priors);
  known.set(strings, (known.get(strings) ?? new Map<string, (LifeFit | undefined)[]>()).set(basis, fits));
  if (nowMs === 'at the last reading') return fits;
  return fits.map((f) => f && { ...f, fit: carried(f.fit, momentMin(f.fit, (nowMs - f.startMs) / MINUTE)) });
}

/** A minute after a string was read it moves less in a quarter of one, and an hour after in half a minute, than can be told. */
const STEP_MIN = 0.25;
const STEP_SHARE = 0.02;
/** The moment near one that is asked about for which a fit is carried on: what is asked again soon after is known. */
function momentMin({ nowMin }: SettlingFit, askedMin: number): number {
  // A clock that is behind the last reading asks for that one.
  const since = Math.max(0, askedMin - nowMin);
  const step = STEP_MIN * 2 ** Math.max(0, Math.floor(Math.log2((STEP_SHARE * since) / STEP_MIN)));
  return nowMin + Math.round(since / step) * step;
}
/** One of now, and one of a moment that is asked about beside it. */
const carried = keptOf(carryTo, 2);

/** A string is fitted with and without a few moves that nobody noted, and from a few beginnings. */
const MOST_FITS = 8;
/** What a string's readings were fitted to, by all that a fit rests on: another string's reading does not change it. */
const fitOnce = keptOf(
  (_readings: readonly ReadingRecord[], history: StringHistory, lastMin: number) => fitSettling(history, lastMin),
  MOST_FITS,
);

function fitAtLastReadings(strings: readonly StringLife[], priors: Priors): (LifeFit | undefined)[] {
  const priorOf = (life: StringLife) =>
    priors[SETTLES_AS[life.plan.material]] ?? SETTLING_PRIORS[SETTLES_AS[life.plan.material]];
  const bare = strings.every((life) => tellingReadings(life).every((r) => r.tempC === undefined));
  const told = bare ? strings.map((life) => roomString(life, priorOf(life))) : [];
  const fitOne = (life: StringLife, i: number, moved: readonly Moved[]): LifeFit | undefined => {
    const startMs = ageFromMs(life);
    if (startMs === undefined) return undefined;
    const room = roomFromStrings(told.filter((_, j) => j !== i));
    const own = moved.filter((m) => m.index === i);
    const times = own.map((m) => m.atMs);
    const { events: all, readings } = settlingEvents(life, times);
    const events = all.map((e): SettlingEvent => {
      if (e.kind !== 'read' || room.length === 0) return e;
      return { ...e, tempC: roomAt(room, startMs / MINUTE + e.t)! };
    });
    const lastMin = Math.max(...events.map((e) => ('minutes' in e ? e.t + e.minutes : e.t)));
    const history = { material: SETTLES_AS[life.plan.material], events, prior: priorOf(life) };
    const fit = fitOnce(life.readings, history, lastMin);
    const temperatureFrom = !fit.thermometer ? 'assumed' : room.length > 0 ? 'other strings' : 'thermometer';
    const surprises = new Map(
      fit.surprises.flatMap((s, k) => (s ? [[Math.round(startMs + events[k]!.t * MINUTE), s] as const] : [])),
    );
    return { startMs, events, told: readings, fit, readFit: fit, surprises, temperatureFrom, moved: own };
  };
  let fits = strings.map((life, i) => fitOne(life, i, []));
  let moved: Moved[] = [];
  for (let round = 0; round < MOST_MOVES; round++) {
    const more = movedTogether(strings, fits);
    if (more.length === 0) break;
    moved = [...moved, ...more];
    fits = strings.map((life, i) => (more.some((m) => m.index === i) ? fitOne(life, i, moved) : fits[i]));
  }
  return fits;
}

/**
 * Hands move strings by more than this, cents, all the same way, and beyond so many standard deviations: new strings may all fall more than
 * was expected; none rises by itself (house).
 */
const MOVED_CENTS = 3;
const BEYOND = { flat: 3.5, sharp: 2.2 };
/** Strings read within this are of one walk, ms; and so few show nothing in common. */
const WALK_MS = 20 * MINUTE;
const FEWEST_MOVED = 3;
/** So often somebody tunes an instrument without a word. */
const MOST_MOVES = 4;

/**
 * The first walk at which all strings but one at most stood off the same way, by more than any of them should: somebody tuned them, by
 * another reference perhaps, and nobody wrote it down. One string's gross reading is none; all of them are.
 */
function movedTogether(strings: readonly StringLife[], fits: readonly (LifeFit | undefined)[]): Moved[] {
  const far = strings
    .flatMap((_, index) =>
      (fits[index]?.told ?? []).flatMap(({ atMs, purpose, slip, stretched }): Moved[] => {
        const f = fits[index];
        const surprise = f && purpose === 'as-found' && !slip && !stretched ? surpriseAt(f, atMs) : undefined;
        if (!surprise || f!.moved.some((m) => m.atMs === atMs)) return [];
        const { innovationCents, varianceCents2 } = surprise;
        const beyond = innovationCents > 0 ? BEYOND.sharp : BEYOND.flat;
        const least = Math.max(MOVED_CENTS, beyond * Math.sqrt(varianceCents2));
        return Math.abs(innovationCents) < least ? [] : [{ index, atMs, surprise }];
      }),
    )
    .sort((a, b) => a.atMs - b.atMs);
  for (const { atMs } of far) {
    const walk = far.filter((o) => o.atMs >= atMs && o.atMs - atMs < WALK_MS);
    const each = walk.filter((o, k) => walk.findIndex((p) => p.index === o.index) === k);
    if (each.length < Math.max(FEWEST_MOVED, strings.length - 1)) continue;
    const cents = each.map((o) => o.surprise.innovationCents);
    const [low, high] = [Math.min(...cents), Math.max(...cents)];
    if (low * high > 0) return each;
  }
  return [];
}

function roomString(life: StringLife, prior: SettlingPrior): RoomString {
  const startMs = ageFromMs(life) ?? 0;
  const told = prior.steel ? tellingReadings(life) : [];
  const falls = totalFallSeries(told);
  return {
    prior,
    falls: told.map(({ atMs }, k) => ({
      atMin: atMs / MINUTE,
      ageMin: (atMs - startMs) / MINUTE,
      fallCents: falls[k]!,
    })),
  };
}

/** What hands raised a string by without a word up to a moment, cents: no part of its fall. */
export const raisedUnnoted = ({ moved }: Pick<LifeFit, 'moved'>, atMs = Infinity): number =>
  moved.reduce((sum, m) => (m.atMs <= atMs ? sum + m.surprise.innovationCents : sum), 0);

/** Surprise of a reading taken at atMs; undefined where the fit has none. */
export const surpriseAt = ({ surprises, moved }: LifeFit, atMs: number): Surprise | undefined =>
  moved.find((m) => m.atMs === atMs)?.surprise ?? surprises.get(atMs);

/** Time between the last two checks of a string that was read, or since its age began, min. */
export function lastIntervalMin({ readings }: StringLife, startMs: number): number {
  const last = readings[readings.length - 1]!;
  const before = readings.findLast((r) => last.atMs - r.atMs > MINUTE);
  return (last.atMs - (before?.atMs ?? startMs)) / MINUTE;
}

/**
 * When every string is to be read again, ms: counted from its own last reading, so that asking again moves nothing. One out of
 * tolerance is taken as brought to pitch. Undefined where nothing tells.
 */
export function nextChecks(
  strings: readonly StringLife[],
  rule: { toleranceCents: number; confidence: number },
  priors: Priors = {},
): (number | undefined)[] {
  return fitLives(strings, 'at the last reading', priors).map((f, i) => {
    const life = strings[i]!;
    const last = life.readings[life.readings.length - 1];
    if (!f || !last) return undefined;
    const { cents } = offsetNow(f.fit);
    const wait = nextCheckMin(f.fit, {
      toleranceCents: rule.toleranceCents,
      confidence: rule.confidence,
      offsetCents: Math.abs(cents) > rule.toleranceCents ? 0 : cents,
      lastIntervalMin: Math.max(SHORTEST_INTERVAL_MIN, lastIntervalMin(life, f.startMs)),
    });
    return last.atMs + wait * MINUTE;
  });
}
