import {
  type BridgeMemory,
  type BridgeOrder,
  type BridgeTask,
  type Cause,
  type CauseTest,
  type Outcome,
  type Measure,
  type Told,
  type School,
} from '../codes';
import type { Build, StringMaterial } from '../strings';
import type { Written } from './order';

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

export interface StringPlan {
  stringId: string;
  /** Note name in scientific pitch, 'A2'. */
  note: string;
  /** How far beside the note's equal-tempered place it is tuned, cents; from the tuning in force, never kept here. */
  offsetCents?: number;
  lengthMm: number;
  material: StringMaterial;
  /** Outer diameter; null when unknown. */
  gaugeMm: number | null;
  /** Unit mass from the packet, kg/m; overrides the estimate. */
  unitMassKgPerM?: number;
  /** From the nut to the tuner, or to the guide where there is one, mm. */
  headMm?: number;
  /** Its tuner in the owner's words; otherwise by the family's way. */
  tuner?: string;
}

/** Where one string stands in a tuning: the note that sounds, and how far beside its equal-tempered place, cents. */
export interface TunedString {
  stringId: string;
  note: string;
  offsetCents: number;
}

/** What the strings of an instrument are tuned to from now on, until another one or until its own notes are edited. */
export interface TuningRecord extends RecordBase {
  type: 'tuning';
  instrumentId: string;
  name: string;
  /** The fret that a capo lies on. */
  capo?: number;
  strings: TunedString[];
}

/** An instrument as it is from this record on; editing writes a new one with the same instrumentId. */
export interface InstrumentRecord extends RecordBase {
  type: 'instrument';
  instrumentId: string;
  name: string;
  family: string;
  strings: StringPlan[];
  /** What the owner says of its build, where it is not the family's. */
  build?: Build;
  /** Put away: no longer on the bench. */
  away?: boolean;
}

/** A string was put on at atMs. */
export interface FittedRecord extends RecordBase {
  type: 'fitted';
  instrumentId: string;
  stringId: string;
  /** Turns round the post. */
  windings?: number;
}

export const REMOVAL_REASONS = ['worn', 'broke', 'changed'] as const;
export const BREAK_PLACES = ['tuner', 'nut', 'bridge', 'between'] as const;
export type RemovalReason = (typeof REMOVAL_REASONS)[number];
export type BreakPlace = (typeof BREAK_PLACES)[number];

/** A string came off; its life is read from the log. */
export interface RemovedRecord extends RecordBase {
  type: 'removed';
  instrumentId: string;
  stringId: string;
  reason: RemovalReason;
  /** Where it broke. */
  place?: BreakPlace;
}

/** One step of the guided fitting, ticked or skipped. */
export interface FittingRecord extends RecordBase {
  type: 'fitting';
  instrumentId: string;
  /** Missing where the step is about the whole instrument. */
  stringId?: string;
  step: string;
  outcome: 'done' | 'skipped';
  /** The player's own note, or why it was skipped. */
  note?: string;
}

export const TREATMENTS = ['stretched', 'warmed', 'played', 'lubricated', 'other'] as const;
export type Treatment = (typeof TREATMENTS)[number];

/** Something done to strings that may change how they settle. */
export interface TreatmentRecord extends RecordBase {
  type: 'treatment';
  instrumentId: string;
  stringIds: string[];
  treatment: Treatment;
  /** How long it was warmed or played. */
  minutes?: number;
  note?: string;
}

/** One stretch round: how far the string dropped, flat positive. */
export interface RoundRecord extends RecordBase {
  type: 'round';
  instrumentId: string;
  stringId: string;
  dropCents: number;
  school: string;
}

export const PURPOSES = ['as-found', 'as-left'] as const;
export const SOURCES = ['microphone', 'file', 'simulated', 'typed'] as const;
export const ARRIVALS = ['from below', 'from above', 'overshot', 'untouched'] as const;
export type Purpose = (typeof PURPOSES)[number];
export type Source = (typeof SOURCES)[number];
export type ArrivalWord = (typeof ARRIVALS)[number];

export interface ReadingRecord extends RecordBase {
  type: 'reading';
  instrumentId: string;
  stringId: string;
  purpose: Purpose;
  source: Source;
  frequencyHz: number;
  cents: number;
  sigmaCents: number;
  targetHz: number;
  a4Hz: number;
  arrival?: ArrivalWord;
  inharmonicity?: number | null;
  snrDb?: number;
  glideCents?: number;
  /** The partials it was read from; empty for a typed figure. */
  partials: { n: number; frequencyHz: number; sigmaHz: number }[];
  /** Room temperature last typed before the reading, deg C. */
  tempC?: number;
  /** How far above its target it was meant to be left, cents, because it is going to fall: no error. */
  leadCents?: number;
  /** The pass that it was kept in. */
  passId?: string;
  /** A second pluck, asked for after a surprising reading, confirmed it: the string slipped, or rose, at once. */
  slip?: boolean;
  /** The first reading after it was stretched by hand: the drop is the hand's, not creep. */
  stretched?: boolean;
}

