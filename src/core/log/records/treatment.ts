import { LONGEST_SHOW_MIN } from '../../limits';
import { oneOf, remarkField, stringIds, within } from './fields';
import { ofInstrument, recordKind, type RecordOf } from './record';

export const TREATMENTS = ['stretched', 'warmed', 'played', 'lubricated', 'other'] as const;
export type Treatment = (typeof TREATMENTS)[number];

/** Something done to strings that may change how they settle. */
export const treatment = recordKind(
  'treatment',
  {
    ...ofInstrument,
    stringIds: stringIds(),
    treatment: oneOf(TREATMENTS).required(),
    /** How long it was warmed or played. */
    minutes: within(0.1, LONGEST_SHOW_MIN).optional(),
    note: remarkField(),
  },
  (r, names) => {
    const of = r.stringIds.map((s) => names.string(r.instrumentId, s)).join('; ');
    const long = r.minutes ? ` for ${r.minutes.toFixed(0)} min` : '';
    return `${of}: ${r.treatment}${long}${r.note ? ` (${r.note})` : ''}`;
  },
  { instrumentId: 'x', stringIds: ['s1', 's2'], treatment: 'lubricated', note: 'graphite' },
);
export type TreatmentRecord = RecordOf<typeof treatment>;
