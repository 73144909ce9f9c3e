import fc from 'fast-check';
import { findCause } from '../causes';
import type { Cause } from '../codes';
import { randomFrom } from '../simulate';
import { checkRecord, RECORD_VERSION, type ExerciseRecord } from '../log';
import {
  actHands,
  answered,
  beginHands,
  beginHunt,
  drawTuner,
  earTrial,
  endHunt,
  HAND_EXERCISES,
  handWords,
  huntEvidence,
  huntQuestion,
  huntTests,
  nextExercise,
  readExercise,
  reportHands,
  handStandsAt,
  turned,
  writeExercise,
  type HandRun,
  type TunerState,
} from '.';

const seeds = fc.integer({ min: 1, max: 1e6 });
const turnBy = (t: TunerState, degrees: number[], pushed: boolean, seed: number): [TunerState, number] => {
  const random = randomFrom(seed);
  let [state, cents] = [t, 0];
  for (const d of degrees) {
    const [next, by] = turned(state, d, pushed, random);
    state = next;
    cents += by;
  }
  return [state, cents];
};

test('gears: the play is idle, and turned up and back by as much the string is as far down as the play lets it', () => {
  fc.assert(
    fc.property(seeds, fc.integer({ min: 1, max: 60 }), (seed, degrees) => {
      const tuner = { ...drawTuner('geared', randomFrom(seed)), playDeg: 0 };
      const { lashDeg, centsPerDeg } = tuner;
      const [, up] = turnBy(tuner, [degrees], false, seed);
      expect(up).toBeCloseTo(Math.max(0, degrees - lashDeg) * centsPerDeg, 6);
      // Within the play nothing moves either way; beyond it the way back is idle by the play too.
      const [, back] = turnBy(tuner, [degrees, -degrees], false, seed);
      const crossed = Math.min(degrees, lashDeg);
      expect(back).toBeCloseTo((degrees - crossed - (degrees - crossed)) * centsPerDeg, 6);
    }),
    { numRuns: 300, seed: 1 },
  );
});

test('a peg sticks before it jumps; not pushed in it runs back, so that the same turns leave it lower', () => {
  fc.assert(
    fc.property(seeds, (seed) => {
      const peg = drawTuner('peg', randomFrom(seed));
      expect(turnBy(peg, [0.9 * peg.sticksDeg], true, seed)[1]).toBe(0);
      const turns = Array.from({ length: 12 }, () => 1.5);
      const [, pushed] = turnBy(peg, turns, true, seed);
      const [, loose] = turnBy(peg, turns, false, seed);
      expect(pushed).toBeGreaterThan(0);
      expect(loose).toBeLessThan(0.6 * pushed);
    }),
    { numRuns: 200, seed: 2 },
  );
});

test('a fine tuner stops at its ends', () => {
  const [out, up] = turnBy(drawTuner('fine', randomFrom(5)), [1e5], false, 1);
  expect(out.travel).toBe(1);
  expect(turned(out, 90, false, randomFrom(1))[1]).toBe(0);
  expect(up).toBeLessThan(90);
});

/** Turns up little by little until it stands within reach of the target. */
function tune(run: HandRun, degrees: number, until = -1): HandRun {
  let r = run;
  for (let tS = 1; tS < 600 && handStandsAt(r, r.strings[r.at]!, tS) < until; tS++)
    r = actHands(r, { do: 'turn', degrees, pushed: true }, tS);
  return actHands(r, { do: 'done' }, 30);
}

test('the same seed gives the same exercise and the same string under the same turns', () => {
  for (const e of HAND_EXERCISES) {
    expect(beginHands(e, 8)).toEqual(beginHands(e, 8));
    expect(tune(beginHands(e, 8), 3)).toEqual(tune(beginHands(e, 8), 3));
    expect(beginHands(e, 9)).not.toEqual(beginHands(e, 8));
  }
  expect(earTrial('fifth', 4, [])).toEqual(earTrial('fifth', 4, []));
  expect(beginHunt(12)).toEqual(beginHunt(12));
});

test('a report tells the truth: brought up from slack, taken over, broken', () => {
  const good = tune(beginHands('from-slack', 3), 2);
  const told = reportHands(good, 30);
  expect(told).toMatchObject({ overshoots: 0, inTune: 1, fromBelow: 1, broke: false });
  expect(handWords(told).join(' ')).toMatch(/did not pass the target.*from below/);
  const over = reportHands(tune(beginHands('from-slack', 3), 40, 20), 30);
  expect(over.overshoots).toBe(1);
  expect(handWords(over).join(' ')).toMatch(/passed the target once, by \d+\.\d cents/);
  const broken = reportHands(tune(beginHands('from-slack', 3), 40, 1e4), 30);
  expect(broken.broke).toBe(true);
  expect(handWords(broken).join(' ')).toContain('The string broke');
  // A new string left alone falls on.
  const falling = beginHands('falling', 2);
  expect(handStandsAt(falling, falling.strings[0]!, 60)).toBeLessThan(falling.strings[0]!.path[0]!.cents - 3);
});

