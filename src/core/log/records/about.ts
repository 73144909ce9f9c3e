import { array } from 'yup';
import { LONGEST_NAME, LONGEST_NOTE } from '../../limits';
import { id, text } from './fields';
import { ofInstrument, recordKind, type RecordOf } from './record';

/** What is known of an instrument beside its strings: whose it is, where it is, what it goes with. The newest counts. */
export const about = recordKind(
  'about',
  {
    ...ofInstrument,
    owner: text(LONGEST_NAME).optional(),
    place: text(LONGEST_NAME).optional(),
    tags: array().of(text(30).required()).max(12).optional(),
    /** Short code on its label. */
    code: text(16)
      .matches(/^[A-Za-z0-9-]*$/, 'A code has letters, figures and hyphens.')
      .optional(),
  },
  (r, names) => {
    const told = [
      r.owner && `owner ${r.owner}`,
      r.place && `kept at ${r.place}`,
      r.tags?.length && `tags ${r.tags.join(', ')}`,
      r.code && `code ${r.code}`,
    ].filter(Boolean);
    return `${names.instrument(r.instrumentId)}: ${told.join('; ') || 'owner, place and tags cleared'}`;
  },
  { instrumentId: 'x', owner: 'Orchestra', place: 'Locker 3', tags: ['school'], code: 'RQ-1' },
);
export type AboutRecord = RecordOf<typeof about>;

/** A photograph as a JPEG in base64: characters (about 300 kB). */
export const LARGEST_PHOTO = 400_000;

/** A remark on an instrument or one of its strings, with a photograph where there is one. */
export const remark = recordKind(
  'remark',
  {
    ...ofInstrument,
    stringId: id().optional(),
    text: text(LONGEST_NOTE).required(),
    /** JPEG, base64. */
    photo: text(LARGEST_PHOTO)
      .matches(/^[A-Za-z0-9+/]+=*$/, '${path} is no photograph')
      .optional(),
  },
  (r, names) => {
    const of = r.stringId ? names.string(r.instrumentId, r.stringId) : names.instrument(r.instrumentId);
    return `${of}: ${r.text}${r.photo ? ' (with a photograph)' : ''}`;
  },
  { instrumentId: 'x', stringId: 's1', text: 'The slot of this string is worn', photo: '/9j/4AAQ' },
);
export type RemarkRecord = RecordOf<typeof remark>;
