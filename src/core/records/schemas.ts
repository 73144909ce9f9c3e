import { array, boolean, mixed, number, object, string, ValidationError, type AnyObjectSchema } from 'yup';
import {
  brief,
  COLDEST_C,
  EARLIEST_MS,
  LATEST_MS,
  LEAST_HZ,
  LEAST_SIGMA_CENTS,
  LEAST_TOLERANCE_CENTS,
  LONGEST_NAME,
  LONGEST_NOTE,
  LONGEST_SHOW_MIN,
  MOST_CAPO,
  MOST_CENTS,
  MOST_CLAW_TURNS,
  MOST_HANDS,
  MOST_HZ,
  MOST_LEAD_CENTS,
  MOST_OFFSET_CENTS,
  MOST_SEQ,
  MOST_STRINGS,
  MOST_TOLERANCE_CENTS,
  WARMEST_C,
} from '../limits';
import { A4_MAX_HZ, A4_MIN_HZ, parseNote } from '../music';
import {
  CAUSES,
  MEASURES,
  TESTS,
  TOLD,
  BRIDGE_ORDERS,
  BRIDGE_TASKS,
  isBridgeMemory,
  type BridgeMemory,
  SCHOOLS,
} from '../codes';
import { BRIDGES, STRING_MATERIALS, TUNERS } from '../strings';
import { migrate } from './migrate';
import {
  ADJUSTMENTS,
  ARRIVALS,
  BREAK_PLACES,
  BRIDGE_HOLDS,
  PASS_KINDS,
  PURPOSES,
  RECORD_VERSION,
  REFERENCE_SOURCES,
  REMOVAL_REASONS,
  SOURCES,
  TOUCHES,
  TREATMENTS,
  type LogRecord,
  type ReadingRecord,
  type RecordType,
} from './types';

const finite = () =>
  number()
    .strict()
    .test('finite', '${path} must be a number', (v) => v === undefined || v === null || Number.isFinite(v));
const instant = () =>
  finite().integer().min(EARLIEST_MS, '${path} lies before 1970').max(LATEST_MS, '${path} lies after 2199');
const hertz = () => finite().min(LEAST_HZ).max(MOST_HZ);
const sigma = (most = 100) => finite().min(LEAST_SIGMA_CENTS).max(most);
const lead = () => finite().min(-MOST_LEAD_CENTS).max(MOST_LEAD_CENTS);
const degrees = () => finite().min(COLDEST_C).max(WARMEST_C);
const text = (max: number) => string().strict().max(max, '${path} is longer than ${max} characters');
const id = () => text(80).matches(/^[A-Za-z0-9_:.-]+$/, '${path} is not an id');

const base = {
  id: id().required(),
  version: mixed<number>().oneOf([RECORD_VERSION], `version must be ${RECORD_VERSION}`).required(),
  atMs: instant().required(),
  zoneMin: finite().integer().min(-840).max(840).required(),
  supersedes: id().optional(),
  written: object({
    by: id().required(),
    seq: finite().integer().min(0).max(MOST_SEQ).required(),
    atMs: instant().required(),
  })
    .noUnknown()
    .optional()
    .default(undefined),
};

const VISIBLE = /[\p{L}\p{N}\p{P}\p{S}]/u;
/** Name of an instrument or a tuning, one to sixty characters. */
export const instrumentName = () =>
  text(LONGEST_NAME)
    .required('Give the instrument a name.')
    .test('visible', 'A name has a letter, a figure or a sign that can be seen.', (v) => !v || VISIBLE.test(v))
    .test(
      'trimmed',
      'A name begins and ends with a letter or a figure, not with a space.',
      (v) => !v || v === v.trim(),
    );
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

/** How far beside equal temperament a string is tuned, cents. */
export const offsetField = () => finite().min(-MOST_OFFSET_CENTS).max(MOST_OFFSET_CENTS).required();

export const headField = () => finite().min(5).max(1000);

/** Which tuner, in the owner's words. */
export const tunerField = () => text(LONGEST_NAME);

