import type { Zone } from '../../base';
import { about, remark } from './about';
import { adjustment } from './adjustment';
import { bridge } from './bridge';
import { bridgeStep } from './bridge-step';
import { checkpoint } from './checkpoint';
import { curtain } from './curtain';
import { exercise } from './exercise';
import { finding } from './finding';
import { fitted } from './fitted';
import { fitting } from './fitting';
import { imported } from './import';
import { instrument, type InstrumentRecord } from './instrument';
import { judgement } from './judgement';
import { pass } from './pass';
import { reading } from './reading';
import type { Names, RecordBase, RecordOf } from './record';
import { reference } from './reference';
import { removed } from './removed';
import { room } from './room';
import { round } from './round';
import { saddle } from './saddle';
import { session } from './session';
import { takenBack } from './taken-back';
import { test } from './probe';
import { touch } from './touch';
import { treatment } from './treatment';
import { trial } from './trial';
import { tuner } from './tuner';
import { tuning, tuningForgotten } from './tuning';
/** Every type of record. */
export const RECORD_KINDS = [
  instrument,
  fitted,
  reading,
  round,
  treatment,
  fitting,
  room,
  reference,
  curtain,
  session,
  trial,
  touch,
  adjustment,
  pass,
  tuner,
  test,
  finding,
  judgement,
  tuning,
  tuningForgotten,
  checkpoint,
  bridge,
  bridgeStep,
  saddle,
  about,
  remark,
  exercise,
  removed,
  imported,
  takenBack,
] as const;

export type LogRecord = RecordOf<(typeof RECORD_KINDS)[number]>;
export type RecordType = LogRecord['type'];

/** A record as it is given; who, when and in which order is added. */
export type Draft = LogRecord extends infer R
  ? R extends LogRecord
    ? Omit<R, 'id' | 'version' | 'atMs' | 'zoneMin' | 'written'> & Partial<Pick<RecordBase, 'atMs'>>
    : never
  : never;

/** What the many types have in common, for a type that is known only when it runs. */
interface AnyKind {
  type: RecordType;
  schema: (typeof reading)['schema'];
  surely(value: unknown): boolean;
  say(record: LogRecord, names: Names): string;
  sample: object;
  older: (typeof reading)['older'];
  steps: (typeof reading)['steps'];
}
export const byType = new Map((RECORD_KINDS as unknown as readonly AnyKind[]).map((k) => [k.type as string, k]));

/** What a record says, in a line. */
export const sayRecord = (record: LogRecord, names: Names): string => byType.get(record.type)!.say(record, names);

/**
 * The names of instruments and strings, as the log last gave them.
 * @param find a record by its id; among those that are given where nothing is said
 * @param zone the wall clock of here, where it is known
 */
export function namesIn(
  records: readonly LogRecord[],
  find: (id: string) => LogRecord | undefined = (id) => records.find((r) => r.id === id),
  zone?: Zone,
): Names {
  const instruments = new Map(
    records.filter((r): r is InstrumentRecord => r.type === 'instrument').map((r) => [r.instrumentId, r]),
  );
  const instrumentName = (id: string) => instruments.get(id)?.name ?? id;
  const names: Names = {
    zone,
    record: (id) => {
      const of = find(id);
      // One that takes back another one is said without that: no record leads back to itself.
      return of && of.type !== 'taken-back' ? sayRecord(of, names) : undefined;
    },
    takenBack: (id) => {
      const of = find(id);
      return of?.type === 'taken-back' ? of.supersedes : undefined;
    },
    instrument: instrumentName,
    string: (id, stringId) =>
      `${instrumentName(id)}, ${instruments.get(id)?.strings.find((s) => s.stringId === stringId)?.note ?? stringId}`,
  };
  return names;
}

/** What a record says where its instrument is in view: without the name of that. */
export const sayWithin = (record: LogRecord, instrument: InstrumentRecord): string =>
  sayRecord(record, namesIn([instrument]))
    .replace(`${instrument.name}, `, '')
    .replace(`${instrument.name}: `, '');

/** A valid record of every type, and as each looked in older versions, without what every record has. */
export const samplesOf = (type: RecordType) => {
  const { sample, older } = byType.get(type)!;
  return { sample, older };
};
export type { AboutRecord, RemarkRecord } from './about';
export { LARGEST_PHOTO } from './about';
export { ADJUSTMENTS, type AdjustmentRecord } from './adjustment';
export type { BridgeRecord } from './bridge';
export { BRIDGE_HOLDS, type BridgeHold, type BridgeStepRecord } from './bridge-step';
export type { CheckpointRecord, SoundedAt } from './checkpoint';
export type { CurtainRecord } from './curtain';
export { gaugeField, headField, instrumentName, lengthField, noteField, offsetField, tunerField } from './fields';
export { PRACTICES, type ExerciseRecord } from './exercise';
export type { FindingRecord } from './finding';
export type { FittedRecord } from './fitted';
export type { FittingRecord } from './fitting';
export type { ImportRecord } from './import';
export type { InstrumentRecord, StringPlan } from './instrument';
export type { JudgementRecord } from './judgement';
export { PASS_KINDS, type PassRecord, type PassVisit } from './pass';
export {
  ARRIVALS,
  PURPOSES,
  SOURCES,
  type ArrivalWord,
  type Purpose,
  type ReadingRecord,
  type Source,
} from './reading';
export { RECORD_VERSION, type Names, type RecordBase } from './record';
export { REFERENCE_SOURCES, type ReferenceRecord, type ReferenceSource } from './reference';
export { BREAK_PLACES, REMOVAL_REASONS, type BreakPlace, type RemovalReason, type RemovedRecord } from './removed';
export type { RoomRecord } from './room';
export type { RoundRecord } from './round';
export type { SaddleRecord } from './saddle';
export type { SessionRecord } from './session';
export type { TakenBackRecord } from './taken-back';
export type { TestRecord } from './probe';
export { TOUCHES, type TouchKind, type TouchRecord } from './touch';
export { TREATMENTS, type Treatment, type TreatmentRecord } from './treatment';
export type { StringRef, TrialRecord } from './trial';
export type { TunerRecord } from './tuner';
export type { TunedString, TuningForgottenRecord, TuningRecord } from './tuning';
