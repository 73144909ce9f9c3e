import type { LogFileOutcome, WavOutcome } from '../../core/exchange';
import { FILE_TOO_LARGE, LARGEST_FILE, LARGEST_WAV } from '../../core/limits';
import { clockTime } from '../../core/base';
import {
  describedIn,
  distinct,
  GENERAL,
  groupBy,
  merge,
  namesIn,
  partOf,
  RECORD_VERSION,
  sayRecord,
  type LogEntries,
  type LogIndex,
  type LogRecord,
} from '../../core/log';
import type { Exported, Imported, LookedAt, Questions } from './questions';
import type { LongTask } from './task';

const exchange = () => import('../../core/exchange');

/** Checks a file in slices, so that it can be told how far it is and be called off; then writes what is new in one go. */
export async function importFile(
  { file, as }: Questions['import']['ask'],
  id: number,
  at: LongTask,
): Promise<Imported> {
  const read = await readSliced(file, id, at);
  if (!read.ok) return read;
  let became: Imported = refused('Cancelled.');
  // Of two files at once the second is compared with the first.
  await at.alone(async () => {
    const { index, store } = at.log();
    const merged = await inSlices(merge(index, read.records), READING_SHARE, 1 - READING_SHARE, id, at);
    if (!merged) return;
    const { known } = merged;
    // One instrument after another: what is told in slices then changes one or two of them at a time.
    const fresh = [...groupBy(merged.fresh, partOf).values()].flat();
    const there = new Set(describedIn(index.bench()).map((r) => r.instrumentId));
    for (const r of fresh) if (r.type === 'instrument') there.add(r.instrumentId);
    const strangers = fresh.filter((r) => r.type === 'reading' && !there.has(r.instrumentId)).length;
    let written: LogEntries;
    try {
      written = await store.append([...fresh, ...entryOf(fresh, as, index)]);
    } catch (error) {
      // Held here it would go with the page: the file is still where it was.
      store.forget();
      became = refused((error as Error).message);
      return;
    }
    // It may have been opened anew meanwhile.
    const { index: now } = at.log();
    now.add(written.records, written.chapters);
    const replaced = new Set(known.flatMap((r) => r.supersedes ?? []));
    became = {
      ok: true,
      fresh: fresh.length,
      known: known.length,
      gone: known.filter((r) => now.isGone(r.id) && !replaced.has(r.id)).length,
      about: namesOf(fresh, now),
      strangers,
      differ: differing(fresh, now),
    };
  });
  return became;
}

/** What is in a file, and how much of it is not in the log. */
export async function lookAt({ file }: Questions['look']['ask'], id: number, at: LongTask): Promise<LookedAt> {
  const read = await readSliced(file, id, at);
  if (!read.ok) return read;
  const merged = await inSlices(merge(at.log().index, read.records), READING_SHARE, 1 - READING_SHARE, id, at);
  return merged
    ? { ok: true, records: read.records.length, missing: merged.fresh.length }
    : { ok: false, message: 'Cancelled.' };
}

const refused = (message: string) => ({ ok: false, message: `${message} Nothing was imported.` }) as const;

/** The records of a file, checked in slices. */
async function readSliced(file: Blob, id: number, at: LongTask): Promise<LogFileOutcome> {
  if (file.size > LARGEST_FILE) return refused(FILE_TOO_LARGE);
  const { logFileReader, readText } = await exchange();
  const said = await readText(file);
  if (!said.ok) return refused(said.message);
  return (await inSlices(logFileReader(said.text), 0, READING_SHARE, id, at)) ?? refused('Cancelled.');
}

/**
 * What a work in slices comes to; undefined where it was called off.
 * @param from how much of the whole was done before, 0 to 1; `share`: how much it is
 */
async function inSlices<T>(
  steps: Generator<number, T, void>,
  from: number,
  share: number,
  id: number,
  at: LongTask,
): Promise<T | undefined> {
  for (let step = steps.next(); ; step = steps.next()) {
    if (step.done) return step.value;
    at.tell(id, from + share * step.value);
    await at.pause();
    if (at.isDropped(id)) return undefined;
  }
}

/** Reading and checking take so much of the time; comparing takes the rest (measured). */
const READING_SHARE = 0.8;

/** What is said of an import in the log; of one that brought nothing but words of other imports nothing is. */
function entryOf(fresh: readonly LogRecord[], as: Questions['import']['ask']['as'], index: LogIndex): LogRecord[] {
  if (fresh.every((r) => r.type === 'import')) return [];
  const { file, id, by, atMs, zoneMin } = as;
  const newest = fresh.reduce((most, r) => Math.max(most, r.written?.seq ?? 0), index.nextSeq() - 1);
  const written = { by, seq: newest + 1, atMs };
  const ids = fresh.map((r) => r.id).join('\n');
  return [{ type: 'import', id, version: RECORD_VERSION, atMs, zoneMin, written, file, ids }];
}

/** What came that was corrected otherwise here: which entries, in words. */
function differing(fresh: readonly LogRecord[], index: LogIndex): string[] {
  const came = new Set(fresh.map((r) => r.id));
  const names = namesIn(describedIn(index.bench()), index.get);
  return index
    .contests()
    .filter(({ stands, others }) => [stands, ...others].some((r) => came.has(r.id)))
    .map(({ stands, others: [other] }) => {
      const r = 'stringId' in stands || !other ? stands : other;
      const time = clockTime(r.atMs, r.zoneMin);
      if (r.type === 'reading') return `${names.string(r.instrumentId, r.stringId)}, ${time}`;
      return `${sayRecord(r, names)}, ${time}`;
    });
}

/** The instruments that records are about, by name, those with the most first. */
function namesOf(records: readonly LogRecord[], index: LogIndex): string[] {
  const counts = new Map<string, number>();
  const names = new Map(index.bench().instruments.map((i) => [i.record.instrumentId, i.record.name]));
  for (const r of records) counts.set(partOf(r), (counts.get(partOf(r)) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1]).flatMap(([id]) => names.get(id) ?? []);
}

/** The sound of a WAV file. */
export async function fileSound(file: Blob): Promise<WavOutcome> {
  if (file.size > LARGEST_WAV) return { ok: false, message: 'The file is larger than 500 MB.' };
  const { readWav, UNREADABLE } = await exchange();
  try {
    return readWav(new Uint8Array(await file.arrayBuffer()));
  } catch (error) {
    if (error instanceof DOMException) return { ok: false, message: UNREADABLE };
    throw error;
  }
}

/** All of the log, or what is about one instrument, as a file; how many entries are in it. @param setAside goes along with all of it */
export async function exportLog(
  { as, nowMs, instrumentId }: Questions['export']['ask'],
  index: LogIndex,
  setAside: readonly unknown[],
): Promise<Exported> {
  const { readingsCsv, writeLogFile } = await exchange();
  const all = index.records(instrumentId);
  if (instrumentId !== undefined) {
    // What of it was taken back goes along.
    const ids = new Set(all.map((r) => r.id));
    all.push(...index.records(GENERAL).filter((r) => r.type === 'taken-back' && ids.has(r.supersedes)));
  }
  const records = distinct(all);
  // A chapter proves damaged when it is opened.
  const aside = instrumentId === undefined ? [...setAside, ...index.aside()] : [];
  const file =
    as === 'json'
      ? new Blob([writeLogFile(records, nowMs, aside)], { type: 'application/json' })
      : new Blob([readingsCsv(records)], { type: 'text/csv' });
  return { file, records: records.length };
}
