import { spawnSync } from 'node:child_process';
import { writeLogFile } from '../../src/core/exchange';
import type { Random } from '../../src/core/simulate';
import { bend, goodLog } from './records';

const STRING = { material: 'plain-steel', gaugeMm: 0.25, lengthMm: 650, frequencyHz: 330 };
const SESSION = { at: 1_780_010_000_000, minutes: 90, toleranceCents: 3 };
const falls = [5, 20, 60].map((t) => ({ t, fall: t / 10 }));

/** A good item for every command. */
const GOOD: Record<string, object> = {
  measure: { file: 'none.wav', target: 'A2', a4: 440 },
  change: { from: 'none.wav', to: 'none.wav', target: 'A2' },
  listen: {
    file: 'none.wav',
    strings: [{ note: 'E4', lastCents: -3 }],
    pass: 'as-found',
    string: 1,
    toleranceCents: 3,
  },
  string: STRING,
  rounds: { dropsCents: [30, 12, 6] },
  octave: { lengthMm: 650, openHz: 110, fret12Hz: 221, harmonic12Hz: 220, sigmaCents: 0.3, threadMm: 0.5 },
  'bridge-line': {
    strings: [
      { acrossMm: 0, lengthMm: 650, errorCents: 2 },
      { acrossMm: 50, lengthMm: 650, errorCents: -2 },
    ],
  },
  trial: { pairs: [{ treated: falls, control: falls }] },
  forecast: {
    format: 'settle-cases/1',
    cases: [
      {
        id: 1,
        material: 'plain-nylon',
        issueT: 60,
        horizonsMin: [90],
        tolerances: [3],
        performanceMin: 90,
        events: [
          { t: 0, kind: 'retune' },
          { t: 10, kind: 'read', cents: -4, tempC: 20 },
        ],
      },
    ],
  },
  interval: { file: 'none.wav', a: 'A2', b: 'E3', ratio: [3, 2], a4: 440 },
  ear: { strings: ['E2', 'A2', 'D3', 'G3', 'B3', 'E4'], school: 'chain', anchor: 1, frets: 22 },
  reference: { file: 'none.wav', nominalHz: 440, kind: 'fork' },
  net: { strings: 3, pin: { string: 1, cents: 0 }, observations: [{ a: 2, b: 1, cents: -3, sigmaCents: 0.5 }] },
  causes: {
    instrument: { bridge: 'fixed', nut: 'plain', tree: true, tuners: 'geared', frets: true },
    string: { material: 'plain-steel', lengthMm: 648, headMm: 90, targetHz: 330, gaugeMm: 0.25, ageDays: 3 },
    sigmaCents: 0.5,
    evidence: [
      { test: 'since-last', own: -6, others: -1, othersSd: 0.5 },
      { test: 'big-bend', first: -5, second: -1 },
    ],
  },
  bridge: {
    bridge: { springs: 3, locking: false, scaleMm: 648 },
    strings: ['E4', 'B3', 'G3'].map((target) => ({ target, gaugeMm: 0.3, material: 'plain-steel' })),
    task: 'fresh',
    order: 'centre-out',
    memory: null,
    events: [1, 2, 3].map((string) => ({ kind: 'read', string, cents: -60 })),
  },
  plan: {
    ...(JSON.parse(writeLogFile(goodLog(), 1)) as object),
    session: SESSION,
    now: 1_780_005_000_000,
  },
};

const NASTY = [
  'null',
  '[]',
  '1',
  '"a"',
  '{',
  '}',
  '{"a":',
  '[['.repeat(50000),
  '{"a":'.repeat(50000),
  '\u0000',
  '{"x":1e999}',
  '{}',
];
const HANG_MS = 120000;

/** So many malformed lines to every command at once; every line wants its answer, on one line, without a stack. */
export function fuzzDoor(lines: number, random: Random, fault: (what: string, of: unknown) => void) {
  const result = { commands: 0, unanswered: 0, stacks: 0, hung: 0 };
  for (const [command, good] of Object.entries(GOOD)) {
    result.commands++;
    const input = Array.from({ length: lines }, (_, i) => {
      const nasty = NASTY[i];
      if (nasty !== undefined) return nasty;
      let item: unknown = good;
      for (let k = 0; k < 1 + 2 * random.uniform(); k++) item = bend(item, random);
      // A line that is no object would be gathered with its neighbours: it is no item of this command.
      return typeof item === 'object' && item !== null && !Array.isArray(item) ? JSON.stringify(item) : '{"bent":1}';
    });
    const isDocument = ['trial', 'forecast', 'plan'].includes(command);
    // A broken line may be the beginning of a document, to which the next belongs: those come by themselves.
    // So may a log without a session: what follows goes with it.
    const others = input.slice(NASTY.length);
    const waits = (line: string) => command === 'plan' && !line.includes('"session":');
    const batches = isDocument
      ? [...NASTY.map((n) => [n]), ...others.filter(waits).map((o) => [o]), others.filter((o) => !waits(o))]
      : [input];
    for (const batch of batches) {
      const { status, stdout, stderr } = spawnSync(process.execPath, ['--import', 'tsx', 'src/door/main.ts', command], {
        input: batch.join('\n') + '\n',
        encoding: 'utf8',
        timeout: HANG_MS,
        maxBuffer: 1e9,
      });
      const answers = stdout.split('\n').filter((l) => l !== '');
      if (status === null) {
        result.hung++;
        fault(`door ${command} hung`, batch[0]);
      } else if (status !== 0 || /\n {4}at /.test(stderr)) {
        result.stacks++;
        fault(`door ${command} ended with ${status}: ${stderr.slice(0, 300)}`, batch[0]);
      }
      const wanted = batch.filter((l) => l.trim() !== '').length;
      if (answers.length !== wanted) {
        result.unanswered += Math.abs(wanted - answers.length);
        fault(`door ${command} gave ${answers.length} answers to ${wanted} lines`, batch[0]);
      }
      for (const a of answers) {
        const answer = JSON.parse(a) as { ok?: boolean; reason?: string; message?: string };
        if (answer.reason === 'internal') {
          result.stacks++;
          fault(`door ${command}: ${answer.message}`, batch[0]);
        }
      }
    }
  }
  return result;
}
