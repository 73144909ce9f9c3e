import { readLogFile } from '../core/exchange';
import { readBench, type LogRecord } from '../core/log';

/** A log export in a document: its own records, or the export under `log` or `export`. */
export const logIn = ({ log, export: exported, ...rest }: Record<string, unknown>) =>
  readLogFile(JSON.stringify(log ?? exported ?? rest));

/** The bench as it was at a moment: what was written later is not looked at. */
export function benchAt(records: readonly LogRecord[], nowMs: number) {
  const known = records.filter((r) => r.atMs <= nowMs);
  return { bench: readBench(known), zoneMin: known.at(-1)?.zoneMin ?? 0 };
}
