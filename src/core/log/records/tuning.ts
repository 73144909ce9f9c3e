import { array } from 'yup';
import { MOST_CAPO, MOST_STRINGS } from '../../limits';
import { count, id, instrumentName, noteField, offsetField, part, type FieldsOf } from './fields';
import { ofInstrument, recordKind, type RecordOf } from './record';

const tuned = { stringId: id().required(), note: noteField(), offsetCents: offsetField() };
/** Where one string stands in a tuning: the note that sounds, and how far beside its equal-tempered place, cents. */
export type TunedString = FieldsOf<typeof tuned>;

/** What the strings of an instrument are tuned to from now on, until another one or until its own notes are edited. */
export const tuning = recordKind(
  'tuning',
  {
    ...ofInstrument,
    name: instrumentName(),
    /** The fret that a capo lies on. */
    capo: count(1, MOST_CAPO).optional(),
    strings: array().of(part(tuned).required()).min(1).max(MOST_STRINGS).required(),
  },
  (r, names) => `${names.instrument(r.instrumentId)}: tuned as ${r.name} (${r.strings.map((s) => s.note).join(' ')})`,
  {
    instrumentId: 'x',
    name: 'Down a half step',
    capo: 2,
    strings: [
      { stringId: 's1', note: 'D#4', offsetCents: 0 },
      { stringId: 's2', note: 'G#3', offsetCents: 2 },
    ],
  },
);
export type TuningRecord = RecordOf<typeof tuning>;

/** A tuning is no longer offered; what was read in it stays as it was. */
export const tuningForgotten = recordKind(
  'tuning-forgotten',
  { ...ofInstrument, name: instrumentName() },
  (r, names) => `${names.instrument(r.instrumentId)}: tuning ${r.name} no longer offered`,
  { instrumentId: 'x', name: 'Down a half step' },
);
export type TuningForgottenRecord = RecordOf<typeof tuningForgotten>;