const build = () =>
  object({
    tuner: mixed<string>().oneOf(TUNERS).required(),
    fineTuners: boolean().strict().required(),
    frets: boolean().strict().required(),
    bowed: boolean().strict().required(),
    holds: mixed<string>().oneOf(BRIDGES).required(),
    tree: boolean().strict().optional(),
    locking: boolean().strict().optional(),
  })
    .noUnknown()
    .optional()
    .default(undefined);

const stringPlan = object({
  stringId: id().required(),
  note: noteField(),
  lengthMm: lengthField(),
  material: mixed<string>().oneOf(STRING_MATERIALS).required(),
  gaugeMm: gaugeField().defined(),
  unitMassKgPerM: finite().positive().max(1).optional(),
  headMm: headField().optional(),
  tuner: tunerField().optional(),
}).noUnknown();

const ofInstrument = { ...base, instrumentId: id().required() };
const ofString = { ...ofInstrument, stringId: id().required() };
const typed = (type: RecordType) => mixed<string>().oneOf([type]).required();
const note = () => text(LONGEST_NOTE).optional();

/** Checked in one go: a list has up to two hundred, and a file has a hundred thousand lists. */
const partials = () =>
  mixed<ReadingRecord['partials']>().test(
    'partials',
    '${path} must be a list of {n, frequencyHz, sigmaHz} within bounds',
    (list) => list === undefined || (Array.isArray(list) && list.length <= 200 && list.every(isPartial)),
  );
function isPartial(value: unknown): boolean {
  if (typeof value !== 'object' || value === null || Object.keys(value).length !== 3) return false;
  const { n, frequencyHz, sigmaHz } = value as Record<string, unknown>;
  const within = (x: unknown, low: number, high: number) => typeof x === 'number' && x >= low && x <= high;
  return (
    Number.isInteger(n) &&
    within(n, 1, 200) &&
    within(frequencyHz, LEAST_HZ, MOST_HZ * 10) &&
    within(sigmaHz, 0, MOST_HZ)
  );
}

const interval = () => array().of(finite().integer().min(1).max(24).required()).length(2).required();

const stringRef = object({ instrumentId: id().required(), stringId: id().required() })
  .noUnknown()
  .default(undefined)
  .required();

