import { mixed, number, object, string, ValidationError } from 'yup';
import { brief } from '../limits';
import { PRACTICES, type ExerciseRecord } from '../log';
import { EAR_EXERCISES } from './ears';
import { HAND_EXERCISES } from './hands';
import { JOBS } from './jobs';

const KIND = 'slow-anchor-exercise';
const OF: Record<ExerciseRecord['practice'], readonly string[]> = {
  hands: HAND_EXERCISES,
  ear: EAR_EXERCISES,
  hunt: ['hunt'],
  job: JOBS,
};
const ALL = Object.values(OF).flat();
/** What kind of practice an exercise is. */
export const practiceOf = (exercise: string): ExerciseRecord['practice'] =>
  PRACTICES.find((p) => OF[p].includes(exercise)) ?? 'hunt';

/** An exercise as a teacher hands it out. */
export interface SharedExercise {
  practice: ExerciseRecord['practice'];
  exercise: string;
  seed: number;
  task: string;
}

const schema = object({
  version: number().oneOf([1], 'This exercise was made by a newer version.').required(),
  practice: mixed<ExerciseRecord['practice']>().oneOf(PRACTICES).required(),
  exercise: mixed<string>().oneOf(ALL, 'This exercise is not known here.').required(),
  seed: number()
    .strict()
    .integer()
    .min(0)
    .max(2 ** 31)
    .required(),
  task: string().strict().max(80).default(''),
});

/** An exercise to hand out, JSON. */
export const writeExercise = (exercise: SharedExercise): string =>
  JSON.stringify({ kind: KIND, version: 1, ...exercise }, null, 2);

/** What came of one, to be handed back. */
export const writeResult = (record: ExerciseRecord): string =>
  JSON.stringify({ kind: `${KIND}-result`, ...record, id: undefined, written: undefined, version: 1 }, null, 2);

/** An exercise from a file of unknown origin, or why it is none. */
export function readExercise(text: string): { ok: true; exercise: SharedExercise } | { ok: false; message: string } {
  try {
    const given: unknown = JSON.parse(text);
    if ((given as { kind?: unknown } | null)?.kind !== KIND)
      return { ok: false, message: 'This is no exercise of Slow Anchor.' };
    const { practice, exercise, seed, task } = schema.validateSync(given);
    if (!OF[practice].includes(exercise))
      return { ok: false, message: 'This exercise is not of the kind that it says.' };
    return { ok: true, exercise: { practice, exercise, seed, task } };
  } catch (error) {
    if (error instanceof SyntaxError) return { ok: false, message: 'This file is no JSON.' };
    if (error instanceof ValidationError) return { ok: false, message: brief(error.message) };
    throw error;
  }
}
