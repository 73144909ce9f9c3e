/**
 * Whole days in Node: random players on random instruments, through the one machine that page and door run; everything that was
 * kept is compared with where the strings truly stood. `npm run bench:day -- [days] [seed]`
 */
import { argv, cpuUsage } from 'node:process';
import { BEGIN_OCTAVE, octaveAt, octaveProcedure } from '../../src/core/octave';
import { checkPassOf, checkProcedure, checkStep, TOLERANCE_CENTS } from '../../src/core/check';
import { beginFitting, fittingAt, fittingProcedure, type FittingState } from '../../src/core/fitting';
import { inquiryTests, NO_TEST, testAt, type InquiryWhy, type TestState } from '../../src/core/causes';
import type { GuidedLog } from '../../src/core/guided';
import type { ReadingRecord } from '../../src/core/log';
import { restring, randomFrom, stretchString, touched, trueCents, type Random } from '../../src/core/simulate';
import { writeSection } from '../report';
import { play, STYLES, type HandJob, type Style } from './hand';
import { A4, drawDay, type DayWorld } from './world';
import { HOUR } from '../../src/core/base';

const days = Number(argv[2] ?? 20);
const seed = Number(argv[3] ?? 1);
const open = <T>(s: T) => s;
/** So far from its string, and so near to another one, a reading is that one's, cents. */
const ELSEWHERE_CENTS = 60;
const LIKE_CENTS = 30;

/** What was kept, against the truth of that moment. */
interface Tally {
  kept: number;
  within: number;
  errors: number[];
  /** Kept under the name of a string that it was not. */
  wrong: number;
  left: number;
  /** As left by itself, and out of tolerance by more than a cent. */
  leftOut: number;
  jobs: number;
  done: number;
  strings: number;
  passSeconds: number;
}
const empty = (): Tally => ({
  kept: 0,
  within: 0,
  errors: [],
  wrong: 0,
  left: 0,
  leftOut: 0,
  jobs: 0,
  done: 0,
  strings: 0,
  passSeconds: 0,
});

/** A reading as it is written, against its string as it stands. */
function judge(world: DayWorld, tally: Tally, r: ReadingRecord): void {
  const string = world.strings.get(r.stringId)!;
  const truth = trueCents(string, world.nowMs);
  const error = Math.abs(r.cents - truth);
  tally.kept++;
  tally.errors.push(error);
  if (error < 2 * r.sigmaCents) tally.within++;
  const hz = (s: typeof string) => s.targetHz * 2 ** (trueCents(s, world.nowMs) / 1200);
  const isLike = (s: typeof string) => Math.abs(1200 * Math.log2(r.frequencyHz / hz(s))) < LIKE_CENTS;
  if (error > ELSEWHERE_CENTS && [...world.strings.values()].some((s) => s !== string && isLike(s))) tally.wrong++;
  if (r.purpose !== 'as-left') return;
  tally.left++;
  if (Math.abs(truth) > TOLERANCE_CENTS + 1) tally.leftOut++;
}

const checkJob = (): HandJob<object, Parameters<typeof checkProcedure.press>[0]> => ({
  procedure: checkProcedure,
  begin: {},
  sounds: (log, state) => {
    const step = checkStep(log, state);
    return step && { stringId: step.stringId, as: open };
  },
  act: (player) => {
    if (checkPassOf(player.log())) return false;
    player.press({ do: 'start' });
    return true;
  },
  over: (log, state) => checkPassOf(log) !== undefined && checkStep(log, state) === undefined,
});

function fitJob(
  world: DayWorld,
  stringId: string,
): HandJob<FittingState, Parameters<typeof fittingProcedure.press>[0]> {
  const at = (log: Pick<GuidedLog, 'life'>, s: FittingState) => fittingAt(log, s);
  return {
    procedure: fittingProcedure,
    begin: beginFitting({ stringIds: [stringId], school: 'pull', index: 0, startedMs: Math.floor(world.nowMs) }),
    sounds: (log, state) => {
      const { own, sounding, waiting } = at(log, state);
      return own && sounding && !waiting ? { stringId: own.plan.stringId, as: open } : undefined;
    },
    act: (player) => {
      const { step, waiting } = at(player.log(), player.state);
      if (!step) return false;
      if (step.kind === 'on') world.strings.set(stringId, restring(world.strings.get(stringId)!, world.nowMs, -700));
      if (waiting) world.strings.set(stringId, stretchString(world.strings.get(stringId)!, world.nowMs));
      // Three rounds are enough for a day.
      if (step.kind === 'rounds' && waiting && world.life().strings.some((s) => s.rounds.length >= 3))
        player.press({ do: 'skip', note: '' });
      else player.press({ do: 'done' });
      return true;
    },
    over: (log, state) => at(log, state).step === undefined,
  };
}