const fields: Record<RecordType, AnyObjectSchema> = {
  instrument: object({
    ...base,
    type: typed('instrument'),
    instrumentId: id().required(),
    name: instrumentName(),
    family: text(40).required(),
    strings: array()
      .of(stringPlan.default(undefined).required())
      .min(1, 'An instrument has at least one string.')
      .max(MOST_STRINGS)
      .required(),
    away: boolean().strict().optional(),
    build: build(),
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
    stringIds: array().of(id().required()).min(1).max(MOST_STRINGS).required(),
    treatment: mixed<string>().oneOf(TREATMENTS).required(),
    minutes: finite().min(0.1).max(LONGEST_SHOW_MIN).optional(),
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
    frequencyHz: hertz().required(),
    cents: finite().min(-MOST_CENTS).max(MOST_CENTS).required(),
    sigmaCents: sigma().required(),
    targetHz: hertz().required(),
    a4Hz: finite().min(A4_MIN_HZ).max(A4_MAX_HZ).required(),
    arrival: mixed<string>().oneOf(ARRIVALS).optional(),
    inharmonicity: finite().nullable().min(0).max(1).optional(),
    snrDb: finite().min(-300).max(300).optional(),
    glideCents: finite().min(-MOST_CENTS).max(MOST_CENTS).optional(),
    partials: partials().required(),
    tempC: degrees().optional(),
    passId: id().optional(),
    leadCents: lead().optional(),
    slip: boolean().strict().optional(),
    stretched: boolean().strict().optional(),
  }),
  room: object({
    ...base,
    type: typed('room'),
    tempC: degrees().required(),
  }),
  reference: object({
    ...base,
    type: typed('reference'),
    a4Hz: finite().min(A4_MIN_HZ).max(A4_MAX_HZ).required(),
    source: mixed<string>().oneOf(REFERENCE_SOURCES).optional(),
    sigmaCents: sigma().optional(),
    tempC: degrees().optional(),
    stretchCents: finite().min(-50).max(50).optional(),
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
    minutes: finite().positive().max(LONGEST_SHOW_MIN).required(),
    toleranceCents: finite().min(LEAST_TOLERANCE_CENTS).max(MOST_TOLERANCE_CENTS).required(),
    intervalMin: finite().min(0).max(LONGEST_SHOW_MIN).nullable().defined(),
    school: id().required(),
    instrumentIds: array().of(id().required()).max(200).required(),
    thereC: degrees().nullable().defined(),
    effort: id().optional(),
    leads: boolean().strict().optional(),
    hands: finite().integer().min(1).max(MOST_HANDS).optional(),
    plays: array()
      .of(
        object({
          instrumentId: id().required(),
          fromMin: finite().min(0).max(LONGEST_SHOW_MIN).required(),
          toMin: finite().min(0).max(LONGEST_SHOW_MIN).required(),
        }),
      )
      .max(200)
      .optional(),
    spares: array()
      .of(object({ instrumentId: id().required(), forId: id().required() }))
      .max(200)
      .optional(),
    skippedMs: instant().optional(),
  }),
  trial: object({
    ...base,
    type: typed('trial'),
    trialId: id().required(),
    what: text(80).required(),
    byLot: boolean().strict().required(),
    pairs: array()
      .of(object({ treated: stringRef, control: stringRef }).noUnknown().default(undefined).required())
      .min(1)
      .max(MOST_STRINGS)
      .required(),
  }),
  touch: object({
    ...ofString,
    type: typed('touch'),
    passId: id().required(),
    touch: mixed<string>().oneOf(TOUCHES).required(),
    fret: finite()
      .integer()
      .min(1)
      .max(36)
      .when('touch', { is: 'fret', then: (s) => s.required() }),
    source: mixed<string>().oneOf(SOURCES).required(),
    frequencyHz: hertz().required(),
    sigmaCents: sigma().required(),
    scatterCents: finite().min(0).max(1200).required(),
    inharmonicity: finite().nullable().min(0).max(1).optional(),
  }),
  adjustment: object({
    ...ofInstrument,
    type: typed('adjustment'),
    stringIds: array().of(id().required()).min(1).max(MOST_STRINGS).required(),
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
    visit: object({
      purpose: id().required(),
      strings: array()
        .of(object({ stringId: id().required(), leadCents: lead().required() }))
        .max(400)
        .required(),
      bringUpFromCents: finite().min(0).max(100).required(),
    })
      .default(undefined)
      .optional(),
  }),
  tuner: object({
    ...ofString,
    type: typed('tuner'),
    other: boolean().strict().required(),
    gain: finite().min(0.1).max(10).required(),
  }),
  test: object({
    ...ofString,
    type: typed('test'),
    passId: id().required(),
    test: mixed<string>()
      .oneOf([...TESTS, ...MEASURES])
      .required(),
    firstCents: finite().min(-MOST_CENTS).max(MOST_CENTS).required(),
    secondCents: finite().nullable().min(-MOST_CENTS).max(MOST_CENTS).defined(),
    othersCents: finite().min(-MOST_CENTS).max(MOST_CENTS).optional(),
    sigmaCents: sigma(MOST_CENTS).required(),
    told: object(Object.fromEntries(Object.entries(TOLD).map(([q, answers]) => [q, mixed<string>().oneOf(answers)])))
      .noUnknown()
      .optional()
      .default(undefined),
  }),
  judgement: object({
    ...ofString,
    type: typed('judgement'),
    againstId: id().required(),
    passId: id().required(),
    school: mixed<string>().oneOf(SCHOOLS).required(),
    interval: interval(),
    expectCents: finite().min(-MOST_CENTS).max(MOST_CENTS).required(),
    cents: finite().min(-MOST_CENTS).max(MOST_CENTS).required(),
    againstCents: finite().min(-MOST_CENTS).max(MOST_CENTS).required(),
    sigmaCents: sigma().required(),
  }),
  bridge: object({
    ...ofInstrument,
    type: typed('bridge'),
    springs: finite().integer().min(1).max(8).required(),
    screwPitchMm: finite().min(0.2).max(4).optional(),
    memory: object({
      mean: array().of(finite().required()).max(60).required(),
      covariance: array().of(array().of(finite().required()).max(60).required()).max(60).required(),
    })
      .noUnknown()
      .test('memory', '${path} is no memory of a bridge', (m) => !m || isBridgeMemory(m as BridgeMemory))
      .optional()
      .default(undefined),
  }),
  'bridge-step': object({
    ...ofInstrument,
    type: typed('bridge-step'),
    passId: id().required(),
    task: mixed<string>().oneOf(BRIDGE_TASKS).required(),
    order: mixed<string>()
      .oneOf([...BRIDGE_ORDERS, 'own'])
      .required(),
    step: mixed<string>().oneOf(['begin', 'lock', 'read', 'set', 'claw', 'tilt', 'end']).required(),
    stringId: id().optional(),
    cents: finite().min(-MOST_CENTS).max(MOST_CENTS).optional(),
    sigmaCents: sigma().optional(),
    frequencyHz: hertz().optional(),
    turns: finite().min(-MOST_CLAW_TURNS).max(MOST_CLAW_TURNS).optional(),
    degrees: finite().min(-30).max(30).optional(),
    own: array().of(finite().integer().min(1).max(60).required()).max(60).optional(),
    held: mixed<string>().oneOf(BRIDGE_HOLDS).optional(),
    nutOpen: boolean().optional(),
    wound: array().of(finite().min(-MOST_CENTS).max(MOST_CENTS).required()).max(60).optional(),
  }),
  checkpoint: object({
    ...ofString,
    type: typed('checkpoint'),
    againstId: id().required(),
    passId: id().required(),
    anchorId: id().required(),
    interval: interval(),
    expectCents: finite().min(-MOST_CENTS).max(MOST_CENTS).required(),
    cents: finite().min(-MOST_CENTS).max(MOST_CENTS).required(),
    sigmaCents: sigma().required(),
    beatsHz: finite().min(0).max(1000).required(),
    places: array()
      .of(object({ fret: finite().integer().min(0).max(36).required(), harmonic: boolean().strict().optional() }))
      .length(2)
      .optional(),
  }),
  tuning: object({
    ...ofInstrument,
    type: typed('tuning'),
    name: instrumentName(),
    capo: finite().integer().min(1).max(MOST_CAPO).optional(),
    strings: array()
      .of(
        object({
          stringId: id().required(),
          note: noteField(),
          offsetCents: offsetField(),
        })
          .noUnknown()
          .default(undefined)
          .required(),
      )
      .min(1)
      .max(MOST_STRINGS)
      .required(),
  }),
  finding: object({
    ...ofString,
    type: typed('finding'),
    passId: id().required(),
    causes: array()
      .of(
        object({
          cause: mixed<string>().oneOf(CAUSES).required(),
          probability: finite().min(0).max(1).required(),
        }).noUnknown(),
      )
      .min(1)
      .max(CAUSES.length)
      .required(),
    remedy: note(),
    outcome: mixed<string>().oneOf(['helped', 'did-not', 'cannot-tell']).optional(),
  }),
  'taken-back': object({
    ...base,
    type: typed('taken-back'),
    supersedes: id().required(),
  }),
};

