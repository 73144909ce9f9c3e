import { text, within } from './fields';
import { ofString, recordKind, type RecordOf } from './record';

/** One stretch round: how far the string dropped, flat positive. */
export const round = recordKind(
  'round',
  { ...ofString, dropCents: within(-2000, 2000).required(), school: text(40).required() },
  (r, names) => `${names.string(r.instrumentId, r.stringId)}: stretch round, dropped ${r.dropCents.toFixed(1)} cents`,
  { instrumentId: 'x', stringId: 's1', dropCents: 12, school: 'stretch' },
);
export type RoundRecord = RecordOf<typeof round>;
