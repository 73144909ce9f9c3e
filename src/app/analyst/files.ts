import type { WavOutcome } from '../../core/exchange';
import { FILE_TOO_LARGE, LARGEST_FILE, LARGEST_WAV } from '../../core/limits';
import { describedIn, GENERAL, groupBy, partOf, type Entries, type LogIndex, type LogRecord } from '../../core/log';
import type { Imported, Questions } from './questions';
import type { Task } from './task';

const exchange = () => import('../../core/exchange');

/** Checks a file in slices, so that it can be told how far it is and be called off; then writes it in one go. */
export async function importFile({ file }: Questions['import']['ask'], id: number, at: Task): Promise<Imported> {
  const target = at.store();
  if (!target) throw new Error('The log is not open.');
  const refuse = (message: string): Imported => ({ ok: false, message: `${message} Nothing was imported.` });
  if (file.size > LARGEST_FILE) return refuse(FILE_TOO_LARGE);
  const { logFileReader, readText } = await exchange();
  const said = await readText(file);
  if (!said.ok) return refuse(said.message);
  const reader = logFileReader(said.text);
  for (let step = reader.next(); ; step = reader.next()) {
    if (!step.done) {
      at.tell(id, step.value);
      await at.pause();
      if (at.isDropped(id)) return refuse('Cancelled.');
      continue;
    }
    const read = step.value;
    if (!read.ok) return read;
    const index = at.index();
    // One instrument after another: what is told in slices then changes one or two of them at a time.
    const fresh = [...groupBy(read.records, partOf).values()].flat().filter((r) => !index.has(r));
    const known = read.records.length - fresh.length;
    const there = new Set(describedIn(index.bench()).map((r) => r.instrumentId));
    for (const r of fresh) if (r.type === 'instrument') there.add(r.instrumentId);
    const strangers = fresh.filter((r) => r.type === 'reading' && !there.has(r.instrumentId)).length;
    let written: Entries;
    try {
      written = await target.append(fresh);
    } catch (error) {
      // Held here it would go with the page: the file is still where it was.
      target.forget();
      return refuse((error as Error).message);
    }
    // It may have been opened anew meanwhile.
    at.index().add(written.records, written.chapters);
    return { ok: true, fresh: fresh.length, known, about: namesOf(fresh, at.index()), strangers };
  }
}

/** The instruments that records are about, by name, those with the most first. */
function namesOf(records: readonly LogRecord[], index: LogIndex): string[] {
  const counts = new Map<string, number>();
  const names = new Map(index.bench().instruments.map((i) => [i.record.instrumentId, i.record.name]));
  for (const r of records) counts.set(partOf(r), (counts.get(partOf(r)) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1]).flatMap(([id]) => names.get(id) ?? []);
}

/** The sound of a WAV file. */
export async function soundOf(file: Blob): Promise<WavOutcome> {
  if (file.size > LARGEST_WAV) return { ok: false, message: 'The file is larger than 500 MB.' };
  const { readWav, UNREADABLE } = await exchange();
  try {
    return readWav(new Uint8Array(await file.arrayBuffer()));
  } catch (error) {
    if (error instanceof DOMException) return { ok: false, message: UNREADABLE };
    throw error;
  }
}

/** All of the log, or what is about one instrument, as a file. */
export async function exportLog(
  { as, nowMs, instrumentId }: Questions['export']['ask'],
  index: LogIndex,
): Promise<Blob> {
  const { readingsCsv, writeLogFile } = await exchange();
  const all = index.records(instrumentId);
  if (instrumentId !== undefined) {
    // What of it was taken back goes along.
    const ids = new Set(all.map((r) => r.id));
    all.push(...index.records(GENERAL).filter((r) => r.type === 'taken-back' && ids.has(r.supersedes)));
  }
  return as === 'json'
    ? new Blob([writeLogFile(all, nowMs)], { type: 'application/json' })
    : new Blob([readingsCsv(all)], { type: 'text/csv' });
}
