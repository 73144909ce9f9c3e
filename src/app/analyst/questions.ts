import type { Zone } from '../../core/base';
import type { compareWays, BridgeLaw } from '../../core/bridge';
import type { BridgeMemory, BridgeTask } from '../../core/codes';
import type { CauseAnswer, CauseQuestion } from '../../core/causes';
import type { WavOutcome } from '../../core/exchange';
import type { NextThing, RackLine, SayAsked, Statement } from '../../core/says';
import type { Effort, Plan, PlanItem, PlanSession, PlanSum, RestringShow, StringRestrung } from '../../core/plan';
import type { Chapter, InstrumentLife, LogRecord, Search, TrialRecord } from '../../core/log';
import type { lifeSheet, MaterialLives, StringSet, Treated } from '../../core/life';
import type { Octaves } from '../../core/octave';
import type { Trial } from '../../core/trial';
import type { Priors, StringStatus, Wish, InstrumentStory, Learned, StoryWish } from '../../core/status';
import type { StoreName } from '../store/database';

/** What the analyst is asked of the log it was told; each is one pure function of the core. */
export interface Questions {
  status: { ask: { instrumentId: string; wish: Wish }; answer: StringStatus[] };
  /** Every statement about one instrument and its strings. */
  said: { ask: SaidAsk; answer: Statement[] };
  /** What would be said of an instrument that is in no log. */
  foretell: { ask: { life: InstrumentLife; wish: Wish }; answer: StringStatus[] };
  /** The one next thing to do with an instrument. */
  next: { ask: NextAsk; answer: NextThing };
  /** What a rack shows of several instruments, in their order. */
  rack: { ask: NextAsk[]; answer: RackLine[] };
  causes: { ask: CauseQuestion; answer: CauseAnswer };
  /** How many passes each way to tune a floating bridge would take. */
  ways: { ask: WaysAsk; answer: ReturnType<typeof compareWays> };
  story: { ask: { instrumentId: string; wish: StoryWish }; answer: InstrumentStory };
  plan: { ask: PlanAsk; answer: Plan };
  /** What more or less patience would ask for and leave. */
  choices: { ask: PlanAsk; answer: Record<Effort, PlanSum> };
  /** Readings after its end do not count. */
  trial: { ask: { pairs: TrialRecord['pairs']; endedMs: number | null }; answer: Trial | null };
  learn: { ask: Record<string, never>; answer: Record<string, Learned> };
  /** One instrument's life, as a page of it shows it. */
  life: { ask: { instrumentId: string }; answer: LifePage };
  /** How this player's strings live, by material. */
  materials: { ask: { nowMs: number }; answer: MaterialLives[] };
  /** Which entries are looked for, the newest first; of them some are told. */
  entries: { ask: { wanted: Search; from: number; count: number; zone: Zone }; answer: Listed };
  restring: { ask: RestringAsk; answer: StringRestrung[] };
  /** A file of records is checked whole and written in one go. */
  import: { ask: { file: Blob; as: ImportEntry }; answer: Imported };
  /** A backup file: what is in it, and how much of that is not here. */
  look: { ask: { file: Blob }; answer: LookedAt };
  /** The sound of a WAV file. */
  sound: { ask: { file: Blob }; answer: WavOutcome };
  /** All of the log, or what is about one instrument; refused where less of the log is known here than that many entries, which the page shows. */
  export: { ask: { as: 'json' | 'csv'; nowMs: number; instrumentId?: string; atLeast?: number }; answer: Exported };
}
export type QuestionKind = keyof Questions;

export interface WaysAsk {
  law: BridgeLaw;
  task: BridgeTask;
  offsetsCents: number[];
  memory: BridgeMemory | null;
  toleranceCents: number;
}

export interface NextAsk {
  instrumentId: string;
  wish: Wish;
  a4Hz: number;
  zone: Zone;
  /** What the plan of a show has next for it; null where nothing more, undefined where it does not play. */
  visit: PlanItem | null | undefined;
}

export type SaidAsk = Omit<SayAsked, 'life' | 'bench' | 'show'> & { instrumentId: string };

export interface PlanAsk {
  instrumentIds: string[];
  session: PlanSession;
  nowMs: number;
  zone: Zone;
  /** By instrument: what each has learned of its own sets. */
  priors: Record<string, Priors>;
}

/** What if the strings of one instrument are new from a moment on? */
export type RestringAsk = RestringShow & { instrumentId: string; priors: Priors };

export interface LifePage {
  sets: StringSet[];
  sheet: ReturnType<typeof lifeSheet>;
  treated: Treated[];
  /** undefined where it has no frets. */
  octaves: Octaves | undefined;
}

/** Entries of the log as they are listed. */
export interface Listed {
  /** How many were found. */
  found: number;
  /** `instead`: another correction of the same entry stands, which one. */
  rows: { record: LogRecord; said: string; gone: boolean; instead?: string }[];
}

/** How an import is entered: as what, by whom and when. */
export interface ImportEntry {
  /** What the file is called. */
  file: string;
  id: string;
  by: string;
  atMs: number;
  zoneMin: number;
}

/** A file that was made, and how many entries are in it. */
export interface Exported {
  file: Blob;
  records: number;
}

/** What is in a file that may be a log: how many entries, and how many of them are not here. */
export type LookedAt = { ok: true; records: number; missing: number } | { ok: false; message: string };

/** What became of a file of records. */
export type Imported =
  | {
      ok: true;
      fresh: number;
      known: number;
      /** How many of the known stand no longer by what was done here: they were corrected or taken back. */
      gone: number;
      /** Names of the instruments that something new is about, the most first. */
      about: string[];
      /** Readings of instruments that this log does not know. */
      strangers: number;
      /** What was corrected here and there, and not alike. */
      differ: string[];
    }
  | { ok: false; message: string };

/** From the page to the analyst. A question that `waits` gives way to the others. */
export type ToAnalyst =
  | { kind: 'open'; world: StoreName }
  | { kind: 'log'; records: readonly LogRecord[]; chapters: readonly Chapter[] }
  | { kind: 'drop'; id: number }
  | Request;

export type Request = {
  [K in QuestionKind]: { id: number; kind: 'ask'; waits: boolean; question: K; ask: Questions[K]['ask'] };
}[QuestionKind];
/** `done` tells how far it is, 0 to 1. */
export type Answer =
  | ({ id: number } & ({ answer: Questions[QuestionKind]['answer'] } | { error: string } | { done: number }))
  /** A chapter proved damaged. */
  | { aside: Chapter };
