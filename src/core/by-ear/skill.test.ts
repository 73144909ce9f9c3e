import { SAMPLES } from '../../../testing/samples';
import type { ExerciseRecord, JudgementRecord } from '../log';
import { earError, earSkill, earSpread, earWorth, noticedWords, toldInPractice } from '.';

const judged = (cents: number, againstCents: number, interval: [number, number], expectCents = 0): JudgementRecord => ({
  id: `${cents}${againstCents}${interval.join()}`,
  version: 2,
  type: 'judgement',
  atMs: 0,
  zoneMin: 0,
  instrumentId: 'x',
  stringId: 's1',
  againstId: 's2',
  passId: 'p',
  school: 'fifths',
  interval,
  expectCents,
  cents,
  againstCents,
  sigmaCents: 0.2,
});

test('an ear’s error is counted from beatless, not from the target', () => {
  // A pure fifth stands two cents wide of the tempered one: at its pure place the ear made no error.
  expect(earError(judged(3.955, 2, [3, 2], -1.955))).toBeCloseTo(0, 9);
  expect(earError(judged(2, 2, [1, 1]))).toBe(0);
});

test('bias and spread by interval, whichever string lies above', () => {
  const skill = earSkill([
    judged(1, 0, [1, 1]),
    judged(3, 0, [1, 1]),
    judged(2, 0, [1, 1]),
    judged(-1, 0, [3, 2]),
    judged(-3, 0, [2, 3]),
  ]);
  expect(skill).toEqual([
    { interval: '1:1', count: 3, biasCents: 2, spreadCents: 1 },
    { interval: '3:2', count: 2, biasCents: -2, spreadCents: null },
  ]);
  expect(earSpread([judged(1, 0, [1, 1])])).toBeUndefined();
  expect(earSpread([judged(3, 0, [1, 1]), judged(-3, 0, [1, 1]), judged(3, 0, [1, 1])])).toBeCloseTo(3, 9);
});

test('before three rounds an ear is worth what it told in practice; a hunt or a job tells nothing of it', () => {
  const practised = (exercise: string, value: number, practice: ExerciseRecord['practice'] = 'ear') =>
    ({ ...SAMPLES.exercise, practice, exercise, value }) as ExerciseRecord;
  expect(earWorth({ judgements: [], exercises: [practised('hunt', 3, 'hunt'), practised('saddle', 1, 'job')] })).toBe(
    undefined,
  );
  const exercises = [practised('fifth', 9), practised('fifth', 4), practised('against-a-tone', 2)];
  expect(earWorth({ judgements: [], exercises })).toEqual({ cents: 3 / 0.674, by: 'practice' });
  expect(toldInPractice(exercises, 'against-a-tone')).toBe(2);
  expect(noticedWords(-1.5, 2)).toMatch(/might not notice/);
  expect(noticedWords(2.5, 2)).toMatch(/would hear/);
  const judgements = [1, 2, 3].map((cents) => ({ ...SAMPLES.judgement, cents, againstCents: 0, expectCents: 0 }));
  expect(earWorth({ judgements, exercises })?.by).toBe('rounds');
});
