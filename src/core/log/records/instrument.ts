import { array } from 'yup';
import { MOST_STRINGS } from '../../limits';
import { BRIDGES, STRING_MATERIALS, TUNERS } from '../../strings';
import {
  finite,
  gaugeField,
  headField,
  id,
  instrumentName,
  lengthField,
  noteField,
  oneOf,
  part,
  text,
  tunerField,
  yes,
  type FieldsOf,
} from './fields';
import { ofInstrument, recordKind, type RecordOf } from './record';

const build = part({
  tuner: oneOf(TUNERS).required(),
  fineTuners: yes().required(),
  frets: yes().required(),
  bowed: yes().required(),
  holds: oneOf(BRIDGES).required(),
  tree: yes().optional(),
  locking: yes().optional(),
});

const plan = {
  stringId: id().required(),
  /** Note name in scientific pitch, 'A2'. */
  note: noteField(),
  lengthMm: lengthField(),
  material: oneOf(STRING_MATERIALS).required(),
  /** Outer diameter; null when unknown. */
  gaugeMm: gaugeField().defined(),
  /** Unit mass from the packet, kg/m; overrides the estimate. */
  unitMassKgPerM: finite().positive().max(1).optional(),
  /** From the nut to the tuner, or to the guide where there is one, mm. */
  headMm: headField().optional(),
  /** Its tuner in the owner's words; otherwise by the family's way. */
  tuner: tunerField().optional(),
};

/** A string of an instrument; where it stands beside its note, cents, comes from the tuning in force and is never kept here. */
export type StringPlan = FieldsOf<typeof plan> & { offsetCents?: number };

/** An instrument as it is from this record on; editing writes a new one with the same instrumentId. */
export const instrument = recordKind(
  'instrument',
  {
    ...ofInstrument,
    name: instrumentName(),
    family: text(40).required(),
    strings: array()
      .of(part(plan).required())
      .min(1, 'An instrument has at least one string.')
      .max(MOST_STRINGS)
      .required(),
    /** Put away: no longer on the bench. */
    away: yes().optional(),
    /** What the owner says of its build, where it is not the family's. */
    build: build.optional(),
  },
  (r) => `${r.name}: ${r.strings.map((s) => s.note).join(' ')}${r.away ? ', put away' : ''}`,
  {
    instrumentId: 'x',
    name: 'Sample',
    family: 'own',
    strings: ['E4', 'A3'].map((note, i) => ({
      stringId: `s${i + 1}`,
      note,
      lengthMm: 650,
      material: 'plain-nylon',
      gaugeMm: 0.7,
      headMm: 90,
      tuner: 'the upper one',
    })),
  },
);
export type InstrumentRecord = RecordOf<typeof instrument>;
