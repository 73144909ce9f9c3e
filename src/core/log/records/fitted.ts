import { within } from './fields';
import { ofString, recordKind, type RecordOf } from './record';

/** A string was put on at atMs; its turns round the post, where they were counted. */
export const fitted = recordKind(
  'fitted',
  { ...ofString, windings: within(0, 40).optional() },
  (r, names) => `${names.string(r.instrumentId, r.stringId)}: new string${r.windings ? `, ${r.windings} turns` : ''}`,
  { instrumentId: 'x', stringId: 's1', windings: 3 },
);
export type FittedRecord = RecordOf<typeof fitted>;
