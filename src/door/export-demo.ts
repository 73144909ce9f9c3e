import { accessSync, constants, lstatSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { makeDemonstration } from '../../demo/make';
import { writeLogFile } from '../core/exchange';
import { refused } from './lines';

/** `export-demo FILE`: writes the demonstration's log as JSON. */
export function exportDemo(path: string): object {
  try {
    // Only a plain file is written over: no folder, no device, no link to either.
    const there = lstatSync(path, { throwIfNoEntry: false });
    if (there && !there.isFile()) return refused('unwritable-file', 'There stands something that is no plain file.');
    // A place that cannot be written is told before the simulator has worked.
    accessSync(dirname(resolve(path)), constants.W_OK);
    const { records, startMs } = makeDemonstration();
    const beside = `${path}.${process.pid}.part`;
    try {
      writeFileSync(beside, writeLogFile(records, startMs), { flag: 'wx' });
      // What stood there before goes only when the new one is whole.
      renameSync(beside, path);
    } finally {
      rmSync(beside, { force: true });
    }
    return { ok: true, file: path, records: records.length };
  } catch (error) {
    return refused('unwritable-file', `The file could not be written (${(error as Error).message}).`);
  }
}
