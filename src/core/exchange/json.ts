import { checkRecord, type LogRecord } from '../records';

/** The whole log as one file; see docs/formats.md. */
export interface LogFile {
  format: 'slow-anchor-log/1';
  exportedMs: number;
  records: LogRecord[];
}

export function writeLogFile(records: readonly LogRecord[], exportedMs: number): string {
  const sorted = [...records].sort((a, b) => a.atMs - b.atMs || (a.id < b.id ? -1 : 1));
  return JSON.stringify({ format: 'slow-anchor-log/1', exportedMs, records: sorted } satisfies LogFile, null, 1) + '\n';
}

export type LogFileOutcome = { ok: true; records: LogRecord[] } | { ok: false; message: string };

const LARGEST_BYTES = 200e6;
const LARGEST_RECORDS = 500000;

/** Reads a log file of unknown origin, whole, before anything is written; the message tells the first fault and its place. */
export function readLogFile(text: string): LogFileOutcome {
  const fault = (message: string): LogFileOutcome => ({ ok: false, message: `${message} Nothing was imported.` });
  if (text.length > LARGEST_BYTES) return fault('The file is larger than 200 MB.');
  let data: unknown;
  try {
    data = JSON.parse(text);
  } catch (error) {
    return fault(`The file is no JSON: ${(error as Error).message}.`);
  }
  const file = data as Partial<LogFile> | null;
  if (typeof file !== 'object' || file === null || file.format !== 'slow-anchor-log/1') {
    return fault('The file does not say "format": "slow-anchor-log/1".');
  }
  if (!Array.isArray(file.records)) return fault('The file has no list of records.');
  if (file.records.length > LARGEST_RECORDS) return fault(`The file has more than ${LARGEST_RECORDS} records.`);
  const records: LogRecord[] = [];
  const seen = new Set<string>();
  for (const [i, value] of file.records.entries()) {
    const checked = checkRecord(value);
    if (!checked.ok) return fault(`Record ${i + 1} ${checked.message}.`);
    if (seen.has(checked.record.id))
      return fault(`Record ${i + 1} has the id of an earlier one (${checked.record.id}).`);
    seen.add(checked.record.id);
    records.push(checked.record);
  }
  return { ok: true, records };
}

/** Records of an import that are not in the log yet, by id. */
export function newRecords(existing: readonly LogRecord[], imported: readonly LogRecord[]): LogRecord[] {
  const have = new Set(existing.map((r) => r.id));
  return imported.filter((r) => !have.has(r.id));
}
