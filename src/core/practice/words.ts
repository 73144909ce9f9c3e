import { REMEDIES } from '../causes';
import type { ExerciseRecord } from '../log';
import { signedCents } from '../music';
import { EAR_EXERCISES, type EarExercise } from './ears';
import { practiceOf } from './file';
import { JOBS, jobTitle } from './jobs';
import { times } from './jobs/job';
import { HAND_EXERCISES, HAND_TOLERANCE_CENTS, type HandExercise, type HandReport } from './hands';
import type { HuntEnd } from './hunt';
import type { Threshold } from './staircase';
import { DAY, MINUTE } from '../base';

export const HAND_WORDS: Record<HandExercise, { title: string; task: string }> = {
  'from-slack': { title: 'From slack to pitch', task: 'Bring the slack string up to pitch. Do not pass it.' },
  'from-sharp': { title: 'From sharp', task: 'It is sharp. Go below, then up to pitch.' },
  'little-turns': { title: 'Little turns', task: 'It is a few cents flat. Take it up in little turns.' },
  'a-peg': {
    title: 'A peg that sticks',
    task: 'Push the peg in while you turn, or it runs back. Bring it up from below.',
  },
  'a-pin': {
    title: 'A pin with a key',
    task: 'A pin has no gears: the smallest turn is cents. Bring it up from below.',
  },
  'fine-tuner': { title: 'A fine tuner', task: 'Its screw has an end on both sides. Use it from below.' },
  falling: {
    title: 'A new string falls',
    task: 'It falls while you tune. Leave it where it will be right in a minute.',
  },
  six: { title: 'Six in ninety seconds', task: 'All six strings, from below, in a minute and a half.' },
};
export const EAR_WORDS: Record<EarExercise, { title: string; task: string }> = {
  'flat-sharp-low': { title: 'Flat or sharp, low', task: 'Is the second note flat or sharp of the first?' },
  'flat-sharp-middle': { title: 'Flat or sharp, middle', task: 'Is the second note flat or sharp of the first?' },
  'flat-sharp-high': { title: 'Flat or sharp, high', task: 'Is the second note flat or sharp of the first?' },
  'against-a-tone': { title: 'A string against a tone', task: 'Is the string flat or sharp of the tone?' },
  fifth: { title: 'Fifths', task: 'Is the upper note of the fifth flat or sharp?' },
  octave: { title: 'Octaves', task: 'Is the upper note of the octave flat or sharp?' },
  'noisy-room': { title: 'In a noisy room', task: 'Is the second note flat or sharp of the first?' },
  'which-pair': { title: 'In tune or not', task: 'Two pairs: which one is out of tune?' },
  nearer: { title: 'Which is nearer', task: 'Which of the two notes is nearer to the one before them?' },
};
export const HUNT_TITLE = 'Find a hidden fault';
const TITLES: Record<string, string> = Object.fromEntries([
  ...Object.entries({ ...HAND_WORDS, ...EAR_WORDS }).map(([exercise, { title }]) => [exercise, title]),
  ...JOBS.map((job) => [job, jobTitle(job)]),
  ['hunt', HUNT_TITLE],
]);
/** What an exercise is called, by its code. */
export const exerciseTitle = (exercise: string): string => TITLES[exercise] ?? exercise;
export const CARE = 'Keep headphones soft: loud practice harms hearing. Rest your ears after a quarter of an hour.';

/** What a hand did, in sentences: plain figures, no marks. */
export function handWords(r: HandReport): string[] {
  if (r.broke) return ['The string broke: it was taken far above its pitch. On a real one your face stays away.'];
  const end =
    r.of === 1
      ? `It stands ${signedCents(r.finalCents)} cents from its target.`
      : `${r.inTune} of ${r.of} strings stand within ±${HAND_TOLERANCE_CENTS} cents; the furthest at ${signedCents(r.finalCents)}.`;
  const over =
    r.overshoots === 0
      ? 'You did not pass the target.'
      : `You passed the target ${times(r.overshoots)}, by ${r.furthestOver.toFixed(1)} cents at most.`;
  const way = r.fromBelow === r.of ? 'You came from below.' : 'The last turn came from above: it may slip flat later.';
  const time = `It took ${r.timeS.toFixed(0)} seconds${r.late ? ', longer than asked' : ''}.`;
  return [end, over, way, time, `It reached ${(100 * r.mostLoad).toFixed(0)} % of its breaking load.`];
}

export const earWords = ({ cents, low, high, trials }: Threshold): string =>
  `You tell ${cents.toFixed(1)} cents three times in four (${low.toFixed(1)} to ${high.toFixed(1)}), after ${trials} answers.`;

export function huntWords({ truth, said, right, tests, finder }: HuntEnd): string[] {
  const name = (c: HuntEnd['truth']) => REMEDIES[c].name;
  return [
    right ? `Right: ${name(truth)}.` : `It was another: ${name(truth)}. You said: ${name(said)}.`,
    `You took ${tests} ${tests === 1 ? 'test' : 'tests'}.`,
    `From the same tests the finder would say: ${name(finder)}.`,
  ];
}

/** An exercise that is worth doing next, and why. */
export interface Wanted {
  practice: ExerciseRecord['practice'];
  exercise: string;
  why: string;
}

/** What was not done for so long is due again, days (house). */
const AGAIN_DAYS = 7;

/** The next exercise by need: what went wrong last, then what was never done, then what is longest ago. */
export function nextExercise(done: readonly ExerciseRecord[], nowMs: number): Wanted {
  const want = (exercise: string, why: string): Wanted => ({ practice: practiceOf(exercise), exercise, why });
  const newest = (exercise: string) => done.findLast((r) => r.exercise === exercise);
  const hands = HAND_EXERCISES.map((e) => newest(e)).filter((r) => r !== undefined);
  const overshot = hands.filter((r) => (r.overshoots ?? 0) > 0).sort((a, b) => b.atMs - a.atMs)[0];
  if (overshot && nowMs - overshot.atMs > MINUTE)
    return want(overshot.exercise, `Your hands passed the target at “${exerciseTitle(overshot.exercise)}”.`);
  const ears = EAR_EXERCISES.map((e) => newest(e)).filter((r) => r !== undefined);
  const worst = [...ears].sort((a, b) => b.value - a.value)[0];
  const never = [...HAND_EXERCISES, ...EAR_EXERCISES].find((e) => !newest(e));
  if (never) return want(never, 'You have not done this one yet.');
  if (worst && nowMs - worst.atMs > AGAIN_DAYS * DAY)
    return want(
      worst.exercise,
      `Your ear is at ${worst.value.toFixed(1)} cents at “${exerciseTitle(worst.exercise)}”.`,
    );
  const job = [...JOBS, 'hunt'].sort((a, b) => (newest(a)?.atMs ?? 0) - (newest(b)?.atMs ?? 0))[0]!;
  return want(job, 'Hands and ears are looked after. This whole job is longest ago.');
}
/** What an answer of the ear was worth. @param cents how far it was off */
export const answerWords = (right: boolean, cents: number): string =>
  `${right ? 'Right' : 'Wrong'}: it was ${cents.toFixed(1)} cents.`;
