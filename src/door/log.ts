import { isZone } from '../core/base';
import { readLogFile } from '../core/exchange';
import { readBench, type LogRecord } from '../core/log';

/** A log export in a document: its own records, or the export under `log` or `export`. */
export const logIn = ({ log, export: exported, ...rest }: Record<string, unknown>) =>
  readLogFile(JSON.stringify(log ?? exported ?? rest));

/** The name of a time zone that was given; undefined where none was, or none that is known. */
const zoneIn = (zone: unknown): string | undefined => (typeof zone === 'string' && isZone(zone) ? zone : undefined);

/** Is that a time zone, or nothing? */
export const isNoZone = (zone: unknown): boolean => zone !== undefined && zoneIn(zone) === undefined;

/** The bench as it was at a moment: what was written later is not looked at. */
export function benchAt(records: readonly LogRecord[], nowMs: number, zone: unknown) {
  const known = records.filter((r) => r.atMs <= nowMs);
  return { bench: readBench(known), zone: zoneIn(zone) ?? known.at(-1)?.zoneMin ?? 0 };
}
