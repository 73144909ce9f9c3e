import { brief, FILE_TOO_LARGE, LARGEST_FILE, MOST_RECORDS, nestedTooDeep } from '../limits';
import { checkRecord, keyOf, withBytes, type LogRecord } from '../log';

/** The whole log as one file; see docs/formats.md. */
export interface LogFile {
  format: 'slow-anchor-log/1';
  exportedMs: number;
  records: LogRecord[];
}

/** @param setAside what of the log could not be read: it goes along, for whoever can */
export function writeLogFile(
  records: readonly LogRecord[],
  exportedMs: number,
  setAside: readonly unknown[] = [],
): string {
  const sorted = [...records].sort((a, b) => a.atMs - b.atMs || (a.id < b.id ? -1 : 1));
  const head = JSON.stringify({ format: 'slow-anchor-log/1', exportedMs } satisfies Omit<LogFile, 'records'>);
  // A record a line: a third shorter than set out in full, and two logs can still be compared line by line.
  const lines = sorted.map((r) => JSON.stringify(r)).join(',\n');
  const aside = setAside.length > 0 ? `,"setAside":${JSON.stringify(setAside, withBytes)}` : '';
  return `${head.slice(0, -1)},"records":[\n${lines}\n]${aside}}\n`;
}

export type LogFileOutcome = { ok: true; records: LogRecord[] } | { ok: false; message: string };

/** Records checked between two words of progress. */
const SLICE = 500;

/**
 * Reads a log file of unknown origin, whole, before anything is written; the message tells the first fault and its place. Yields
 * how far it is, 0 to 1, so that long files can be shown, and called off.
 */
export function* logFileReader(text: string): Generator<number, LogFileOutcome, void> {
  const fault = (message: string): LogFileOutcome => ({
    ok: false,
    message: `${brief(message)} Nothing was imported.`,
  });
  if (text.length > LARGEST_FILE) return fault(FILE_TOO_LARGE);
  if (nestedTooDeep(text)) return fault('The file is nested deeper than any log.');
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch (error) {
    return fault(`The file is no JSON: ${(error as Error).message}.`);
  }
  const file = data as Partial<LogFile> | null;
  const version = /^slow-anchor-log\/(\d+)$/.exec(String(file?.format))?.[1];
  if (Number(version) > 1)
    return fault('This log was written by a newer version of Slow Anchor: it has to be read by that.');
  if (typeof file !== 'object' || file === null || file.format !== 'slow-anchor-log/1') {
    return fault('The file does not say "format": "slow-anchor-log/1".');
  }
  if (!Array.isArray(file.records)) return fault('The file has no list of records.');
  if (file.records.length > MOST_RECORDS) return fault(`The file has more than ${MOST_RECORDS} records.`);
  const records: LogRecord[] = [];
  /** Of one instrument no two records have one id: two instruments' once had, in logs of others that were brought together. */
  const seen = new Set<string>();
  for (const [i, value] of file.records.entries()) {
    if (i % SLICE === SLICE - 1) yield i / file.records.length;
    const checked = checkRecord(value);
    if (!checked.ok) return fault(`Record ${i + 1} ${checked.message}.`);
    const key = keyOf(checked.record);
    if (seen.has(key)) return fault(`Record ${i + 1} has the id of an earlier one (${checked.record.id}).`);
    seen.add(key);
    records.push(checked.record);
  }
  return { ok: true, records };
}

/** Reads a log file in one go. */
export function readLogFile(text: string): LogFileOutcome {
  const reader = logFileReader(text);
  let step = reader.next();
  while (!step.done) step = reader.next();
  return step.value;
}
