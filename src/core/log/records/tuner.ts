import { within, yes } from './fields';
import { ofString, recordKind, type RecordOf } from './record';

/** What bring-ups have taught of a string's tuner; the newest counts. */
export const tuner = recordKind(
  'tuner',
  {
    ...ofString,
    /** It goes the other way than usual. */
    other: yes().required(),
    /** How much more a turn moves it than is reckoned. */
    gain: within(0.1, 10).required(),
  },
  (r, names) => {
    const way = r.other ? ' goes the other way,' : '';
    return `${names.string(r.instrumentId, r.stringId)}: its tuner${way} moves it ${r.gain.toFixed(1)} times what was reckoned`;
  },
  { instrumentId: 'x', stringId: 's1', other: true, gain: 1.1 },
);
export type TunerRecord = RecordOf<typeof tuner>;
