import { cents, stringTargetHz } from '../music';
import { pastLives, type PastLife } from './past';
import { byTime, type Sorted, type ToldReadings } from './sorted';
import { createSuccession, stands } from './succession';
import type {
  AboutRecord,
  FittedRecord,
  InstrumentRecord,
  LogRecord,
  ReadingRecord,
  RemovedRecord,
  RoundRecord,
  SessionRecord,
  StringPlan,
  TreatmentRecord,
  TunerRecord,
  TuningRecord,
} from './records';
import { MINUTE } from '../base';

/** Records that stand, in their order. */
export function standing(records: readonly LogRecord[]): LogRecord[] {
  const succession = createSuccession();
  succession.note(records);
  return records.filter((r) => stands(r, succession)).sort(byTime);
}

/** One string with what the log says of it. */
export interface StringLife {
  plan: StringPlan;
  /** When the present string was put on; null when nobody said. */
  strungMs: number | null;
  /** Readings of the present string, oldest first. */
  readings: ReadingRecord[];
  /** Stretch rounds and treatments of the present string, oldest first. */
  rounds: RoundRecord[];
  treatments: TreatmentRecord[];
  /** When the present string was played, beside what was noted: shows. */
  shows?: PlayedShow[];
  /** Turns round the post, where they were counted. */
  windings: number | null;
  /** It was taken off and nothing put on since. */
  bare: boolean;
  /** What is known of its tuner. */
  tuner?: TunerRecord | undefined;
  /** The strings that were here before, oldest first. */
  past: PastLife[];
}

/** Music that was made on an instrument. */
export interface PlayedShow {
  atMs: number;
  minutes: number;
}

/** Shows that have been, as they were in force when their curtain rose: one that was put off before never was. */
export const showsOf = (
  sessions: readonly SessionRecord[],
  latestMs: number,
): (PlayedShow & { instrumentId: string })[] =>
  sessions
    .filter((s, i) => s.curtainMs < Math.min(latestMs, sessions[i + 1]?.atMs ?? Infinity))
    .flatMap(({ curtainMs, minutes, instrumentIds, plays = [] }) =>
      instrumentIds.map((instrumentId) => {
        const { fromMin, toMin } = plays.find((p) => p.instrumentId === instrumentId) ?? { fromMin: 0, toMin: minutes };
        return { instrumentId, atMs: curtainMs + fromMin * MINUTE, minutes: toMin - fromMin };
      }),
    );

export interface InstrumentLife {
  /** As its owner describes it; the strings' own notes. */
  record: InstrumentRecord;
  /** As they are tuned now; of a long log made when they are first wanted. */
  readonly strings: StringLife[];
  /** Strings that it had once, as they were last; where there are any. */
  former?: StringPlan[];
  /** Whose it is, where it is, what it goes with; where anybody said. */
  about?: AboutRecord;
  /** The tuning in force, where it is not the strings' own notes in equal temperament. */
  tuning?: TuningRecord;
}

/** The last of a list; undefined of an empty one. */
export const last = <T>(list: readonly T[]): T | undefined => list[list.length - 1];

/**
 * One instrument as its own standing records tell it, oldest first.
 * @param named how it was described, from its beginning to now; at least once
 * @param live its standing records, those among them; its readings need not be
 * @param strings what they say of its strings
 */
export function lifeOf(named: readonly InstrumentRecord[], live: Sorted, strings: () => StringLife[]): InstrumentLife {
  const record = named[named.length - 1]!;
  const about = last(live.of('about'));
  const tuning = inForce(named, live.of('tuning'));
  const known = new Map(named.flatMap((r) => r.strings).map((s) => [s.stringId, s]));
  for (const { stringId } of record.strings) known.delete(stringId);
  return {
    record,
    get strings() {
      return strings();
    },
    ...(known.size > 0 ? { former: [...known.values()] } : {}),
    ...(about ? { about } : {}),
    ...(tuning ? { tuning } : {}),
  };
}