test('an answer is held against what was played', () => {
  const trial = earTrial('octave', 1, []);
  expect(trial.hz[1]! / trial.hz[0]!).toBeCloseTo(2 * 2 ** (((trial.up ? 1 : -1) * trial.cents) / 1200), 9);
  const off = (a: number, b: number) => Math.abs(1200 * Math.log2(a / b));
  for (let seed = 1; seed < 20; seed++) {
    const { hz: pairs, up, cents } = earTrial('which-pair', seed, []);
    expect([off(pairs[1]!, pairs[0]!), off(pairs[3]!, pairs[2]!)][up ? 1 : 0]).toBeCloseTo(cents, 6);
    expect([off(pairs[1]!, pairs[0]!), off(pairs[3]!, pairs[2]!)][up ? 0 : 1]).toBe(0);
    const { hz: three, up: second, cents: by } = earTrial('nearer', seed, []);
    const [x, y] = [off(three[1]!, three[0]!), off(three[2]!, three[0]!)];
    expect(second ? x - y : y - x).toBeCloseTo(by, 6);
  }
  expect(answered(trial, trial.up)).toEqual({ cents: trial.cents, right: true });
  expect(answered(trial, !trial.up).right).toBe(false);
});

test('what a hunt hides is as common as the finder holds it: a fresh string is seldom an old one', () => {
  const hunts = Array.from({ length: 400 }, (_, k) => 5000 + k).map((seed) => ({ seed, hunt: beginHunt(seed) }));
  const answer = { causes: [{ cause: 'none', probability: 1 }] } as Parameters<typeof endHunt>[3];
  const share = (cause: Cause) =>
    hunts.filter(({ hunt }) => endHunt(hunt, [], cause, answer).right).length / hunts.length;
  expect(share('nut-friction')).toBeGreaterThan(0.13);
  expect(share('nut-friction')).toBeGreaterThan(2 * share('neck-flex'));
  expect(share('fresh-string')).toBeGreaterThan(0.05);
  expect(share('fresh-string')).toBeLessThan(0.16);
});

test('a hunt: the same tests show the same, the truth comes with the verdict, and the finder is asked the same', () => {
  const hunt = beginHunt(21);
  const tests = huntTests(hunt).slice(0, 3);
  expect(huntEvidence(hunt, tests)).toEqual(huntEvidence(hunt, tests));
  expect(huntEvidence(hunt, tests).slice(0, 2)).toEqual(huntEvidence(hunt, tests.slice(0, 1)));
  const answer = findCause(huntQuestion(hunt, tests));
  const end = endHunt(hunt, tests, 'none', answer);
  expect(end.right).toBe(end.truth === 'none');
  expect(endHunt(hunt, tests, end.truth, answer).right).toBe(true);
});

test('an exercise is handed out and read back; what is none, or does not fit, is refused in words', () => {
  const exercise = { practice: 'hands' as const, exercise: 'a-peg', seed: 5, task: 'For Thursday' };
  expect(readExercise(writeExercise(exercise))).toEqual({ ok: true, exercise });
  for (const text of [
    'no json',
    '{}',
    '{"kind":"other"}',
    writeExercise({ ...exercise, exercise: 'fifth' }),
    writeExercise({ ...exercise, seed: -1 }),
  ]) {
    const read = readExercise(text);
    expect(!read.ok && read.message.length).toBeGreaterThan(10);
  }
});

test('the next exercise is the one that went wrong, then one that was never done, then a fault to find', () => {
  const record = (exercise: string, more: object): ExerciseRecord => {
    const checked = checkRecord({
      id: exercise,
      version: RECORD_VERSION,
      atMs: 1000,
      zoneMin: 0,
      type: 'exercise',
      exercise,
      seed: 1,
      timeS: 9,
      value: 1,
      ...more,
    });
    if (!checked.ok) throw new Error(checked.message);
    return checked.record as ExerciseRecord;
  };
  expect(nextExercise([], 0).why).toContain('not done this one yet');
  const over = record('a-peg', { practice: 'hands', overshoots: 2 });
  expect(nextExercise([over], 1e6)).toMatchObject({
    exercise: 'a-peg',
    why: expect.stringContaining('passed the target'),
  });
  const all = [...HAND_EXERCISES.map((e) => record(e, { practice: 'hands', overshoots: 0 }))];
  expect(nextExercise(all, 1e6).practice).toBe('ear');
});
