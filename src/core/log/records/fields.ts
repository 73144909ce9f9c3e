import { array, boolean, mixed, number, object, string, type ISchema, type ObjectShape } from 'yup';
import {
  COLDEST_C,
  EARLIEST_MS,
  LATEST_MS,
  LEAST_HZ,
  LEAST_SIGMA_CENTS,
  LONGEST_NAME,
  LONGEST_NOTE,
  MOST_CENTS,
  MOST_HZ,
  MOST_LEAD_CENTS,
  MOST_OFFSET_CENTS,
  MOST_STRINGS,
  WARMEST_C,
} from '../../limits';
import { A4_MAX_HZ, A4_MIN_HZ, parseNote } from '../../music';

/** What a field holds, with optional ones missing rather than undefined. */
export type FieldValue<T> = T extends readonly unknown[]
  ? { [I in keyof T]: FieldValue<T[I]> }
  : T extends object
    ? Flat<
        { [K in keyof T as undefined extends T[K] ? never : K]: FieldValue<T[K]> } & {
          [K in keyof T as undefined extends T[K] ? K : never]?: FieldValue<Exclude<T[K], undefined>>;
        }
      >
    : T;
export type Flat<T> = { [K in keyof T]: T[K] };
/** The fields of a record, read off their schemas. */
export type FieldsOf<F extends ObjectShape> = FieldValue<{
  [K in keyof F]: F[K] extends ISchema<unknown> ? F[K]['__outputType'] : never;
}>;

export const finite = () =>
  number()
    .strict()
    .test('finite', '${path} must be a number', (v) => v === undefined || v === null || Number.isFinite(v));
export const within = (low: number, high: number) => finite().min(low).max(high);
export const count = (low: number, high: number) => within(low, high).integer();
export const instant = () =>
  finite().integer().min(EARLIEST_MS, '${path} lies before 1970').max(LATEST_MS, '${path} lies after 2199');
export const hertz = () => within(LEAST_HZ, MOST_HZ);
export const a4 = () => within(A4_MIN_HZ, A4_MAX_HZ);
export const centsField = () => within(-MOST_CENTS, MOST_CENTS);
export const sigma = (most = 100) => within(LEAST_SIGMA_CENTS, most);
export const lead = () => within(0, MOST_LEAD_CENTS);
export const degrees = () => within(COLDEST_C, WARMEST_C);
export const yes = () => boolean().strict();
/**
 * @param max characters
 */
export const text = (max: number) => string().strict().max(max, '${path} is longer than ${max} characters');
export const id = () => text(80).matches(/^[A-Za-z0-9_:.-]+$/, '${path} is not an id');
export const remarkField = () => text(LONGEST_NOTE).optional();
/** One of a list of codes. */
export const oneOf = <C extends string>(codes: readonly C[]) => mixed<C>().oneOf(codes);
export const part = <F extends ObjectShape>(shape: F) => object(shape).noUnknown().default(undefined);
export const stringIds = () => array().of(id().required()).min(1).max(MOST_STRINGS).required();
/** Two whole numbers: an interval, the upper one first. */
export const interval = () =>
  mixed<[number, number]>()
    .test('interval', '${path} must be two whole numbers from 1 to 24', (v) => v === undefined || isInterval(v))
    .required();
const isInterval = (v: unknown) =>
  Array.isArray(v) && v.length === 2 && v.every((n) => Number.isInteger(n) && Number(n) >= 1 && Number(n) <= 24);

const VISIBLE = /[\p{L}\p{N}\p{P}\p{S}]/u;
/** Name of an instrument or a tuning, one to sixty characters. */
export const instrumentName = () =>
  text(LONGEST_NAME)
    .required('Give the instrument a name.')
    .test('visible', 'A name has a letter, a figure or a sign that can be seen.', (v) => !v || VISIBLE.test(v))
    .test(
      'trimmed',
      'A name begins and ends with a letter or a figure, not with a space.',
      (v) => !v || v === v.trim(),
    );
export const noteField = () =>
  text(4)
    .required('Give the note, for example A2.')
    .test('note', 'Write the note as a letter, # or b, and an octave: F#3.', (v) => !v || parseNote(v) !== undefined);
export const lengthField = () =>
  finite()
    .typeError('Give the speaking length in mm.')
    .required('Give the speaking length in mm.')
    .min(80, 'A speaking length is 80 mm or more.')
    .max(2500, 'A speaking length is 2500 mm or less.');
export const gaugeField = () =>
  finite()
    .typeError('Give the gauge as 0.25, .010 or 10, or leave it empty.')
    .nullable()
    .min(0.1, 'A gauge is 0.1 mm or more.')
    .max(6.5, 'A gauge is 6.5 mm or less.');
/** How far beside equal temperament a string is tuned, cents. */
export const offsetField = () => within(-MOST_OFFSET_CENTS, MOST_OFFSET_CENTS).required();
export const headField = () => within(5, 1000);
/** Which tuner, in the owner's words. */
export const tunerField = () => text(LONGEST_NAME);
