/**
 * Hostile files and questions: `npm run bench:fuzz -- [seed] [logs] [wavs] [lines]`. Logs through the import and then through all that the
 * views ask of them, sound files through the reader, lines through every command of the door.
 */
import { argv } from 'node:process';
import { readLogFile, readWav } from '../../src/core/exchange';
import { LONGEST_REFUSAL } from '../../src/core/limits';
import { randomFrom } from '../../src/core/simulate';
import { writeSection } from '../report';
import { fuzzDoor } from './door';
import { bentLogFile, faultsOf, goodLog } from './records';
import { mergeFaults } from '../../testing/merging';
import { bentChapterFaults } from './chapters';
import { useLog } from './use';
import { asCodec, bentWav, goodWavs, OTHER_CODECS } from './wavs';
import { MINUTE } from '../../src/core/base';

const [seed = 1, logs = 20000, wavs = 5000, lines = 300] = argv.slice(2).map(Number);
/** Longer than this for one small file is a hang, ms. */
const HANG_MS = 2000;
const USED = 5;
const NOW = 1_780_000_000_000 + 80 * MINUTE;
const random = randomFrom(seed);
const faults: string[] = [];
const fault = (what: string, of: unknown) => {
  faults.push(what);
  if (faults.length <= 20) process.stderr.write(`${what}: ${String(of).slice(0, 2000)}\n`);
};
const timed = <T>(work: () => T): { ms: number; value: T } => {
  const from = performance.now();
  const value = work();
  return { ms: performance.now() - from, value };
};
const caught = <T>(what: string, text: unknown, work: () => T): T | undefined => {
  try {
    return work();
  } catch (error) {
    fault(`${what} threw ${(error as Error).message}`, text);
    return undefined;
  }
};

const good = goodLog();
const count = {
  accepted: 0,
  merges: 0,
  chapters: 0,
  invalid: 0,
  threw: 0,
  nan: 0,
  long: 0,
  hung: 0,
  wavRead: 0,
  wavHung: 0,
  wavThrew: 0,
  asPcm: 0,
};
let before = good;
for (let i = 0; i < logs; i++) {
  const text = bentLogFile(good, random);
  const read = caught('import', text, () => timed(() => readLogFile(text)));
  if (!read) count.threw++;
  else if (read.ms > HANG_MS) count.hung++;
  if (read && !read.value.ok && read.value.message.length > LONGEST_REFUSAL + 40) count.long++;
  if (!read?.value.ok) continue;
  const { records } = read.value;
  count.accepted++;
  const wrong = records.flatMap((r) => faultsOf(r));
  if (wrong.length > 0) {
    count.invalid++;
    fault(`accepted, but ${wrong[0]!}`, text);
  }
  // With the one before, each by others: both count their records alike.
  const merged = caught('merge', text, () => mergeFaults(before, records));
  if (!merged) count.threw++;
  else if (merged.length > 0) {
    count.merges++;
    fault(merged[0]!, text);
  }
  before = records;
  const bent = await caught('chapter', text, () => bentChapterFaults(records, random));
  if (!bent) count.threw++;
  else if (bent.length > 0) {
    count.chapters++;
    fault(bent[0]!, text);
  }
  // All that the views ask takes its time: every fifth is asked.
  if (count.accepted % USED !== 0) continue;
  const used = caught('use', text, () => useLog(records, NOW));
  if (!used) count.threw++;
  else if (used.length > 0) {
    count.nan++;
    fault(used[0]!, text);
  }
}
const files = goodWavs();
for (let i = 0; i < wavs; i++) {
  const bytes = bentWav(files[i % files.length]!, random);
  const read = caught('sound', bytes, () => timed(() => readWav(bytes)));
  if (!read) count.wavThrew++;
  else if (read.ms > HANG_MS) count.wavHung++;
  if (read?.value.ok) count.wavRead++;
}
for (const file of files) for (const code of OTHER_CODECS) if (readWav(asCodec(file, code)).ok) count.asPcm++;

const door = await fuzzDoor(lines, random, fault);
writeSection(
  'Hostile input',
  [
    `Seed ${seed}. Asked of all but the counts: 0.`,
    '',
    '| what | result |',
    '|---|---|',
    `| logs with records bent: tried; accepted | ${logs}; ${count.accepted} |`,
    `| of these accepted though invalid; of every fifth, that give a figure that is none | ${count.invalid}; ${count.nan} |`,
    `| merged with the one before: something lost, twice or otherwise; of chapters with a flipped bit something told otherwise or lost | ${count.merges}; ${count.chapters} |`,
    `| exceptions, in import or in what the views ask; over ${HANG_MS} ms; refusals too long | ${count.threw}; ${count.hung}; ${count.long} |`,
    `| sound files bent: tried; read | ${wavs}; ${count.wavRead} |`,
    `| exceptions; over ${HANG_MS} ms; other codecs taken for one that is read, of ${files.length * OTHER_CODECS.length} | ${count.wavThrew}; ${count.wavHung}; ${count.asPcm} |`,
    `| door, ${lines} malformed inputs to each of ${door.commands} commands: unanswered, stacks, hangs | ${door.unanswered}; ${door.stacks}; ${door.hung} |`,
  ],
  process.cpuUsage().user / 1e6,
);
process.exit(faults.length > 0 ? 1 : 0);
