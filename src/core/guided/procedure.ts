import type { Bench, Draft, InstrumentLife, Source } from '../log';
import type { Follow, FollowedReading } from '../two-strings';
import type { GuidedStep, Verdict } from './step';
import type { StringStatus } from '../status';

/** What a procedure may know: the log as it is now, and what comes from outside the core. */
export interface GuidedLog {
  life: InstrumentLife;
  bench: Bench;
  /** What is reckoned of the strings; empty where nothing is yet. */
  statuses: readonly StringStatus[];
  a4Hz: number;
  nowMs: number;
  /** The string that is looked at while nothing is asked for. */
  focusId?: string | undefined;
  /** Another name each time. */
  newId: () => string;
}

/** A reading that the rules let pass. */
export type KeptReading = Extract<Verdict, { kind: 'keep' }>;

/** What came of a reading or of a key: state and records together, and what is said when both stand. */
export interface Outcome<State> {
  state: State;
  records?: Draft[];
  say?: string;
}

/**
 * A guided job: a pure function of the log and of what the player chose. It says what is to be sounded next, and what follows
 * from what was heard or pressed. What must survive a reload is in the log; the state is only of this moment.
 */
export interface Procedure<State, Action, Log = GuidedLog> {
  /** What is to be sounded now; undefined where nothing is. */
  next(log: Log, state: State): GuidedStep | undefined;
  heard(kept: KeptReading, source: Source, log: Log, state: State): Outcome<State>;
  press(action: Action, log: Log, state: State): Outcome<State>;
  /** What is followed besides: two strings together, or a held tone. */
  follow?(log: Log, state: State): Follow | undefined;
  /** What was followed stood still, or could not be read. */
  followed?(reading: FollowedReading, log: Log, state: State): Outcome<State>;
}
