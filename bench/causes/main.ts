/** npm run bench:causes [-- CASES [SEED]]: the finder on faults by other laws than its own, against other orders of tests. */
import { argv, cpuUsage } from 'node:process';
import { causesOf, findCause, testsOf, type CauseAnswer, type Evidence } from '../../src/core/causes';
import type { CauseTest } from '../../src/core/codes';
import { randomFrom } from '../../src/core/simulate';
import { writeSection } from '../report';
import { plainCase } from './plain';
import { drawCase, type Case } from './world';
import { wideCase } from './wide';

const cases = Number(argv[2] ?? 300);
const seed = Number(argv[3] ?? 1);
const HANDS_ON = 4;
const MOST = 9;
const FIXED: CauseTest[] = ['big-bend', 'press-behind-nut', 'side-stretch', 'octave', 'reference', 'posture'];

type Order = 'best' | 'random' | 'fixed';
interface Tally {
  top1: number;
  top2: number;
  atStop: number;
  tests: number;
  sure: number;
  sureRight: number;
  gaps: number[];
  noneSure: number;
  noneHalf: number;
  none: number;
  invalid: number;
  times: number[];
}

function nextOf(
  order: Order,
  answer: CauseAnswer,
  c: Case,
  done: readonly string[],
  pick: () => number,
): CauseTest | undefined {
  const left = testsOf(c.build).filter(
    (t) => !done.includes(t) && t !== 'wait' && t !== 'warm' && t !== 'pluck-behind-nut',
  );
  if (order === 'best') return answer.next;
  if (order === 'random') return left[Math.floor(pick() * left.length)];
  return FIXED.find((t) => left.includes(t)) ?? left[0];
}

/** The answer after the tests by hand. */
function count(t: Tally, { causes }: CauseAnswer, { cause }: Case): void {
  if (causes[0]!.cause === cause) t.top1++;
  if (causes.slice(0, 2).some((x) => x.cause === cause)) t.top2++;
}

function run(order: Order, draw: typeof drawCase): Tally {
  const t: Tally = {
    top1: 0,
    top2: 0,
    atStop: 0,
    tests: 0,
    sure: 0,
    sureRight: 0,
    gaps: [],
    noneSure: 0,
    noneHalf: 0,
    none: 0,
    invalid: 0,
    times: [],
  };
  const said: { p: number; right: boolean }[] = [];
  const pick = randomFrom(seed + 77).uniform;
  for (let k = 0; k < cases; k++) {
    const c = draw(randomFrom(seed * 100003 + k), causesOf);
    const evidence: Evidence[] = [c.since];
    const ask = () => {
      const began = performance.now();
      // The older worlds have no short length behind the nut.
      const offered = testsOf(c.build).filter((t) => draw === wideCase || t !== 'pluck-behind-nut');
      const answer = findCause({ build: c.build, string: c.string, sigmaCents: c.sigmaCents, evidence, offered });
      t.times.push(performance.now() - began);
      if (Math.abs(answer.causes.reduce((s, x) => s + x.probability, 0) - 1) > 0.01) t.invalid++;
      return answer;
    };
    let answer = ask();
    let stopped = false;
    for (let n = 1; n <= MOST; n++) {
      const test = nextOf(
        order,
        answer,
        c,
        evidence.map((e) => e.test),
        pick,
      );
      // Nothing is left to be done: the answer stands.
      if (!test && n <= HANDS_ON) count(t, answer, c);
      if (!test || (stopped && n > HANDS_ON)) break;
      evidence.push(c.test(test));
      answer = ask();
      if (n === HANDS_ON) count(t, answer, c);
      if (!stopped && (answer.stop || n === MOST)) {
        stopped = true;
        t.tests += n;
        const [first] = answer.causes;
        const right = first!.cause === c.cause;
        if (right) t.atStop++;
        said.push({ p: first!.probability, right });
        if (first!.probability > 0.85) {
          t.sure++;
          if (right) t.sureRight++;
        }
        if (c.cause === 'none') {
          t.none++;
          const fault = answer.causes.find((x) => x.cause !== 'none')!.probability;
          if (fault > 0.85) t.noneSure++;
          if (fault > 0.5) t.noneHalf++;
        }
      }
    }
  }
  for (let low = 0; low < 1; low += 0.1) {
    const bin = said.filter((s) => s.p >= low && s.p < low + 0.1);
    if (bin.length < 8) continue;
    const mean = bin.reduce((s, x) => s + x.p, 0) / bin.length;
    t.gaps.push((Math.abs(mean - bin.filter((x) => x.right).length / bin.length) * bin.length) / said.length);
  }
  return t;
}

const percent = (n: number, of: number) => (of > 0 ? `${((100 * n) / of).toFixed(0)} %` : '–');
const row = (order: Order, draw: typeof drawCase, name: string = order): string => {
  const t = run(order, draw);
  const sorted = t.times.sort((a, b) => a - b);
  return `| ${name} | ${percent(t.top1, cases)} / ${percent(t.top2, cases)} | ${percent(t.atStop, cases)}; ${(t.tests / cases).toFixed(1)} | ${percent(t.sureRight, t.sure)} of ${t.sure}; ${t.gaps.reduce((a, b) => a + b, 0).toFixed(3)} | ${percent(t.noneSure, t.none)}; ${percent(t.noneHalf, t.none)} | ${t.invalid}; ${sorted[sorted.length >> 1]!.toFixed(0)} ms |`;
};
writeSection(
  'Causes',
  [
    `${cases} strings with faults by laws other than the finder's, seed ${seed}; 10 % with nothing wrong, 10 % with two faults, 3 % gross readings.`,
    '',
    '| order of tests | top 1 / top 2 after four | top 1 when it stops; tests | right over .85; gap said to true | nothing wrong, a fault over .85; over .5 | invalid; median time |',
    '|---|---|---|---|---|---|',
    '| asked | 72 / 85 % | 76 %; 4 | 92 %; .06 | 5 %; 15 % | 0; 150 ms |',
    row('best', wideCase, 'best, in wide ranges by segments'),
    ...(['best', 'fixed', 'random'] as const).map((order) => row(order, drawCase)),
    row('best', plainCase, 'best, on faults that answer the same each time'),
  ],
  cpuUsage().user / 1e6,
);
