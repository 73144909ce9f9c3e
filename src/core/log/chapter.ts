import { Inflate } from 'pako';
import { groupBy, slices } from './life';
import { runOf, type WriterRun } from './order';
import type { LogRecord, ReadingRecord } from './records';
import { migrate } from './migrate';

/**
 * Readings of one instrument, packed. They are nearly all of a long log and seldom wanted all at once: what a log says first is
 * known without them.
 */
export interface Chapter {
  chapter: 1;
  instrumentId: string;
  /** Their ids, a line each, a line's end before the first and after the last; and their times. */
  ids: string;
  atMs: Float64Array;
  /** When and by whom they were written, where that is known. */
  written: ({ by: string } & WriterRun)[];
  /** The readings as JSON, gzipped (RFC 1952). */
  packed: Uint8Array;
  /** How long that JSON is, bytes; missing in chapters from before. */
  bytes?: number;
}

/** A reading's JSON is no longer than this, bytes: one of two hundred partials has some 18 000. */
const LONGEST_READING = 24000;

/** Of so few readings no chapter is made, and of more than that more than one (house). */
const FEWEST = 300;
const MOST = 5000;

/**
 * What of many records makes chapters: readings that replace nothing, of instruments with many.
 * @returns what stays as it is, and each chapter's readings, of one instrument each
 */
export function intoChapters(records: readonly LogRecord[]): { loose: LogRecord[]; groups: ReadingRecord[][] } {
  const packs = (r: LogRecord): r is ReadingRecord => r.type === 'reading' && !r.supersedes;
  const byInstrument = groupBy(records.filter(packs), (r) => r.instrumentId);
  const groups: ReadingRecord[][] = [];
  const packed = new Set<string>();
  for (const [instrumentId, readings] of byInstrument) {
    if (readings.length < FEWEST) continue;
    packed.add(instrumentId);
    groups.push(...slices(readings, MOST));
  }
  return { loose: records.filter((r) => !packs(r) || !packed.has(r.instrumentId)), groups };
}

/** Packed by the platform: a sixth of the room that JSON takes, in a third of the time that a package took (measured). */
async function gzip(json: Blob): Promise<Uint8Array> {
  const packed = json.stream().pipeThrough(new CompressionStream('gzip'));
  return new Uint8Array(await new Response(packed).arrayBuffer());
}

/** @param readings of one instrument, one or more */
export async function chapterOf(readings: readonly ReadingRecord[]): Promise<Chapter> {
  const writers = groupBy(
    readings.flatMap((r) => r.written ?? []),
    (w) => w.by,
  );
  const json = new Blob([JSON.stringify(readings)]);
  return {
    chapter: 1,
    instrumentId: readings[0]!.instrumentId,
    atMs: Float64Array.from(readings, (r) => r.atMs),
    ids: `\n${readings.map((r) => r.id).join('\n')}\n`,
    written: [...writers].map(([by, all]) => ({ by, ...runOf(all) })),
    packed: await gzip(json),
    bytes: json.size,
  };
}

/** Unpacks text, its checksum and its length checked. @param most so many bytes and no more are unpacked. @throws Error */
function unzip(packed: Uint8Array, most: number): string {
  const inflate = new Inflate();
  const decoder = new TextDecoder('utf-8', { fatal: true });
  let text = '';
  let bytes = 0;
  inflate.onData = (some) => {
    bytes += (some as Uint8Array).length;
    if (bytes > most) throw new Error('longer than it says');
    text += decoder.decode(some as Uint8Array, { stream: true });
  };
  // What was cut off has no end; of what is bent the checksum is another.
  if (!inflate.push(packed, true)) throw new Error(inflate.msg || 'cut off');
  return text + decoder.decode();
}

/**
 * Its readings, brought up to the present version, as its head names them.
 * @throws Error where it was damaged since it was written: no figure of such a one is believed
 */
export function readingsOf(chapter: Chapter): ReadingRecord[] {
  const { packed, atMs, instrumentId, ids, bytes = Infinity } = chapter;
  const text = unzip(packed, Math.min(bytes, atMs.length * LONGEST_READING));
  const readings = (JSON.parse(text) as unknown[]).map((r) => migrate(r) as ReadingRecord);
  const named = idsOf(chapter);
  const same = (r: ReadingRecord, i: number) =>
    r.id === named[i] && r.atMs === atMs[i] && r.type === 'reading' && r.instrumentId === instrumentId;
  if (readings.length !== named.length || !ids.startsWith('\n') || !readings.every(same))
    throw new Error('what it holds is not what it names');
  return readings;
}

/** JSON knows no bytes: they are written as lists of numbers. @example JSON.stringify(chapter, withBytes) */
export const withBytes = (_: string, value: unknown): unknown =>
  ArrayBuffer.isView(value) ? Array.from(value as Uint8Array) : value;

/** Whether a record is in it, by its id. */
export const chapterHas = ({ ids }: Chapter, id: string): boolean => ids.includes(`\n${id}\n`);

/** The ids of its records. */
export const idsOf = ({ ids }: Chapter): string[] => ids.slice(1, -1).split('\n');

/** The time of its newest reading. */
export const newestMs = ({ atMs }: Chapter): number => atMs.reduce((a, b) => Math.max(a, b), -Infinity);

/** Enough of a chapter to be read. */
export function isChapter(value: unknown): value is Chapter {
  if (typeof value !== 'object' || value === null || !('chapter' in value) || value.chapter !== 1) return false;
  const { instrumentId, atMs, ids, written, packed } = value as Record<string, unknown>;
  return (
    typeof instrumentId === 'string' &&
    ArrayBuffer.isView(atMs) &&
    typeof ids === 'string' &&
    Array.isArray(written) &&
    ArrayBuffer.isView(packed)
  );
}
