import type { PastLife } from './past';
import type { LogRecord, ReadingRecord } from './records';

/** The order of records: of time, then of writing, then of id. */
export const byTime = (a: LogRecord, b: LogRecord) =>
  a.atMs - b.atMs || (a.written?.seq ?? -1) - (b.written?.seq ?? -1) || (a.id < b.id ? -1 : 1);

/** What was told of a string's readings, for when more of them come. */
export interface ToldReadings {
  /** All else that it rests on. */
  of: string;
  /** So many of its readings. */
  count: number;
  /** All of its place, against the target in force; those of the present string. */
  all: ReadingRecord[];
  present: ReadingRecord[];
  /** The strings that were there before. */
  past: PastLife[];
}

/** Records of an instrument that stand, by type, each in order; what comes later than all of them costs nothing but itself. */
export interface Sorted {
  of<T extends LogRecord['type']>(type: T): readonly Extract<LogRecord, { type: T }>[];
  /** Readings of one string's place. */
  readingsOf(stringId: string): readonly ReadingRecord[];
  /** Takes in what comes later than all that is there. @returns whether all of it does: else nothing is taken in */
  append(later: readonly LogRecord[]): boolean;
  told: Map<string, ToldReadings>;
}

/** @param records in order */
export function sortedOf(records: readonly LogRecord[]): Sorted {
  const byType = new Map<LogRecord['type'], LogRecord[]>();
  const readings = new Map<string, ReadingRecord[]>();
  let last: LogRecord | undefined;
  const into = <K, R>(groups: Map<K, R[]>, key: K, r: R) => {
    const group = groups.get(key);
    if (group) group.push(r);
    else groups.set(key, [r]);
  };
  const push = (r: LogRecord): void => {
    last = r;
    if (r.type === 'reading') into(readings, r.stringId, r);
    else into(byType, r.type, r);
  };
  for (const r of records) push(r);
  return {
    of: <T extends LogRecord['type']>(type: T) =>
      (type === 'reading' ? [...readings.values()].flat() : (byType.get(type) ?? [])) as Extract<
        LogRecord,
        { type: T }
      >[],
    readingsOf: (stringId) => readings.get(stringId) ?? [],
    append(later) {
      let before = last;
      const isLater = later.every((r) => {
        const isAfter = !before || byTime(before, r) < 0;
        before = r;
        return isAfter;
      });
      if (isLater) for (const r of later) push(r);
      return isLater;
    },
    told: new Map(),
  };
}
