import { boolean, number, object, string } from 'yup';
import { readTyped } from '../core/guided';
import { MOST_CENTS, MOST_OFFSET_CENTS } from '../core/limits';
import { ratioOfCents, stringTargetHz } from '../core/music';
import { checked, refused } from './lines';
import { a4Of } from './measure';

const figureSchema = object({
  note: string().strict().required(),
  text: string().strict().defined().max(100),
  offsetCents: number().strict().min(-MOST_OFFSET_CENTS).max(MOST_OFFSET_CENTS).optional(),
  lastCents: number().strict().min(-MOST_CENTS).max(MOST_CENTS).nullable().optional(),
  sure: boolean().strict().optional(),
});

/** One line of `figure`: what a person typed of a string in; a reading, or the question that the app would ask, out. */
export function figureLine(item: Record<string, unknown>): object {
  const reference = a4Of(item.a4);
  if (!reference.ok) return reference;
  const { a4: _a4, ...rest } = item;
  const valid = checked(figureSchema, rest, 'bad-figure');
  if (!valid.ok) return valid;
  const { note, text, offsetCents = 0, lastCents, sure = false } = valid.value;
  const belongsHz = stringTargetHz({ note, offsetCents }, reference.a4Hz);
  if (belongsHz === undefined) return refused('bad-target', 'note is a note such as "A2".');
  const expectedHz = belongsHz * ratioOfCents(lastCents ?? 0);
  const known = typeof lastCents === 'number';
  const typed = readTyped(text, { name: note, belongsHz, expectedHz, known, sure }, reference.a4Hz);
  return typed.is === 'refused' ? refused('bad-figure', typed.message) : { ok: true, ...typed };
}
