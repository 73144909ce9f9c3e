import { bridgeProcedure, BEGIN_BRIDGE, BEGIN_RETURN, returnAt, returnProcedure } from '../src/core/bridge';
import { BEGIN_EAR, earProcedure } from '../src/core/by-ear';
import { frictionTests, inquiryTests, NO_TEST, testAt, testsOf, causeBuildOf } from '../src/core/causes';
import { checkProcedure } from '../src/core/check';
import { MEASURES } from '../src/core/codes';
import { beginFitting, fittingAt, fittingProcedure } from '../src/core/fitting';
import {
  createPlayer,
  lineCentsOf,
  type GuidedLog,
  type GuidedStep,
  type Player,
  type Procedure,
} from '../src/core/guided';
import type { Draft, LogRecord } from '../src/core/log';
import { BEGIN_OCTAVE, octaveProcedure } from '../src/core/octave';
import { randomFrom } from '../src/core/simulate';
import { memoryLog, readingAt } from './guided';

/*
 * Whoever types truthfully what a tuner shows ends with the same records and the same words as whoever is heard: for every
 * procedure, strings standing anywhere from -40 to +40 cents, some with an offset of their own.
 */
const RUNS = 50;
/** What a bridge advises is reckoned for seconds a session. */
const BRIDGE_RUNS = 1;
/** As a tuner shows it, with digits enough that no rule stands on its edge. */
const shown = (cents: number) => (cents < 0 ? `−${Math.abs(cents).toFixed(3)}` : cents.toFixed(3));

const POINT = { frequencyHz: 1, confidence: 1, levelDb: -20, floorDb: -60, clipped: false };

interface Job {
  name: string;
  family: string;
  notes: string[];
  runs?: number;
  // The states of these jobs are of many kinds; nothing here looks into one.
  procedure: Procedure<never, never>;
  begin: (log: GuidedLog) => unknown;
  /** What is pressed at first, and whatever else there is to press while nothing is to be sounded; undefined when all is done. */
  start?: unknown;
  onward?: (log: GuidedLog, state: never) => unknown;
}
const GUITAR = ['E4', 'B3', 'G3', 'D3', 'A2', 'E2'];
const job = <S, A>(
  name: string,
  family: string,
  procedure: Procedure<S, A>,
  begin: (log: GuidedLog) => S,
  more: { runs?: number; start?: A; onward?: (log: GuidedLog, state: S) => A | undefined } = {},
  notes = GUITAR,
): Job => ({ name, family, notes, procedure: procedure as never, begin, ...(more as object) });

const done = (log: GuidedLog, state: Parameters<typeof testAt>[1]) =>
  testAt(log, state).part?.kind === 'do' ? ({ do: 'done' } as const) : undefined;
const electric = causeBuildOf(memoryLog('electric-floating', GUITAR).log().life);
const JOBS: Job[] = [
  job('check', 'guitar-steel', checkProcedure, () => ({}), { start: { do: 'start' } }),
  job(
    'fitting',
    'guitar-nylon',
    fittingProcedure,
    (log) => beginFitting({ stringIds: ['s2'], school: 'pull', index: 0, startedMs: log.nowMs }),
    { onward: (log, state) => (fittingAt(log, state).step ? { do: 'done' } : undefined) },
  ),
  job('octave', 'guitar-steel', octaveProcedure, () => BEGIN_OCTAVE, { start: { do: 'start' } }),
  job('octave, carefully', 'guitar-steel', octaveProcedure, () => ({ ...BEGIN_OCTAVE, careful: true, more: true }), {
    start: { do: 'start' },
  }),
  job('by ear', 'guitar-steel', earProcedure, () => BEGIN_EAR, {
    start: { do: 'begin' },
    onward: (_log, state) => (state.run && !state.run.reads ? { do: 'tuned' } : undefined),
  }),
  job('floating bridge', 'electric-floating', bridgeProcedure, () => BEGIN_BRIDGE, {
    runs: BRIDGE_RUNS,
    start: { do: 'begin', begun: { task: 'touch-up', order: 'least-tilt' } },
  }),
  job('return test', 'electric-floating', returnProcedure, () => BEGIN_RETURN, {
    onward: (log, state) => (returnAt(log, state).bar ? { do: 'bar' } : undefined),
  }),
  ...testsOf(electric).map((test) =>
    job(`why it goes out: ${test}`, 'electric-floating', inquiryTests, () => NO_TEST, {
      start: { do: 'begin', test, stringId: 's3', why: { passId: 'p', told: {} } },
      onward: done,
    }),
  ),
  ...MEASURES.map((test) =>
    job(`sticks at the nut: ${test}`, 'guitar-steel', frictionTests, () => NO_TEST, {
      start: { do: 'begin', test, stringId: 's3', why: null },
      onward: done,
    }),
  ),
];

