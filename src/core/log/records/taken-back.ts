import { id } from './fields';
import { recordKind, type RecordOf } from './record';

/** Takes back the record that it supersedes, putting nothing in its place. */
export const takenBack = recordKind(
  'taken-back',
  { supersedes: id().required() },
  (r, names) => `Taken back: ${names.record(r.supersedes) ?? 'an entry that is not here'}`,
  {
    supersedes: 'sample-3',
  },
);
export type TakenBackRecord = RecordOf<typeof takenBack>;
