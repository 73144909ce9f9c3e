import { mixed, object, type AnyObject, type ObjectSchema, type ObjectShape } from 'yup';
import type { Zone } from '../../base';
import { MOST_SEQ } from '../../limits';
import type { Written } from '../order';
import { quickCheck } from './quick';
import { count, id, instant, part, type FieldsOf, type Flat } from './fields';

/** Version of the record schemas that this code writes. */
export const RECORD_VERSION = 2;

/** What every record has. Records are never changed: a correction is a new one that supersedes an old one. */
export interface RecordBase {
  id: string;
  version: typeof RECORD_VERSION;
  /** UTC instant, ms since 1970. */
  atMs: number;
  /** Local time's offset from UTC when it was written, min (east positive). */
  zoneMin: number;
  /** Id of the record that this one replaces. */
  supersedes?: string;
  /** Its place in the order of writing, which a clock set back does not touch; missing in records from before. */
  written?: Written;
}

const base = {
  id: id().required(),
  version: mixed<number>().oneOf([RECORD_VERSION], `version must be ${RECORD_VERSION}`).required(),
  atMs: instant().required(),
  zoneMin: count(-840, 840).required(),
  supersedes: id().optional(),
  written: part({ by: id().required(), seq: count(0, MOST_SEQ).required(), atMs: instant().required() }).optional(),
};

/** How instruments and strings are called in a sentence. */
export interface Names {
  instrument(instrumentId: string): string;
  /** 'Requinto, A4'. */
  string(instrumentId: string, stringId: string): string;
  /** The wall clock of here, by which a time of another day is told; undefined where nobody said. */
  zone: Zone | undefined;
  /** What another record says; undefined where it is not known. */
  record(id: string): string | undefined;
  /** Which record was taken back by one; undefined where it took none back. */
  takenBack(id: string): string | undefined;
}

/** A type of record: what it holds and may hold, what it says, a sample of it, and how its older versions become the present one. */
export interface RecordKind<T extends string, F extends ObjectShape> {
  type: T;
  schema: ObjectSchema<AnyObject>;
  /** True only of what the schema accepts; a quick yes. */
  surely(value: unknown): boolean;
  /** What a record says, in a line of the log. */
  say(record: RecordWith<T, F>, names: Names): string;
  /** A record with everything that it may say, without what every record has; how it looked in older versions. */
  sample: FieldsOf<F>;
  older: Readonly<Record<number, object>>;
  /** From the version of its key to the next one. */
  steps: Readonly<Record<number, (record: Record<string, unknown>) => Record<string, unknown>>>;
}

type RecordWith<T extends string, F extends ObjectShape> = Flat<RecordBase & { type: T } & FieldsOf<F>>;
/** The record that a kind holds. */
export type RecordOf<K> = K extends { say(record: infer R, names: Names): string } ? R : never;

export const ofInstrument = { instrumentId: id().required() };
export const ofString = { ...ofInstrument, stringId: id().required() };

/** Defines a type of record in one place. */
export function recordKind<T extends string, F extends ObjectShape>(
  type: T,
  shape: F,
  say: RecordKind<T, F>['say'],
  sample: FieldsOf<F>,
  { older = {}, steps = {} }: Partial<Pick<RecordKind<T, F>, 'older' | 'steps'>> = {},
): RecordKind<T, F> {
  const schema = object({ ...base, type: mixed<T>().oneOf([type]).required(), ...shape }).noUnknown();
  const asked = schema as unknown as ObjectSchema<AnyObject>;
  return { type, schema: asked, surely: quickCheck(asked), say, sample, older, steps };
}
