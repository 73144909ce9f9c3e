import { array, boolean, mixed, number, object, string, ValidationError, type AnyObjectSchema } from 'yup';
import { A4_MAX_HZ, A4_MIN_HZ, parseNote } from '../music';
import { STRING_MATERIALS } from '../strings';
import { migrate } from './migrate';
import {
  ADJUSTMENTS,
  ARRIVALS,
  BREAK_PLACES,
  PASS_KINDS,
  PURPOSES,
  RECORD_VERSION,
  REMOVAL_REASONS,
  SOURCES,
  TOUCHES,
  TREATMENTS,
  type LogRecord,
  type RecordType,
} from './types';

const finite = () =>
  number()
    .strict()
    .test('finite', '${path} must be a number', (v) => v === undefined || v === null || Number.isFinite(v));
const instant = () => finite().integer().min(0).max(8.64e15);
const text = (max: number) => string().strict().max(max, '${path} is longer than ${max} characters');
const id = () => text(80).matches(/^[A-Za-z0-9_:.-]+$/, '${path} is not an id');

const base = {
  id: id().required(),
  version: mixed<number>().oneOf([RECORD_VERSION], `version must be ${RECORD_VERSION}`).required(),
  atMs: instant().required(),
  zoneMin: finite().integer().min(-840).max(840).required(),
  supersedes: id().optional(),
};

/** Name of an instrument, one to sixty characters. */
export const instrumentName = () => text(60).trim().required('Give the instrument a name.');
export const noteField = () =>
  text(4)
    .required('Give the note, for example A2.')
    .test('note', 'Write the note as a letter, # or b, and an octave: F#3.', (v) => !v || parseNote(v) !== undefined);
export const lengthField = () =>
  finite()
    .typeError('Give the speaking length in mm.')
    .required('Give the speaking length in mm.')
    .min(80, 'A speaking length is 80 mm or more.')
    .max(2500, 'A speaking length is 2500 mm or less.');
export const gaugeField = () =>
  finite()
    .typeError('Give the gauge as 0.25, .010 or 10, or leave it empty.')
    .nullable()
    .min(0.1, 'A gauge is 0.1 mm or more.')
    .max(6.5, 'A gauge is 6.5 mm or less.');

const stringPlan = object({
  stringId: id().required(),
  note: noteField(),
  lengthMm: lengthField(),
  material: mixed<string>().oneOf(STRING_MATERIALS).required(),
  gaugeMm: gaugeField().defined(),
  unitMassKgPerM: finite().positive().max(1).optional(),
}).noUnknown();

const ofInstrument = { ...base, instrumentId: id().required() };
const ofString = { ...ofInstrument, stringId: id().required() };
const typed = (type: RecordType) => mixed<string>().oneOf([type]).required();
const note = () => text(400).optional();

const stringRef = object({ instrumentId: id().required(), stringId: id().required() }).noUnknown();

