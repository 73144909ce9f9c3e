import { chapterHas, idsOf, readingsOf, type Chapter } from './chapter';
import type { InstrumentLife, StringLife } from './life';
import type { Sorted } from './sorted';
import type { InstrumentRecord, LogRecord, ReadingRecord } from './records';

/** Records about one instrument, or about none in particular. */
export interface Part {
  /** Those in no chapter, by id. */
  loose: Map<string, LogRecord>;
  types: Set<LogRecord['type']>;
  chapters: Chapter[];
  /** The ids in its chapters, and their readings, where they were wanted. */
  ids: Set<string> | undefined;
  readings: Map<string, ReadingRecord> | undefined;
  /** The loose ones, and all with those in chapters, in order, as far as they stand; undefined where that is to be found out. */
  live: Sorted | undefined;
  whole: Sorted | undefined;
  /** Loose ones that came since. */
  late: LogRecord[];
  /** What is told of it is told of all that it has. */
  fresh: boolean;
  /** What is told of its strings, where that was wanted; and what was told before something came. */
  told: { strings: StringLife[] | undefined };
  before: StringLife[] | undefined;
  life: InstrumentLife | undefined;
  away: InstrumentRecord | undefined;
  /** Its first description. */
  born: InstrumentRecord | undefined;
  strungMs: number;
}

/** The chapters of so many instruments stay unpacked, those that were wanted last (house). */
const MOST_OPEN = 40;
/** What belongs to no instrument. */
export const GENERAL = '';
/** The instrument that a record is about; '' where it is about none in particular. */
export const partOf = (r: LogRecord): string => ('instrumentId' in r ? r.instrumentId : GENERAL);

/** Which record it is: logs of others may have one id for two instruments. */
export const keyOf = (r: LogRecord): string => `${partOf(r)}\n${r.id}`;

/** Something of it is another: it is told anew. */
export function stale(p: Part): void {
  p.before = p.told.strings ?? p.before;
  p.fresh = false;
}

/** What of it stands, or when it was, is another: all of it is told anew. */
export function unsorted(p: Part): void {
  p.live = p.whole = undefined;
  p.late = [];
  stale(p);
}

/** The records of a log by what they are about; chapters are unpacked when they are wanted. */
export interface Shelf {
  parts: Map<string, Part>;
  part(key: string): Part;
  /** A record in no chapter is put there. @returns whether it is new */
  put(record: LogRecord): boolean;
  /** A chapter is put there; what it has is loose no longer. @returns whether it says something new */
  bind(chapter: Chapter): boolean;
  has(record: LogRecord): boolean;
  count(): number;
  /** A record in no chapter. */
  loose(id: string): LogRecord | undefined;
  get(id: string, likely: string): LogRecord | undefined;
  /** The part that an id is in, most likely this one; nothing is unpacked for that. */
  partWith(id: string, likely: Part): Part | undefined;
  /** Chapters that proved damaged when they were opened. */
  aside(): readonly Chapter[];
  /** Its packed readings; those of parts that were not wanted for longest are let go. */
  readingsIn(part: Part): ReadingRecord[];
  pieces(instrumentId?: string): Generator<readonly LogRecord[]>;
  headings(instrumentId?: string): Generator<readonly Heading[]>;
}

/** What and when a record is. */
export interface Heading {
  id: string;
  type: LogRecord['type'];
  atMs: number;
  /** The instrument that it is about. */
  of: string;
}
/** What is known of a record without reading it. */
export const headingOf = (r: LogRecord): Heading => ({ id: r.id, type: r.type, atMs: r.atMs, of: partOf(r) });