export interface RoomRecord extends RecordBase {
  type: 'room';
  tempC: number;
}

export const REFERENCE_SOURCES = ['standard', 'fork', 'reed', 'keyboard', 'player', 'string'] as const;
export type ReferenceSource = (typeof REFERENCE_SOURCES)[number];

/** What is tuned by from now on; readings before it keep the one that they were read by. */
export interface ReferenceRecord extends RecordBase {
  type: 'reference';
  a4Hz: number;
  /** What it was taken from; typed where nothing is said. */
  source?: ReferenceSource;
  /** Standard error of a measured one, cents. */
  sigmaCents?: number;
  /** The room when it was measured, deg C. */
  tempC?: number;
  /** How much wider than pure a keyboard's octaves are, cents an octave. */
  stretchCents?: number;
}

export interface CurtainRecord extends RecordBase {
  type: 'curtain';
  /** null: no curtain is set. */
  curtainMs: number | null;
}

/** A show that is planned for; a newer one takes its place. */
export interface SessionRecord extends RecordBase {
  type: 'session';
  place: string;
  curtainMs: number;
  minutes: number;
  toleranceCents: number;
  /** Interval, min after the curtain; null where there is none. */
  intervalMin: number | null;
  school: string;
  /** Who plays. */
  instrumentIds: string[];
  /** Expected temperature there, deg C; null where not said. */
  thereC: number | null;
  /** How often somebody is willing to come. */
  effort?: string;
  /** Strings that will fall are left above their target; they are, where nobody says. */
  leads?: boolean;
  /** How many tune. */
  hands?: number;
  /** Who does not play all the time, min after the curtain. */
  plays?: { instrumentId: string; fromMin: number; toMin: number }[];
  /** Who stands by for whom. */
  spares?: { instrumentId: string; forId: string }[];
  /** When a visit was skipped. */
  skippedMs?: number;
}

export interface StringRef {
  instrumentId: string;
  stringId: string;
}

/** Treated strings against untreated ones, matched pair by pair. A newer record with the same trialId replaces it. */
export interface TrialRecord extends RecordBase {
  type: 'trial';
  trialId: string;
  /** What is compared, in the player's words. */
  what: string;
  byLot: boolean;
  pairs: { treated: StringRef; control: StringRef }[];
}

export const TOUCHES = ['open', 'fret', 'harmonic'] as const;
export type TouchKind = (typeof TOUCHES)[number];

/** One place sounded in an octave pass: the median of its plucks. */
export interface TouchRecord extends RecordBase {
  type: 'touch';
  instrumentId: string;
  stringId: string;
  /** The pass that it belongs to. */
  passId: string;
  touch: TouchKind;
  /** For a fretted note; 12 for a harmonic. */
  fret?: number;
  source: Source;
  frequencyHz: number;
  /** Standard error of the median, cents. */
  sigmaCents: number;
  /** Spread between the plucks, cents; 0 for a single one. */
  scatterCents: number;
  inharmonicity?: number | null;
}

export const ADJUSTMENTS = ['saddle', 'low-foot', 'high-foot', 'nut', 'action', 'other'] as const;

/** A saddle, or one foot of a loose bridge, was moved, away from the nut positive; or the action, higher positive. */
export interface AdjustmentRecord extends RecordBase {
  type: 'adjustment';
  instrumentId: string;
  stringIds: string[];
  what: (typeof ADJUSTMENTS)[number];
  moveMm: number;
}

/** What bring-ups have taught of a string's tuner; the newest counts. */
export interface TunerRecord extends RecordBase {
  type: 'tuner';
  instrumentId: string;
  stringId: string;
  /** It goes the other way than usual. */
  other: boolean;
  /** How much more a turn moves it than is reckoned. */
  gain: number;
}

/** One test about why a string does not stay: changes of its pitch by what was done, twice; or a measure taken the same way. */
export interface TestRecord extends RecordBase {
  type: 'test';
  instrumentId: string;
  stringId: string;
  /** The inquiry that it belongs to. */
  passId: string;
  test: CauseTest | Measure;
  firstCents: number;
  secondCents: number | null;
  /** What the string beside it did at the first. */
  othersCents?: number;
  sigmaCents: number;
  /** What the player was asked and said, in this inquiry. */
  told?: Told;
}

/** One string tuned by ear against another, and how far off the app read it then: what an ear is worth. */
export interface JudgementRecord extends RecordBase {
  type: 'judgement';
  instrumentId: string;
  stringId: string;
  /** The string that it was tuned against. */
  againstId: string;
  passId: string;
  school: School;
  /** The pure interval that was listened for, as at the door. */
  interval: [number, number];
  /** How far both strings stand from it at their targets, cents. */
  expectCents: number;
  /** Where this string and the other one stood from their targets, cents. */
  cents: number;
  againstCents: number;
  sigmaCents: number;
}

