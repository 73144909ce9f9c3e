import { array } from 'yup';
import { id, instant, lead, oneOf, part, within, yes, type FieldsOf } from './fields';
import { ofInstrument, recordKind, type RecordOf } from './record';

export const PASS_KINDS = ['check', 'octave'] as const;

const visit = {
  purpose: id().required(),
  /** In the order of need, and how far above its target each is left, cents; the others are left alone. */
  strings: array()
    .of(part({ stringId: id().required(), leadCents: lead().required() }).required())
    .max(400)
    .required(),
  /** What stands nearer to that is left alone, cents. */
  bringUpFromCents: within(0, 100).required(),
};
/** What a plan asks of one walk to an instrument. */
export type PassVisit = FieldsOf<typeof visit>;

/** A pass of guided readings under way; a newer record with the same passId replaces it. What is done is read from the readings. */
export const pass = recordKind(
  'pass',
  {
    ...ofInstrument,
    passId: id().required(),
    kind: oneOf(PASS_KINDS).required(),
    startedMs: instant().required(),
    /** Passed over this time: strings, or the steps of another kind of pass. */
    skipped: array().of(id().required()).max(400).required(),
    over: yes().required(),
    /** What the plan asked for when it began. */
    visit: part(visit).optional(),
  },
  (r, names) => {
    const stands = r.over ? 'ended' : r.skipped.length > 0 ? `goes on, ${r.skipped.length} skipped` : 'started';
    return `${names.instrument(r.instrumentId)}: ${r.kind} pass ${stands}`;
  },
  {
    instrumentId: 'x',
    passId: 'p1',
    kind: 'check',
    startedMs: 1_781_265_600_000,
    skipped: ['s2'],
    over: false,
    visit: { purpose: 'settle', strings: [{ stringId: 's1', leadCents: 1 }], bringUpFromCents: 0.8 },
  },
);
export type PassRecord = RecordOf<typeof pass>;
