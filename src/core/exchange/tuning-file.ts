import { array, number, object, string, ValidationError } from 'yup';
import { brief, MOST_CAPO, MOST_STRINGS } from '../limits';
import { instrumentName, noteField, offsetField } from '../log';

/** One tuning as a file of its own: strings from the first as the instrument has them; see docs/formats.md. */
export interface TuningFile {
  format: 'slow-anchor-tuning/1';
  name: string;
  capo?: number;
  strings: { note: string; offsetCents: number }[];
}
export type TuningFileOutcome = { ok: true; tuning: TuningFile } | { ok: false; message: string };

const schema = object({
  format: string().strict().oneOf(['slow-anchor-tuning/1']).required(),
  name: instrumentName(),
  capo: number().strict().integer().min(1).max(MOST_CAPO).optional(),
  strings: array()
    .of(
      object({
        note: noteField(),
        offsetCents: offsetField(),
      })
        .noUnknown()
        .default(undefined)
        .required(),
    )
    .min(1)
    .max(MOST_STRINGS)
    .required(),
}).noUnknown();

/** A tuning as a file, JSON. */
export const writeTuningFile = (tuning: Omit<TuningFile, 'format'>): string =>
  JSON.stringify({ format: 'slow-anchor-tuning/1', ...tuning } satisfies TuningFile, null, 1) + '\n';

/** Longest text that can be a tuning, characters. */
const LONGEST = 20000;

/** Reads a tuning of unknown origin. */
export function readTuningFile(text: string): TuningFileOutcome {
  const fault = (message: string): TuningFileOutcome => ({
    ok: false,
    message: `${brief(message)} Nothing was taken.`,
  });
  if (text.length > LONGEST) return fault('The file is longer than any tuning.');
  try {
    return { ok: true, tuning: schema.validateSync(JSON.parse(text), { strict: true }) as TuningFile };
  } catch (error) {
    if (error instanceof ValidationError) return fault(`This is no tuning: ${error.message}.`);
    if (error instanceof SyntaxError) return fault(`The file is no JSON: ${error.message}.`);
    throw error;
  }
}
