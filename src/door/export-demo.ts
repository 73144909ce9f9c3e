import { closeSync, openSync, writeFileSync } from 'node:fs';
import { makeDemonstration } from '../../demo/make';
import { writeLogFile } from '../core/exchange';
import { refused } from './lines';

/** `export-demo FILE`: writes the demonstration's log as JSON. */
export function exportDemo(path: string): object {
  try {
    // Opened first: a place that cannot be written is told before the simulator has worked.
    const file = openSync(path, 'w');
    const { records, startMs } = makeDemonstration();
    writeFileSync(file, writeLogFile(records, startMs));
    closeSync(file);
    return { ok: true, file: path, records: records.length };
  } catch (error) {
    return refused('unwritable-file', `The file could not be written (${(error as Error).message}).`);
  }
}
