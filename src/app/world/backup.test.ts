/** Backups in a folder: beside what is there, and never one for another that has more. */
import 'fake-indexeddb/auto';
import { analyst } from '../../../testing/analyst';
import { ALL_SAMPLES, SAMPLES } from '../../../testing/samples';
import { generationOf, readLogFile, writeLogFile } from '../../core/exchange';
import type { LogRecord } from '../../core/log';
import { writeInto } from './backup';
import { DAY, HOUR } from '../../core/base';

const AT = Date.UTC(2026, 5, 12, 12);

/** A folder in memory; a write that is cut off leaves what was there. @param moves whether files can be renamed */
function folder(moves: boolean) {
  const files = new Map<string, Blob>();
  let cut = false;
  const handle = (name: string) => ({
    createWritable: () => {
      const parts: Blob[] = [];
      return Promise.resolve({
        write: (blob: Blob) => (parts.push(blob), Promise.resolve()),
        close: () =>
          cut ? Promise.reject(new Error('The disk is full.')) : Promise.resolve(files.set(name, new Blob(parts))),
      });
    },
    getFile: () => Promise.resolve(files.get(name)!),
    ...(moves
      ? {
          move: (to: string) => {
            files.set(to, files.get(name)!);
            files.delete(name);
            return Promise.resolve();
          },
        }
      : {}),
  });
  const here = {
    getFileHandle: (name: string, { create = false } = {}) => {
      if (create && !files.has(name)) files.set(name, new Blob());
      return Promise.resolve(handle(name));
    },
    removeEntry: (name: string) => Promise.resolve(files.delete(name)),
    keys: async function* () {
      yield* [...files.keys()];
    },
  };
  return { files, here: here as unknown as FileSystemDirectoryHandle, cutOff: () => (cut = true) };
}
const recordsIn = async (blob: Blob): Promise<readonly LogRecord[]> => {
  const read = readLogFile(await blob.text());
  return read.ok ? read.records : [];
};

test.each([true, false])(
  'where files can be renamed: %s. The one that is there stays until the next is whole',
  async (moves) => {
    const { files, here, cutOff } = folder(moves);
    const { asked, ready } = analyst(ALL_SAMPLES);
    await ready;
    const made = await asked.ask('export', { as: 'json', nowMs: 1 });
    const at = { world: 'own', zone: 0 } as const;
    await writeInto(here, made, { ...at, atMs: AT }, asked.ask);
    // An hour later the first of the day is needless.
    await writeInto(here, made, { ...at, atMs: AT + HOUR }, asked.ask);
    expect([...files.keys()].map((n) => generationOf(n)?.time)).toEqual(['1300']);
    expect(await recordsIn([...files.values()][0]!)).toHaveLength(ALL_SAMPLES.length);
    cutOff();
    await expect(writeInto(here, made, { ...at, atMs: AT + DAY }, asked.ask)).rejects.toThrow('The disk is full.');
    const whole = [...files].filter(([name, blob]) => generationOf(name) && blob.size > 0);
    expect(whole.map(([name]) => generationOf(name)!.time)).toEqual(['1300']);
  },
);

test('a cleared browser, or another device, writes beside the backup of all that was there: nothing of it goes', async () => {
  const { files, here } = folder(true);
  const { asked, ready } = analyst([SAMPLES.instrument]);
  await ready;
  const at = { world: 'own', zone: 0, atMs: AT } as const;
  await writeInto(here, { file: new Blob([writeLogFile(ALL_SAMPLES, 1)]), records: ALL_SAMPLES.length }, at, asked.ask);
  const [full] = files.keys();
  for (let hour = 1; hour < 6; hour++)
    await writeInto(
      here,
      await asked.ask('export', { as: 'json', nowMs: 1 }),
      { ...at, atMs: AT + hour * HOUR },
      asked.ask,
    );
  expect([...files.keys()].sort()).toEqual([full, full!.replace('1200', '1700')]);
  expect(await recordsIn(files.get(full!)!)).toHaveLength(ALL_SAMPLES.length);
  // What it has is told, and what of it is not here.
  expect(await asked.ask('look', { file: files.get(full!)! })).toEqual({
    ok: true,
    records: ALL_SAMPLES.length,
    missing: ALL_SAMPLES.length - 1,
  });
  // A file that cannot be read is not let go of either.
  files.set(full!, new Blob(['{"torn":']));
  await writeInto(here, await asked.ask('export', { as: 'json', nowMs: 1 }), { ...at, atMs: AT + 7 * HOUR }, asked.ask);
  expect(files.has(full!)).toBe(true);
});
