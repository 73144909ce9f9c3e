import {
  chapterOf,
  idsOf,
  intoChapters,
  isChapter,
  keyOf,
  migrate,
  slices,
  type Chapter,
  type LogRecord,
} from '../../core/log';

/** A browser takes some 100 MB as one item: a long write is several, of so many records each (house). */
const ITEM_RECORDS = 20000;
const ITEM_CHAPTERS = 16;

/** What one write puts into the database, each made when its turn has come: packing takes its time. */
export type Items = (() => (LogRecord | Chapter)[] | Promise<Chapter[]>)[];

/** @param bound chapters as they are */
export function storedItems(records: readonly LogRecord[], bound: readonly Chapter[] = []): Items {
  const { loose, groups } = intoChapters(records);
  return [
    ...slices(loose, ITEM_RECORDS).map((some) => () => some),
    ...slices(groups, ITEM_CHAPTERS).map((some) => () => Promise.all(some.map(chapterOf))),
    ...slices(bound, ITEM_CHAPTERS).map((some) => () => some),
  ];
}

/** An item of the database, whatever wrote it: a list of records and chapters, and what is neither. @returns undefined where it is no list */
export function readItem(value: unknown): { records: LogRecord[]; chapters: Chapter[]; bad: unknown[] } | undefined {
  if (!Array.isArray(value)) return undefined;
  const item = { records: [] as LogRecord[], chapters: [] as Chapter[], bad: [] as unknown[] };
  for (const entry of value) {
    if (isChapter(entry)) {
      item.chapters.push(entry);
      continue;
    }
    const r = migrate(entry);
    if (isRecord(r)) item.records.push(r);
    else item.bad.push(r);
  }
  return item;
}

/** Which records a chapter has, as keyOf names them. */
export const keysOf = (c: Chapter): string[] => idsOf(c).map((id) => `${c.instrumentId}\n${id}`);

/** Which records an item has. */
export function keysIn(value: unknown): string[] {
  const { records = [], chapters = [] } = readItem(value) ?? {};
  return [...records.map(keyOf), ...chapters.flatMap(keysOf)];
}

/** Enough of a record to be read; whole records are checked when they come in. */
function isRecord(value: unknown): value is LogRecord {
  if (typeof value !== 'object' || value === null) return false;
  const { id, type, atMs, zoneMin } = value as Record<string, unknown>;
  return typeof id === 'string' && typeof type === 'string' && Number.isFinite(atMs) && Number.isFinite(zoneMin);
}
