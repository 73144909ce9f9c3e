import type { BridgeLaw, BridgeMemory, BridgeTask, compareWays } from '../../core/bridge';
import type { CauseAnswer, CauseQuestion } from '../../core/causes';
import type { WavOutcome } from '../../core/exchange';
import type { PairMoment, PairOptions, ReferenceKind, SteadyMoment } from '../../core/intervals';
import type { Heard, Task } from '../../core/pitch';
import type { Effort, Plan, PlanSession, PlanSum, RestringOutlook } from '../../core/plan';
import type { InstrumentLife, LogRecord, Priors, StringStatus, TrialRecord, Wish } from '../../core/records';
import type { InstrumentStory, StoryWish } from '../../core/story';
import type { Trial } from '../../core/trial';
import type { World } from '../database/database';

/** From the page to the listener worker. */
export type ToListener =
  | { kind: 'source'; port: MessagePort; sampleRate: number; serial: number }
  | { kind: 'task'; task: Task }
  | { kind: 'read-now' }
  | { kind: 'check'; referenceHz?: number }
  | { kind: 'deafen'; seconds: number }
  /** What else is to be followed; null: nothing. */
  | { kind: 'follow'; follow: Follow | null }
  | { kind: 'close' };

/** Blocks of samples from a source to the listener worker, over its own port; answered by one message each. */
export interface BlockMessage {
  samples: Float32Array;
  lost: boolean;
}

/** From the listener worker to the page. `serial` tells which source it heard. */
export interface FromListener {
  heard: Heard[];
  serial: number;
  /** What was heard last of what is followed. */
  followed?: Followed;
}

/** Two strings that ring together, or one tone that is held after another. */
export type Follow = ({ kind: 'pair' } & PairOptions) | { kind: 'steady'; nominalHz: number; tone: ReferenceKind };
export type Followed =
  { kind: 'pair'; moment: PairMoment | null } | { kind: 'steady'; moment: SteadyMoment | string | null };

/** What the settling worker is asked of the log it was told; each is one pure function of the core. */
export interface Questions {
  status: { ask: { instrumentId: string; wish: Wish }; answer: StringStatus[] };
  /** What would be said of an instrument that is in no log. */
  foretell: { ask: { life: InstrumentLife; wish: Wish }; answer: StringStatus[] };
  causes: { ask: CauseQuestion; answer: CauseAnswer };
  /** How many passes each way to tune a floating bridge would take. */
  ways: { ask: WaysAsk; answer: ReturnType<typeof compareWays> };
  story: { ask: { instrumentId: string; wish: StoryWish }; answer: InstrumentStory };
  plan: { ask: PlanAsk; answer: Plan };
  /** What more or less patience would ask for and leave. */
  choices: { ask: PlanAsk; answer: Record<Effort, PlanSum> };
  trial: { ask: { pairs: TrialRecord['pairs'] }; answer: Trial | null };
  learn: { ask: Record<string, never>; answer: Record<string, Learned> };
  restring: { ask: RestringAsk; answer: RestringAnswer[] };
  /** A file of records is checked whole and written in one go. */
  import: { ask: { file: Blob }; answer: Imported };
  /** The sound of a WAV file. */
  sound: { ask: { file: Blob }; answer: WavOutcome };
  export: { ask: { as: 'json' | 'csv'; nowMs: number }; answer: Blob };
}
export type QuestionKind = keyof Questions;

export interface WaysAsk {
  law: BridgeLaw;
  task: BridgeTask;
  offsetsCents: number[];
  memory: BridgeMemory | null;
  toleranceCents: number;
}

export interface PlanAsk {
  instrumentIds: string[];
  session: PlanSession;
  nowMs: number;
  zoneMin: number;
  /** By instrument: what each has learned of its own sets. */
  priors: Record<string, Priors>;
}

/** What if the strings of one instrument are new from a moment on? */
export interface RestringAsk {
  instrumentId: string;
  session: PlanSession;
  restrungMs: number;
  tunedMs: number;
  priors: Priors;
}
export type RestringAnswer = RestringOutlook & { stringId: string; note: string };

/** What an instrument's strings start from, and how many earlier sets that rests on. */
export interface Learned {
  priors: Priors;
  sets: number;
}

/** What became of a file of records. */
export type Imported =
  | {
      ok: true;
      fresh: number;
      known: number;
      /** Readings of instruments that this log does not know. */
      strangers: number;
    }
  | { ok: false; message: string };

/** From the page to the settling worker. A question that `waits` gives way to the others. */
export type ToSettling =
  | { kind: 'open'; world: World }
  | { kind: 'log'; records: readonly LogRecord[] }
  | { kind: 'drop'; id: number }
  | Request;

export type Request = {
  [K in QuestionKind]: { id: number; kind: 'ask'; waits: boolean; question: K; ask: Questions[K]['ask'] };
}[QuestionKind];
/** `done` tells how far it is, 0 to 1. */
export type Answer = { id: number } & (
  { answer: Questions[QuestionKind]['answer'] } | { error: string } | { done: number }
);
