import { array } from 'yup';
import { MOST_STRINGS } from '../../limits';
import { id, part, text, yes, type FieldsOf } from './fields';
import { ofString, recordKind, type RecordOf } from './record';

export type StringRef = FieldsOf<typeof ofString>;
const stringRef = () => part(ofString).required();

/** Treated strings against untreated ones, matched pair by pair. A newer record with the same trialId replaces it. */
export const trial = recordKind(
  'trial',
  {
    trialId: id().required(),
    /** What is compared, in the player's words. */
    what: text(80).required(),
    byLot: yes().required(),
    pairs: array()
      .of(part({ treated: stringRef(), control: stringRef() }).required())
      .min(1)
      .max(MOST_STRINGS)
      .required(),
    /** Nothing is counted after this. */
    over: yes().optional(),
  },
  (r) => `Trial${r.over ? ' ended' : ''}: ${r.what}, ${r.pairs.length} pairs${r.byLot ? ', by lot' : ''}`,
  {
    trialId: 't1',
    what: 'stretched / not',
    byLot: true,
    pairs: [{ treated: { instrumentId: 'x', stringId: 's1' }, control: { instrumentId: 'x', stringId: 's2' } }],
  },
);
export type TrialRecord = RecordOf<typeof trial>;