/** When the string at a place was put on, null when nobody said, and what of the records of its place is of that string. */
function presentAt(on: readonly FittedRecord[], off: readonly RemovedRecord[]) {
  const present = last(on);
  const gone = last(off);
  const strungMs = present && present.atMs >= (gone?.atMs ?? -Infinity) ? present.atMs : null;
  return { present, gone, strungMs, sinceMs: strungMs ?? gone?.atMs ?? -Infinity };
}

/** When the newest of an instrument's strings was put on, ms; 0 when nobody said. @param live its standing records */
export function newestStrungMs({ strings }: InstrumentRecord, live: Sorted): number {
  const at = <R extends { stringId: string }>(list: readonly R[], stringId: string) =>
    list.filter((r) => r.stringId === stringId);
  const [fitted, removed] = [live.of('fitted'), live.of('removed')];
  return Math.max(0, ...strings.map(({ stringId: s }) => presentAt(at(fitted, s), at(removed, s)).strungMs ?? 0));
}

/**
 * What an instrument's standing records, oldest first, say of its strings.
 * @param named how it was described, from its beginning to now; at least once
 * @param live its standing records, those among them
 * @param shows in which it was played
 * @param a4Hz the reference that offsets are reckoned against; each reading's own where nobody has set one
 */
export function stringLives(
  named: readonly InstrumentRecord[],
  live: Sorted,
  a4Hz: number | undefined,
  shows: readonly PlayedShow[] = [],
): StringLife[] {
  const record = named[named.length - 1]!;
  const key = (r: { stringId: string }) => r.stringId;
  const fitted = groupBy(live.of('fitted'), key);
  const removed = groupBy(live.of('removed'), key);
  const rounds = groupBy(live.of('round'), key);
  const treatments = live.of('treatment');
  const tuners = groupBy(live.of('tuner'), key);
  const tunings = live.of('tuning');
  const tuning = inForce(named, tunings);
  return record.strings.map((own): StringLife => {
    const place = own.stringId;
    const plan = tunedAs(own, tuning);
    const on = fitted.get(place) ?? [];
    const off = removed.get(place) ?? [];
    const { present, gone, strungMs, sinceMs } = presentAt(on, off);
    const since = <T extends LogRecord>(list: readonly T[]) => list.filter((r) => r.atMs >= sinceMs);
    // Called the same all along, and in one tuning: nothing has to be asked of each reading.
    const isSteady = tunings.length === 0 && named.every((n) => noteIn(n, place) === noteIn(record, place));
    const asNow = (r: ReadingRecord): ReadingRecord => {
      if (isSteady && (a4Hz ?? r.a4Hz) === r.a4Hz) return r;
      const tuningThen = tunings.length > 0 ? inForce(named, tunings, r.atMs) : undefined;
      const then = tunedAs({ ...own, note: noteAt(named, place, r.atMs) ?? own.note }, tuningThen);
      return against(r, then, plan, (tuning?.capo ?? 0) - (tuningThen?.capo ?? 0), a4Hz ?? r.a4Hz);
    };
    const all = live.readingsOf(place);
    const of = [sinceMs, on.length, off.length, named.length, tunings.length, a4Hz].join();
    const before = live.told.get(place);
    const known = before?.of === of ? before : { of, count: 0, all: [], present: [], past: undefined };
    const more = all.slice(known.count).map(asNow);
    const told: ToldReadings = {
      of,
      count: all.length,
      all: more.length === 0 ? known.all : [...known.all, ...more],
      present: more.length === 0 ? known.present : [...known.present, ...since(more)],
      // What comes later than all is of the string that is there.
      past: known.past ?? pastLives(on, off, more),
    };
    live.told.set(place, told);
    return {
      plan,
      strungMs,
      readings: told.present,
      rounds: since(rounds.get(place) ?? []),
      treatments: since(treatments).filter((t) => t.stringIds.includes(place)),
      ...(shows.some((s) => s.atMs >= sinceMs) ? { shows: shows.filter((s) => s.atMs >= sinceMs) } : {}),
      windings: (strungMs !== null && present?.windings) || null,
      bare: gone !== undefined && strungMs === null && told.present.length === 0,
      tuner: last(tuners.get(place) ?? []),
      past: told.past,
    };
  });
}