/** @param onAside called back when a chapter proves damaged */
export function createShelf(onAside: (chapter: Chapter) => void): Shelf {
  const aside: Chapter[] = [];
  /** Loose records by id; where two instruments have one of the same id, as logs of others once could, the first. */
  const byId = new Map<string, LogRecord>();
  const parts = new Map<string, Part>();
  /** Parts whose chapters are unpacked, in the order in which they were wanted last. */
  const open = new Set<Part>();

  const part = (key: string): Part => {
    const known = parts.get(key);
    if (known) return known;
    const fresh: Part = {
      loose: new Map(),
      types: new Set(),
      chapters: [],
      ids: undefined,
      readings: undefined,
      live: undefined,
      whole: undefined,
      late: [],
      fresh: false,
      told: { strings: undefined },
      before: undefined,
      life: undefined,
      away: undefined,
      born: undefined,
      strungMs: 0,
    };
    parts.set(key, fresh);
    return fresh;
  };
  const idsIn = (p: Part): Set<string> => (p.ids ??= new Set(p.chapters.flatMap(idsOf)));
  const unpacked = (p: Part): Map<string, ReadingRecord> => {
    open.delete(p);
    open.add(p);
    const [oldest] = open;
    if (oldest && open.size > MOST_OPEN) {
      open.delete(oldest);
      oldest.readings = oldest.whole = oldest.before = oldest.told.strings = undefined;
    }
    if (p.readings) return p.readings;
    const readings = new Map<string, ReadingRecord>();
    for (const c of [...p.chapters])
      try {
        for (const r of readingsOf(c)) readings.set(r.id, r);
      } catch {
        // No figure of it is believed; everything else goes on.
        p.chapters = p.chapters.filter((o) => o !== c);
        p.ids = p.whole = undefined;
        aside.push(c);
        onAside(c);
      }
    return (p.readings = readings);
  };
  const shelf: Shelf = {
    parts,
    part,
    put(r) {
      if (shelf.has(r)) return false;
      const p = part(partOf(r));
      if (!byId.has(r.id)) byId.set(r.id, r);
      p.loose.set(r.id, r);
      p.types.add(r.type);
      p.late.push(r);
      stale(p);
      return true;
    },
    bind(c) {
      const p = part(c.instrumentId);
      const all = idsOf(c);
      // A chapter of which the first is new says something new: all of them are seldom asked.
      if (p.chapters.some((o) => chapterHas(o, all[0]!)) && all.every((id) => idsIn(p).has(id))) return false;
      p.chapters.push(c);
      p.ids = p.readings = undefined;
      if (p.types.has('reading'))
        for (const id of idsIn(p)) {
          if (p.loose.has(id) && byId.get(id) === p.loose.get(id)) byId.delete(id);
          p.loose.delete(id);
        }
      unsorted(p);
      return true;
    },
    has(r) {
      const p = parts.get(partOf(r));
      return p !== undefined && (p.loose.has(r.id) || (p.chapters.length > 0 && idsIn(p).has(r.id)));
    },
    count: () =>
      [...parts.values()].reduce(
        (sum, p) => sum + p.loose.size + (p.chapters.length > 1 ? idsIn(p).size : (p.chapters[0]?.atMs.length ?? 0)),
        0,
      ),
    aside: () => aside,
    loose: (id) => byId.get(id),
    get(id, likely) {
      const loose = parts.get(likely)?.loose.get(id) ?? byId.get(id);
      const p = loose ? undefined : shelf.partWith(id, part(likely));
      return p ? unpacked(p).get(id) : loose;
    },
    partWith(id, likely) {
      const loose = likely.loose.get(id) ?? byId.get(id);
      if (loose) return part(partOf(loose));
      if (likely.chapters.length > 0 && idsIn(likely).has(id)) return likely;
      return [...parts.values()].find((p) => p.chapters.some((c) => chapterHas(c, id)));
    },
    readingsIn: (p) => (p.chapters.length === 0 ? [] : [...unpacked(p).values()]),
    *pieces(instrumentId) {
      const of = instrumentId === undefined ? [...parts.values()] : [part(instrumentId)];
      yield of.flatMap((p) => [...p.loose.values()]);
      for (const p of of) if (p.chapters.length > 0) yield shelf.readingsIn(p);
    },
    *headings(instrumentId) {
      const of = instrumentId === undefined ? [...parts] : [[instrumentId, part(instrumentId)] as const];
      yield of.flatMap(([, p]) => [...p.loose.values()].map(headingOf));
      for (const [key, p] of of) {
        const at = new Map(p.chapters.flatMap((c) => idsOf(c).map((id, i) => [id, c.atMs[i]!] as const)));
        yield [...at].map(([id, atMs]) => ({ id, type: 'reading', atMs, of: key }));
      }
    },
  };
  return shelf;
}
