import { LONGEST_NAME } from '../limits';
import type { InstrumentLife } from './life';
import type { SetBack } from './order';
import type {
  AdjustmentRecord,
  BridgeRecord,
  BridgeStepRecord,
  CheckpointRecord,
  CurtainRecord,
  ExerciseRecord,
  FindingRecord,
  InstrumentRecord,
  JudgementRecord,
  PassRecord,
  ReferenceRecord,
  RemarkRecord,
  RoomRecord,
  SaddleRecord,
  SessionRecord,
  TestRecord,
  TouchRecord,
  TreatmentRecord,
  TrialRecord,
  TuningForgottenRecord,
  TuningRecord,
} from './records';

/** The bench as the log tells it. Derived, never stored. */
export interface Bench {
  instruments: InstrumentLife[];
  /** Put away: no longer on the bench, by name. */
  away: InstrumentRecord[];
  room: RoomRecord | undefined;
  reference: ReferenceRecord | undefined;
  curtain: CurtainRecord | undefined;
  session: SessionRecord | undefined;
  /** Places sounded in octave passes, and what was moved, oldest first. */
  touches: TouchRecord[];
  adjustments: AdjustmentRecord[];
  treatments: TreatmentRecord[];
  /** Each pass as it was last written, oldest first. */
  passes: PassRecord[];
  /** Each trial as it was last written, oldest first. */
  trials: TrialRecord[];
  /** Tests about why strings do not stay, and what was found, oldest first. */
  tests: TestRecord[];
  findings: FindingRecord[];
  /** Strings tuned by ear, and how far off they were read. */
  judgements: JudgementRecord[];
  /** Floating bridges as they are set up, and what was done on them, oldest first. */
  bridges: BridgeRecord[];
  bridgeSteps: BridgeStepRecord[];
  /** What owners say of saddles, oldest first. */
  saddles: SaddleRecord[];
  /** Two strings heard together, oldest first. */
  checkpoints: CheckpointRecord[];
  /** What instruments were tuned to, oldest first. */
  tunings: TuningRecord[];
  /** Which of them are no longer offered, oldest first. */
  forgotten: TuningForgottenRecord[];
  /** What was remarked on instruments and strings, oldest first. */
  remarks: RemarkRecord[];
  /** What was practised, oldest first; no reading is among them. */
  exercises: ExerciseRecord[];
  /** Grows with every string or instrument that comes or goes. */
  changes: number;
  /** The last time that a device's clock was set back, and not forward again. */
  clockBack: SetBack | undefined;
}

/** Every instrument as its owner describes it, those that are put away too. */
export const describedIn = ({ instruments, away }: Bench): InstrumentRecord[] => [
  ...instruments.map((i) => i.record),
  ...away,
];

/** A name that no other has: 'Viola', 'Viola 2'; of a long one what there is room for. */
export function freeName(name: string, taken: readonly string[]): string {
  let free = name;
  for (let n = 2; taken.includes(free); n++) free = `${name.slice(0, LONGEST_NAME - ` ${n}`.length).trimEnd()} ${n}`;
  return free;
}