const octaveJob = (): HandJob<typeof BEGIN_OCTAVE, Parameters<typeof octaveProcedure.press>[0]> => ({
  procedure: octaveProcedure,
  begin: BEGIN_OCTAVE,
  sounds: (log, state) => {
    const { step } = octaveAt(log, state);
    if (!step) return undefined;
    const touch = step.touch === 'fret' ? { kind: 'fret' as const, fret: step.fret! } : { kind: step.touch };
    return { stringId: step.stringId, as: (s) => touched(s, touch) };
  },
  act: (player) => {
    if (octaveAt(player.log(), player.state).pass) return false;
    player.press({ do: 'start' });
    return true;
  },
  over: (log, state) => octaveAt(log, state).pass !== undefined && octaveAt(log, state).step === undefined,
});

function testJob(stringId: string): HandJob<TestState<InquiryWhy>, Parameters<typeof inquiryTests.press>[0]> {
  let begun = false;
  return {
    procedure: inquiryTests,
    begin: NO_TEST,
    sounds: (log, state) => {
      const { part } = testAt(log, state);
      return part?.kind === 'read' ? { stringId, as: open } : undefined;
    },
    act: (player) => {
      if (!begun) {
        begun = true;
        player.press({ do: 'begin', test: 'big-bend', stringId, why: { passId: 'inquiry', told: {} } });
        return true;
      }
      if (testAt(player.log(), player.state).part?.kind !== 'do') return false;
      player.press({ do: 'done' });
      return true;
    },
    over: (_log, state) => begun && state.run === undefined,
  };
}

/** A day: a string put on, a pass, hours, a pass, the octave, a test. */
function day(style: Style, random: Random, tally: Tally): void {
  const world = drawDay(random);
  const ids = [...world.strings.keys()];
  const run = <S, A>(job: HandJob<S, A>, isPass = false) => {
    const { done, seconds } = play(world, job, style, random, (r) => judge(world, tally, r));
    tally.jobs++;
    if (done) tally.done++;
    if (!done || !isPass) return;
    tally.passSeconds += seconds;
    tally.strings += ids.length;
  };
  run(fitJob(world, ids[Math.floor(random.uniform() * ids.length)]!));
  run(checkJob(), true);
  world.nowMs += random.between(1, 5) * HOUR;
  run(checkJob(), true);
  run(octaveJob());
  run(testJob(ids[0]!));
}

const began = cpuUsage();
const lines = [
  `${days} days a player, seed ${seed}: fit one string with its rounds, a pass, hours, a pass, the octave, a test by hand.`,
  '',
  '| player | jobs done | kept | within 2 sigma | error median / p95 | wrong string | as left out of tolerance | s a string in a pass |',
  '|---|---|---|---|---|---|---|---|',
];
for (const style of Object.keys(STYLES) as Style[]) {
  const tally = empty();
  for (let d = 0; d < days; d++) day(style, randomFrom(seed * 1009 + d), tally);
  const errors = [...tally.errors].sort((a, b) => a - b);
  const at = (p: number) => (errors[Math.floor(p * (errors.length - 1))] ?? NaN).toFixed(2);
  const line = `| ${style} | ${tally.done} of ${tally.jobs} | ${tally.kept} | ${((100 * tally.within) / tally.kept).toFixed(1)} % | ${at(0.5)} / ${at(0.95)} | ${tally.wrong} | ${tally.leftOut} of ${tally.left} | ${(tally.passSeconds / tally.strings).toFixed(1)} |`;
  process.stderr.write(`${line}\n`);
  lines.push(line);
}
const { user, system } = cpuUsage(began);
const cpu = (user + system) / 1e6;
lines.push(
  '',
  `A day takes ${(cpu / (days * Object.keys(STYLES).length)).toFixed(1)} s of CPU. Reference A4 ${A4} Hz.`,
);
writeSection('Whole days', lines, cpu);
