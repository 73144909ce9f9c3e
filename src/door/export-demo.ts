import { closeSync, openSync, renameSync, writeFileSync } from 'node:fs';
import { makeDemonstration } from '../../demo/make';
import { writeLogFile } from '../core/exchange';
import { refused } from './lines';

/** `export-demo FILE`: writes the demonstration's log as JSON. */
export function exportDemo(path: string): object {
  try {
    // Opened first: a place that cannot be written is told before the simulator has worked.
    const beside = `${path}.${process.pid}.part`;
    const file = openSync(beside, 'wx');
    const { records, startMs } = makeDemonstration();
    writeFileSync(file, writeLogFile(records, startMs));
    closeSync(file);
    // What stood there before goes only when the new one is whole.
    renameSync(beside, path);
    return { ok: true, file: path, records: records.length };
  } catch (error) {
    return refused('unwritable-file', `The file could not be written (${(error as Error).message}).`);
  }
}