const schemas = Object.fromEntries(
  Object.entries(fields).map(([type, schema]) => [type, schema.noUnknown()]),
) as typeof fields;

export type Checked = { ok: true; record: LogRecord } | { ok: false; message: string };

/** Checks one record of unknown origin, brought up to the present version; the message names the field. */
export function checkRecord(given: unknown): Checked {
  const value = migrate(given);
  if (typeof value !== 'object' || value === null) return { ok: false, message: 'is not a record' };
  const { type, version } = value as { type?: unknown; version?: unknown };
  if (typeof version === 'number' && version > RECORD_VERSION)
    return { ok: false, message: 'was written by a newer version of Slow Anchor: it has to be read by that' };
  const schema = typeof type === 'string' && Object.hasOwn(schemas, type) ? schemas[type as RecordType] : undefined;
  if (!schema)
    return { ok: false, message: brief(`has the unknown type ${typeof type === 'string' ? `"${type}"` : 'none'}`) };
  try {
    return {
      ok: true,
      record: schema.validateSync(value, { strict: true, abortEarly: true }) as LogRecord,
    };
  } catch (error) {
    if (error instanceof ValidationError)
      return { ok: false, message: brief(`${error.path ? `${error.path}: ` : ''}${error.message}`) };
    throw error;
  }
}