const schemas: Record<RecordType, AnyObjectSchema> = {
  instrument: object({
    ...base,
    type: typed('instrument'),
    instrumentId: id().required(),
    name: instrumentName(),
    family: text(40).required(),
    strings: array().of(stringPlan).min(1, 'An instrument has at least one string.').max(60).required(),
    away: boolean().strict().optional(),
  }),
  fitted: object({ ...ofString, type: typed('fitted'), windings: finite().min(0).max(40).optional() }),
  removed: object({
    ...ofString,
    type: typed('removed'),
    reason: mixed<string>().oneOf(REMOVAL_REASONS).required(),
    place: mixed<string>().oneOf(BREAK_PLACES).optional(),
  }),
  fitting: object({
    ...ofInstrument,
    type: typed('fitting'),
    stringId: id().optional(),
    step: id().required(),
    outcome: mixed<string>().oneOf(['done', 'skipped']).required(),
    note: note(),
  }),
  treatment: object({
    ...ofInstrument,
    type: typed('treatment'),
    stringIds: array().of(id().required()).min(1).max(60).required(),
    treatment: mixed<string>().oneOf(TREATMENTS).required(),
    note: note(),
  }),
  round: object({
    ...ofString,
    type: typed('round'),
    dropCents: finite().min(-2000).max(2000).required(),
    school: text(40).required(),
  }),
  reading: object({
    ...ofString,
    type: typed('reading'),
    purpose: mixed<string>().oneOf(PURPOSES).required(),
    source: mixed<string>().oneOf(SOURCES).required(),
    frequencyHz: finite().positive().max(20000).required(),
    cents: finite().min(-6000).max(6000).required(),
    sigmaCents: finite().min(0).max(100).required(),
    targetHz: finite().positive().max(20000).required(),
    a4Hz: finite().min(A4_MIN_HZ).max(A4_MAX_HZ).required(),
    arrival: mixed<string>().oneOf(ARRIVALS).optional(),
    inharmonicity: finite().nullable().min(0).max(1).optional(),
    snrDb: finite().optional(),
    glideCents: finite().optional(),
    partials: array()
      .of(
        object({
          n: finite().integer().min(1).max(200).required(),
          frequencyHz: finite().positive().required(),
          sigmaHz: finite().min(0).required(),
        }).noUnknown(),
      )
      .max(200)
      .required(),
    tempC: finite().min(-40).max(60).optional(),
    slip: boolean().strict().optional(),
    stretched: boolean().strict().optional(),
  }),
  room: object({
    ...base,
    type: typed('room'),
    tempC: finite().min(-40).max(60).required(),
  }),
  reference: object({
    ...base,
    type: typed('reference'),
    a4Hz: finite().min(A4_MIN_HZ).max(A4_MAX_HZ).required(),
  }),
  curtain: object({
    ...base,
    type: typed('curtain'),
    curtainMs: instant().nullable().defined(),
  }),
  session: object({
    ...base,
    type: typed('session'),
    place: text(80).required(),
    curtainMs: instant().required(),
    minutes: finite().positive().max(1440).required(),
    toleranceCents: finite().min(0.5).max(50).required(),
    intervalMin: finite().min(0).max(1440).nullable().defined(),
    school: id().required(),
    instrumentIds: array().of(id().required()).max(200).required(),
    thereC: finite().min(-40).max(60).nullable().defined(),
  }),
  trial: object({
    ...base,
    type: typed('trial'),
    trialId: id().required(),
    what: text(80).required(),
    byLot: boolean().strict().required(),
    pairs: array()
      .of(object({ treated: stringRef, control: stringRef }).noUnknown())
      .min(1)
      .max(60)
      .required(),
  }),
  touch: object({
    ...ofString,
    type: typed('touch'),
    passId: id().required(),
    touch: mixed<string>().oneOf(TOUCHES).required(),
    fret: finite().integer().min(1).max(36).optional(),
    source: mixed<string>().oneOf(SOURCES).required(),
    frequencyHz: finite().positive().max(20000).required(),
    sigmaCents: finite().min(0).max(100).required(),
    scatterCents: finite().min(0).max(1200).required(),
    inharmonicity: finite().nullable().min(0).max(1).optional(),
  }),
  adjustment: object({
    ...ofInstrument,
    type: typed('adjustment'),
    stringIds: array().of(id().required()).min(1).max(60).required(),
    what: mixed<string>().oneOf(ADJUSTMENTS).required(),
    moveMm: finite().min(-100).max(100).required(),
  }),
  pass: object({
    ...ofInstrument,
    type: typed('pass'),
    passId: id().required(),
    kind: mixed<string>().oneOf(PASS_KINDS).required(),
    startedMs: instant().required(),
    skipped: array().of(id().required()).max(400).required(),
    over: boolean().strict().required(),
  }),
  'taken-back': object({
    ...base,
    type: typed('taken-back'),
    supersedes: id().required(),
  }),
};

export type Checked = { ok: true; record: LogRecord } | { ok: false; message: string };

/** Checks one record of unknown origin, brought up to the present version; the message names the field. */
export function checkRecord(given: unknown): Checked {
  const value = migrate(given);
  if (typeof value !== 'object' || value === null) return { ok: false, message: 'is not a record' };
  const type = (value as { type?: unknown }).type;
  const schema = typeof type === 'string' && Object.hasOwn(schemas, type) ? schemas[type as RecordType] : undefined;
  if (!schema) return { ok: false, message: `has the unknown type ${JSON.stringify(type) ?? 'none'}` };
  try {
    return {
      ok: true,
      record: schema.noUnknown().validateSync(value, { strict: true, abortEarly: true }) as LogRecord,
    };
  } catch (error) {
    if (error instanceof ValidationError)
      return { ok: false, message: `${error.path ? `${error.path}: ` : ''}${error.message}` };
    throw error;
  }
}
