import type { Bench, BreakPlace, InstrumentLife, ReadingRecord, RemovalReason, TreatmentRecord } from '../log';
import { HOUR, MINUTE, DAY } from '../base';
import { totalFallCents } from '../status';

/** One string that is or was on an instrument. */
export interface StringSet {
  stringId: string;
  note: string;
  /** When it was put on; null where nobody said. */
  strungMs: number | null;
  /** When it came off; null while it is on. */
  endedMs: number | null;
  fallCents: number | null;
  reason: RemovalReason | null;
  place: BreakPlace | null;
  readings: number;
}

/** Every string that an instrument has had, in the order of its strings, the newest first. */
export const setsOf = ({ strings }: InstrumentLife): StringSet[] =>
  strings.flatMap(({ plan: { stringId, note }, strungMs, readings, past, bare }) => {
    const present: StringSet[] = bare
      ? []
      : [
          {
            stringId,
            note,
            strungMs,
            endedMs: null,
            fallCents: totalFallCents(readings),
            reason: null,
            place: null,
            readings: readings.length,
          },
        ];
    const gone = past.map((p) => ({
      stringId,
      note,
      strungMs: p.strungMs,
      endedMs: p.endedMs,
      fallCents: totalFallCents(p.readings),
      reason: p.reason,
      place: p.place,
      readings: p.readings.length,
    }));
    return [...present, ...gone.reverse()];
  });

/** A string as it was found and as it was left, in the last walk to it. */
export interface FoundAndLeft {
  stringId: string;
  note: string;
  /** No string is on. */
  bare: boolean;
  found: ReadingRecord | undefined;
  left: ReadingRecord | undefined;
}

/** Readings that are of no pass are of one walk where no more than this lies between two of them, ms (house). */
const WALK_GAP_MS = HOUR;

/** The readings of the last walk: of one pass, on one device; those of none as they follow one another. In order of time. */
function lastWalk({ strings }: InstrumentLife): ReadingRecord[] {
  const all = strings.flatMap((s) => s.readings).sort((a, b) => a.atMs - b.atMs);
  const last = all.at(-1);
  const own = all.filter((r) => r.passId === last?.passId);
  if (last?.passId !== undefined) return own;
  const first = own.findLastIndex((r, i) => i > 0 && r.atMs - own[i - 1]!.atMs > WALK_GAP_MS);
  return own.slice(Math.max(0, first));
}

/** The last walk: each string as it was first found in it, and as it was last left; in the order of the strings. */
export function foundAndLeft(life: InstrumentLife): FoundAndLeft[] {
  const walk = lastWalk(life);
  return life.strings.map(({ plan: { stringId, note }, bare }) => {
    const own = walk.filter((r) => r.stringId === stringId);
    return {
      stringId,
      note,
      bare,
      found: own.find((r) => r.purpose === 'as-found'),
      left: own.findLast((r) => r.purpose === 'as-left'),
    };
  });
}

/** What was done to strings, and how fast they fell in the hours before and after it, cents an hour; null where too little was read. */
export interface Treated {
  record: TreatmentRecord;
  before: number | null;
  after: number | null;
}

/** Falls are looked at so long before and after a treatment, and need this span, ms (house). */
const AROUND_MS = DAY;
const SPAN_MS = 10 * MINUTE;

/** Treatments of an instrument, the newest first, with what came of them. */
export function treatmentsOf({ record: { instrumentId }, strings }: InstrumentLife, bench: Bench): Treated[] {
  return bench.treatments
    .filter((t) => t.instrumentId === instrumentId)
    .map((record): Treated => {
      const own = strings.filter((s) => record.stringIds.includes(s.plan.stringId));
      const rate = (fromMs: number, toMs: number) => {
        const rates = own.flatMap(({ readings }) => rateOf(readings.filter((r) => r.atMs >= fromMs && r.atMs <= toMs)));
        return rates.length > 0 ? rates.reduce((a, b) => a + b, 0) / rates.length : null;
      };
      const { atMs } = record;
      return { record, before: rate(atMs - AROUND_MS, atMs), after: rate(atMs, atMs + AROUND_MS) };
    })
    .reverse();
}

/** Cents an hour that a string falls over some readings, flat positive; none over too short a time. */
function rateOf(readings: readonly ReadingRecord[]): number[] {
  const [first, last] = [readings[0], readings.at(-1)];
  const fall = totalFallCents([...readings]);
  if (!first || !last || fall === null || last.atMs - first.atMs < SPAN_MS) return [];
  return [fall / ((last.atMs - first.atMs) / HOUR)];
}