/** What its owner says of a floating bridge, and what was learned of it. */
export interface BridgeRecord extends RecordBase {
  type: 'bridge';
  instrumentId: string;
  springs: number;
  /** What a turn of the claw's screws moves it by; a usual one where nobody said. */
  screwPitchMm?: number;
  memory?: BridgeMemory;
}

/** It is pulled against a stop and goes down only, or is blocked. */
export const BRIDGE_HOLDS = ['stop', 'block'] as const;
export type BridgeHold = (typeof BRIDGE_HOLDS)[number];

/** One thing that happened while a floating bridge was tuned: a reading, a stop, a turn of the claw, a look at its tilt. */
export interface BridgeStepRecord extends RecordBase {
  type: 'bridge-step';
  instrumentId: string;
  passId: string;
  task: BridgeTask;
  order: BridgeOrder | 'own';
  /** Locking the nut begins a session too: what it did is read. */
  step: 'begin' | 'lock' | 'read' | 'set' | 'claw' | 'tilt' | 'end';
  stringId?: string;
  cents?: number;
  sigmaCents?: number;
  frequencyHz?: number;
  turns?: number;
  degrees?: number;
  /** Said at the beginning: the player's own order, strings from 1; what holds the bridge; whether the clamps at the nut are open. */
  own?: number[];
  held?: BridgeHold;
  nutOpen?: boolean;
  /** Said at the end: how much each string was wound, cents. */
  wound?: number[];
}

/** Two strings heard together: how far they stand from a pure interval. */
export interface CheckpointRecord extends RecordBase {
  type: 'checkpoint';
  instrumentId: string;
  stringId: string;
  againstId: string;
  /** The round of checkpoints that it belongs to. */
  passId: string;
  /** The string that the round rests on. */
  anchorId: string;
  interval: [number, number];
  /** How far both stand from it when they are right, frets that are off counted in, cents. */
  expectCents: number;
  /** How far the first one over the other stood from the pure interval, cents, and the beats heard. */
  cents: number;
  sigmaCents: number;
  beatsHz: number;
  /** Where each was sounded: at a fret, 0 for open, or its harmonic there. Missing in older ones. */
  places?: [SoundedAt, SoundedAt];
}
export interface SoundedAt {
  fret: number;
  harmonic?: boolean;
}

/** What was concluded at that time of why a string does not stay, and what came of a remedy. */
export interface FindingRecord extends RecordBase {
  type: 'finding';
  instrumentId: string;
  stringId: string;
  passId: string;
  causes: { cause: Cause; probability: number }[];
  /** What was done about it; and whether the same test afterwards says that it helped. */
  remedy?: string;
  outcome?: Outcome;
}

export const PASS_KINDS = ['check', 'octave'] as const;

/** A pass of guided readings under way; a newer record with the same passId replaces it. What is done is read from the readings. */
/** What a plan asks of one walk to an instrument. */
export interface PassVisit {
  purpose: string;
  /** In the order of need, and how far above its target each is left, cents; the others are left alone. */
  strings: { stringId: string; leadCents: number }[];
  /** What stands nearer to that is left alone, cents. */
  bringUpFromCents: number;
}

export interface PassRecord extends RecordBase {
  type: 'pass';
  passId: string;
  kind: (typeof PASS_KINDS)[number];
  instrumentId: string;
  startedMs: number;
  /** Passed over this time: strings, or the steps of another kind of pass. */
  skipped: string[];
  over: boolean;
  /** What the plan asked for when it began. */
  visit?: PassVisit;
}

/** Takes back the record that it supersedes, putting nothing in its place. */
export interface TakenBackRecord extends RecordBase {
  type: 'taken-back';
  supersedes: string;
}

export type LogRecord =
  | InstrumentRecord
  | FittedRecord
  | RemovedRecord
  | FittingRecord
  | TreatmentRecord
  | RoundRecord
  | ReadingRecord
  | RoomRecord
  | ReferenceRecord
  | CurtainRecord
  | SessionRecord
  | TrialRecord
  | TouchRecord
  | AdjustmentRecord
  | PassRecord
  | TunerRecord
  | TestRecord
  | FindingRecord
  | JudgementRecord
  | TuningRecord
  | CheckpointRecord
  | BridgeRecord
  | BridgeStepRecord
  | TakenBackRecord;
export type RecordType = LogRecord['type'];

/** A record as it is given; who, when and in which order is added. */
export type Draft = LogRecord extends infer R
  ? R extends LogRecord
    ? Omit<R, 'id' | 'version' | 'atMs' | 'zoneMin' | 'written'> & Partial<Pick<RecordBase, 'atMs'>>
    : never
  : never;
