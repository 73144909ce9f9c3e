import { id, oneOf, remarkField } from './fields';
import { ofInstrument, recordKind, type RecordOf } from './record';

/** One step of the guided fitting, ticked or skipped; of the whole instrument where no string is named. */
export const fitting = recordKind(
  'fitting',
  {
    ...ofInstrument,
    stringId: id().optional(),
    step: id().required(),
    outcome: oneOf(['done', 'skipped'] as const).required(),
    /** The player's own note, or why it was skipped. */
    note: remarkField(),
  },
  (r, names) => {
    const of = r.stringId ? names.string(r.instrumentId, r.stringId) : names.instrument(r.instrumentId);
    return `${of}: ${r.step.replaceAll('-', ' ')} ${r.outcome}${r.note ? ` (${r.note})` : ''}`;
  },
  { instrumentId: 'x', stringId: 's1', step: 'look', outcome: 'skipped', note: 'bone, clean' },
);
export type FittingRecord = RecordOf<typeof fitting>;
