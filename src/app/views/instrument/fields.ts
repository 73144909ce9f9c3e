import { v4 as newId } from 'uuid';
import { array, boolean, mixed, object, string, type InferType } from 'yup';
import { EARLIEST_MS } from '../../../core/limits';
import {
  gaugeField,
  instrumentName,
  lengthField,
  noteField,
  tunerField,
  type InstrumentRecord,
} from '../../../core/log';
import {
  BRIDGES,
  FAMILIES,
  STRING_MATERIALS,
  traitsOf,
  TUNERS,
  type BridgeKind,
  type Build,
  type StringMaterial,
  type TunerKind,
} from '../../../core/strings';
import { instantOf, type Zone, MINUTE } from '../../../core/base';

/** When its strings were put on; on an instrument that is known, 'same' leaves them as they are. */
export const STRUNG = ['now', 'earlier', 'each', 'same'] as const;
export type Strung = (typeof STRUNG)[number];

/** A moment in the past as a field writes it, or a sentence. @returns NaN where it is empty */
function pastMoment(text: string, nowMs: number, zone: Zone): number | string {
  if (text === '') return NaN;
  const ms = instantOf(text, zone);
  if (Number.isNaN(ms)) return 'Give the day and the time.';
  if (ms > nowMs + MINUTE) return 'That is in the future.';
  return ms < EARLIEST_MS ? 'Give a date from 1970 on.' : ms;
}

/**
 * What may be written of an instrument.
 * @param taken names of others on the bench
 */
export const schemaOf = (taken: readonly string[], nowMs: () => number, zone: Zone) => {
  const moment = () =>
    string()
      .default('')
      .test('moment', function (text) {
        const read = pastMoment(text ?? '', nowMs(), zone);
        return typeof read === 'string' ? this.createError({ message: read }) : true;
      });
  return object({
    name: instrumentName().test(
      'free',
      'There is an instrument of this name already. Choose another name.',
      (v) => !taken.includes(v ?? ''),
    ),
    family: string().required(),
    build: object({
      tuner: mixed<TunerKind>().oneOf(TUNERS).required(),
      fineTuners: boolean().required(),
      frets: boolean().required(),
      bowed: boolean().required(),
      holds: mixed<BridgeKind>().oneOf(BRIDGES).required(),
      tree: boolean().required(),
      locking: boolean().required(),
    }).required(),
    strung: mixed<Strung>().oneOf(STRUNG).required(),
    strungAt: moment().when('strung', { is: 'earlier', then: (s) => s.required('Say when it was put on.') }),
    strings: array()
      .of(
        object({
          stringId: string().required(),
          note: noteField(),
          material: mixed<StringMaterial>().oneOf(STRING_MATERIALS).required(),
          gaugeMm: gaugeField().default(null),
          lengthMm: lengthField(),
          tuner: tunerField().trim().default(''),
          strungAt: moment(),
        }),
      )
      .min(1, 'An instrument has at least one string.')
      .max(60, 'An instrument has at most sixty strings.')
      .required(),
  });
};
export type Fields = InferType<ReturnType<typeof schemaOf>>;
export type StringFields = Fields['strings'][number];

const row = (s: Omit<StringFields, 'tuner' | 'strungAt'> & { tuner?: string }): StringFields => ({
  tuner: '',
  strungAt: '',
  ...s,
});

/** Rows of a family's usual set, ids s1, s2, … */
export const rowsOfFamily = (code: string): StringFields[] =>
  (FAMILIES.find((f) => f.code === code)?.strings ?? []).map((s, i) => row({ ...s, stringId: `s${i + 1}` }));
export const rowsOf = (record: InstrumentRecord): StringFields[] =>
  record.strings.map(({ stringId, note, material, gaugeMm, lengthMm, tuner }) =>
    row({ stringId, note, material, gaugeMm, lengthMm, ...(tuner ? { tuner } : {}) }),
  );
export const freshRow = (like?: StringFields): StringFields =>
  row({
    note: '',
    material: 'unknown',
    gaugeMm: null,
    lengthMm: 650,
    ...like,
    stringId: `s${newId().slice(0, 8)}`,
  });

export const buildOf = (of: { family: string; build?: Build | undefined }): Required<Build> => {
  const { tuner, fineTuners, frets, bowed, holds, tree, locking } = traitsOf(of);
  return { tuner, fineTuners, frets, bowed, holds, tree, locking };
};

/** When each string was put on, ms; strings left out keep what is known of them. */
export function strungMoments(f: Fields, nowMs: number, zone: Zone): { stringId: string; atMs: number }[] {
  const at = (text: string) => instantOf(text, zone);
  if (f.strung === 'same') return [];
  return f.strings.flatMap(({ stringId, strungAt }) => {
    const atMs = f.strung === 'now' ? nowMs : f.strung === 'earlier' ? at(f.strungAt) : strungAt ? at(strungAt) : NaN;
    return Number.isNaN(atMs) ? [] : [{ stringId, atMs }];
  });
}

/** What is written into the log of a form that is sound; what is the family's own is not repeated. */
export function recordOf(f: Fields, instrumentId: string, before: InstrumentRecord | undefined) {
  const usual = buildOf({ family: f.family });
  const build = (Object.keys(usual) as (keyof Build)[]).every((k) => usual[k] === f.build[k]) ? undefined : f.build;
  return {
    type: 'instrument' as const,
    instrumentId,
    name: f.name,
    family: f.family,
    ...(build ? { build } : {}),
    strings: f.strings.map(({ stringId, note, material, lengthMm, tuner, gaugeMm }) => {
      const old = before?.strings.find((e) => e.stringId === stringId);
      // A unit mass from the packet belongs to that packet's gauge.
      const mass = old?.gaugeMm === (gaugeMm ?? null) ? old?.unitMassKgPerM : undefined;
      return {
        stringId,
        note,
        material,
        lengthMm,
        gaugeMm: gaugeMm ?? null,
        ...(mass === undefined ? {} : { unitMassKgPerM: mass }),
        ...(old?.headMm === undefined ? {} : { headMm: old.headMm }),
        ...(tuner ? { tuner } : {}),
      };
    }),
  };
}
