import { array } from 'yup';
import { MOST_ACTS } from '../../limits';
import { count, finite, id, oneOf, part, text, within, yes } from './fields';
import { recordKind, type RecordOf } from './record';

export const PRACTICES = ['hands', 'ear', 'hunt', 'job'] as const;

/** One exercise that was done, on a simulated string: never a reading, and of no instrument. */
export const exercise = recordKind(
  'exercise',
  {
    practice: oneOf(PRACTICES).required(),
    /** Which one. */
    exercise: id().required(),
    seed: count(0, 2 ** 31).required(),
    /** Named by who handed it out. */
    task: text(80).optional(),
    /** Hands: where the strings stood, cents by seconds, one after another. */
    path: array()
      .of(
        part({
          string: count(0, 59).required(),
          tS: within(0, 36000).required(),
          cents: within(-6000, 6000).required(),
        }).required(),
      )
      .max(4000)
      .optional(),
    /** Ears: every answer. */
    trials: array()
      .of(part({ cents: within(0, 200).required(), right: yes().required() }).required())
      .max(500)
      .optional(),
    /** Hunts: the tests in their order, what was said, and what it was. */
    tests: array().of(id().required()).max(30).optional(),
    said: id().optional(),
    truth: id().optional(),
    /** Whole jobs: the steps in their order. */
    acts: array().of(id().required()).max(MOST_ACTS).optional(),
    /** What the figure counts, where it is not cents. */
    unit: text(20).optional(),
    /** The figure that is kept over time: cents off, or the threshold in cents, or tests. */
    value: finite().required(),
    low: finite().optional(),
    high: finite().optional(),
    /** In tune, told rightly, found. */
    right: yes().optional(),
    overshoots: count(0, 1000).optional(),
    timeS: within(0, 36000).required(),
  },
  (r) =>
    `Practice, ${r.exercise.replaceAll('-', ' ')}: ${r.value.toFixed(1)} ${r.unit ?? (r.practice === 'hunt' ? 'tests' : 'cents')}`,
  {
    practice: 'ear',
    exercise: 'fifth',
    seed: 7,
    task: 'For Thursday',
    trials: [{ cents: 4, right: true }],
    acts: ['up', 'done'],
    unit: 'cents',
    value: 3.2,
    low: 2,
    high: 5,
    right: true,
    timeS: 120,
  },
);
export type ExerciseRecord = RecordOf<typeof exercise>;