/** A string as it stands, cents from where it belongs; a hand brings it to a line within a cent, everything else moves it by up to ten. */
function play({ family, notes, procedure, begin, start, onward }: Job, seed: number, by: 'heard' | 'cents' | 'hertz') {
  const next = randomFrom(seed).uniform;
  const memory = memoryLog(family, notes);
  const ids = notes.map((_, i) => `s${i + 1}`);
  const offsets = notes.map(() => (next() < 0.3 ? Math.round(24 * next() - 12) : 0));
  memory.write([
    {
      type: 'tuning',
      instrumentId: 'x',
      name: 'Own',
      strings: ids.map((stringId, i) => ({ stringId, note: notes[i]!, offsetCents: offsets[i]! })),
    },
  ] as Draft[]);
  const stands = new Map(ids.map((id) => [id, Math.round(80000 * next() - 40000) / 1000]));
  const said: string[] = [];
  const written: LogRecord[] = [];
  const player = createPlayer(procedure as Procedure<unknown, unknown>, begin(memory.log()), {
    log: memory.log,
    write: (drafts) => void written.push(...memory.write(drafts)),
    say: (words) => void said.push(words),
  });
  let note = 0;
  const hear = (step: GuidedStep, cents: number) => {
    const { named } = step;
    const reading = { ...readingAt(named.targetHz, cents - lineCentsOf(step), { sigmaCents: 1 }) };
    note++;
    const atS = 10 * note;
    player.hear({ kind: 'onset', note, atS }, 'microphone');
    // Its hand comes from below: where a string came from above, only one who listens can know.
    if (step.step.purpose === 'left')
      for (let k = 0; k < 40; k++)
        player.hear({ kind: 'track', points: [{ ...POINT, tS: atS + 0.3 + k / 40, cents: -20 }] }, 'microphone');
    const before = player.step;
    // Kept at once where it is found; where it is brought to a line, by the player's word, given twice where it stands off it.
    for (let k = 0; k < 3 && player.step === before && written.length === counted; k++)
      player.hear(
        {
          kind: 'section',
          stringId: named.id,
          note,
          onsetS: atS,
          fromS: atS + 5,
          toS: atS + 6,
          part: step.step.purpose === 'left' ? 'asked' : 'whole',
          over: false,
          outcome: reading,
        },
        'microphone',
      );
    if (player.step === before && written.length === counted) player.take('microphone');
  };
  let counted = 0;
  if (start !== undefined) player.press(start);
  for (let k = 0; k < 120; k++) {
    counted = written.length;
    const { step } = player;
    if (!step || step.watched) {
      const action = onward?.(memory.log(), player.state as never);
      if (action === undefined) break;
      player.press(action);
      continue;
    }
    const id = step.named.id.split(':')[0]!;
    const line = lineCentsOf(step);
    const moved = Math.round(20000 * next() - 10000) / 1000;
    const at =
      step.step.purpose === 'left'
        ? Number((line + Math.round(2000 * next() - 1000) / 1000).toFixed(3))
        : (stands.get(id) ?? 0);
    stands.set(id, Number((at + (step.step.purpose === 'left' ? 0 : moved)).toFixed(3)));
    if (by === 'heard') hear(step, at);
    else {
      const hz = step.belongsHz * 2 ** (at / 1200);
      const text = by === 'cents' ? shown(at) : `${hz.toFixed(9)} Hz`;
      if (player.type(text, false, 440) !== undefined) player.type(text, true, 440);
    }
  }
  return { written, said, player: player as Player<unknown, unknown> };
}

/** What came of it, without what tells how it came in: source, arrival, the sound's own figures; figures without what the arithmetic leaves behind. */
function outcome({ written }: ReturnType<typeof play>): unknown[] {
  const bare = (value: unknown): unknown => {
    if (typeof value === 'number') return Number(value.toFixed(5)) + 0;
    if (Array.isArray(value)) return value.map(bare);
    if (typeof value !== 'object' || value === null) return value;
    const entries = Object.entries(value).filter(([key]) => !SOUND.has(key));
    return Object.fromEntries(entries.map(([key, v]) => [key, bare(v)]));
  };
  return written.map(bare);
}
const SOUND = new Set([
  'source',
  'arrival',
  'inharmonicity',
  'snrDb',
  'glideCents',
  'partials',
  'id',
  'memory',
  'wound',
  'supersedes',
]);

test.each(JOBS)('$name: typed in cents, typed in hertz and heard come to the same', (job) => {
  const { runs = RUNS } = job;
  let records = 0;
  for (let seed = 1; seed <= runs; seed++) {
    const heard = outcome(play(job, seed, 'heard'));
    records += heard.length;
    expect([seed, outcome(play(job, seed, 'cents'))]).toEqual([seed, heard]);
    expect([seed, outcome(play(job, seed, 'hertz'))]).toEqual([seed, heard]);
  }
  expect(records).toBeGreaterThanOrEqual(runs);
});
