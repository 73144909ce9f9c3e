import { signedCents } from '../../music';
import { oneOf, stringIds, within } from './fields';
import { ofInstrument, recordKind, type RecordOf } from './record';

export const ADJUSTMENTS = ['saddle', 'low-foot', 'high-foot', 'nut', 'action', 'other'] as const;

/** A saddle, or one foot of a loose bridge, was moved, away from the nut positive; or the action, higher positive. */
export const adjustment = recordKind(
  'adjustment',
  {
    ...ofInstrument,
    stringIds: stringIds(),
    what: oneOf(ADJUSTMENTS).required(),
    moveMm: within(-100, 100).required(),
  },
  (r, names) => {
    const [only] = r.stringIds;
    const of = r.stringIds.length === 1 ? names.string(r.instrumentId, only!) : names.instrument(r.instrumentId);
    return `${of}: ${r.what.replace('-', ' ')} moved ${signedCents(r.moveMm)} mm`;
  },
  { instrumentId: 'x', stringIds: ['s1'], what: 'saddle', moveMm: 1.2 },
);
export type AdjustmentRecord = RecordOf<typeof adjustment>;
