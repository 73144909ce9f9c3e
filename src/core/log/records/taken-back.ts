import { id } from './fields';
import { recordKind, type RecordOf } from './record';

/** Takes back the record that it supersedes, putting nothing in its place. */
export const takenBack = recordKind(
  'taken-back',
  { supersedes: id().required() },
  (r, names) => {
    const before = names.takenBack(r.supersedes);
    const of = names.record(before ?? r.supersedes) ?? 'an entry that is not here';
    return `${before === undefined ? 'Taken back' : 'Brought back'}: ${of}`;
  },
  {
    supersedes: 'sample-3',
  },
);
export type TakenBackRecord = RecordOf<typeof takenBack>;