/** How a string was called at a time: as its instrument was described then, or first. */
const noteAt = (named: readonly InstrumentRecord[], stringId: string, atMs: number): string | undefined =>
  noteIn(named.findLast((r) => r.atMs <= atMs) ?? named[0]!, stringId);

const noteIn = ({ strings }: InstrumentRecord, stringId: string): string | undefined =>
  strings.find((s) => s.stringId === stringId)?.note;

/** A string as it was tuned at a time. @param live its instrument's standing records, oldest first; undefined where it had none */
export function planAt(live: Sorted, stringId: string, atMs: number): StringPlan | undefined {
  const named = live.of('instrument');
  const own = named.findLast((r) => r.strings.some((s) => s.stringId === stringId))?.strings;
  const plan = own?.find((s) => s.stringId === stringId);
  if (!plan) return undefined;
  const note = noteAt(named, stringId, atMs) ?? plan.note;
  return tunedAs({ ...plan, note }, inForce(named, live.of('tuning'), atMs));
}

/** Strings that nothing was read of keep their list of readings, and with it what was reckoned of them. */
export const asBefore = (strings: readonly StringLife[], before: readonly StringLife[] = []): StringLife[] =>
  strings.map((s) => {
    const old = before.find((b) => b.plan.stringId === s.plan.stringId)?.readings;
    const same = old === s.readings || (old?.length === s.readings.length && old.every((r, i) => r === s.readings[i]));
    return same ? { ...s, readings: old } : s;
  });

/** The tuning in force at a time: the last one, unless the instrument's own notes were edited after it. */
function inForce(
  named: readonly InstrumentRecord[],
  tunings: readonly TuningRecord[],
  atMs = Infinity,
): TuningRecord | undefined {
  const newest = tunings.findLast((t) => t.atMs <= atMs);
  const notes = (r: InstrumentRecord) => r.strings.map((s) => `${s.stringId} ${s.note}`).join();
  const edited = named.findLast((r, i) => i > 0 && r.atMs <= atMs && notes(r) !== notes(named[i - 1]!));
  return newest && newest.atMs >= (edited?.atMs ?? 0) ? newest : undefined;
}

/** A string as it is tuned: another note, an offset, and what a capo leaves of its length. */
function tunedAs(own: StringPlan, tuning: TuningRecord | undefined): StringPlan {
  const as = tuning?.strings.find((s) => s.stringId === own.stringId);
  if (!as) return own;
  const lengthMm = own.lengthMm * Math.pow(2, -(tuning?.capo ?? 0) / 12);
  return { ...own, note: as.note, lengthMm, ...(as.offsetCents === 0 ? {} : { offsetCents: as.offsetCents }) };
}

/**
 * A reading against the target in force, whatever it was read by: a changed reference or tuning is no drift.
 * @param frets how much higher a capo sits now than then
 */
function against(r: ReadingRecord, planThen: StringPlan, plan: StringPlan, frets: number, a4Hz: number): ReadingRecord {
  const [then, now] = [stringTargetHz(planThen, r.a4Hz), stringTargetHz(plan, a4Hz)];
  if (then === undefined || now === undefined || (then === now && frets === 0)) return r;
  const as = { ...r, a4Hz, targetHz: (r.targetHz * now) / then, cents: r.cents + cents(then, now) + 100 * frets };
  // Under another capo it is another length: only the figures compare.
  return frets === 0 ? as : { ...as, partials: [] };
}

/** A list in groups, each in its order. */
export function groupBy<T>(list: readonly T[], keyOf: (item: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const item of list) {
    const group = groups.get(keyOf(item));
    if (group) group.push(item);
    else groups.set(keyOf(item), [item]);
  }
  return groups;
}

/** A list in pieces of so many. */
export const slices = <T>(list: readonly T[], length: number): T[][] =>
  Array.from({ length: Math.ceil(list.length / length) }, (_, i) => list.slice(i * length, (i + 1) * length));
