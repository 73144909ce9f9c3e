import type { SettlingFit, SettlingMaterial, SettlingPrior } from '../settling';

/** Never a set fitted the same day, or made ready by rounds and treatment. */
export const READY_SCHOOLS = ['not-same-day', 'make-ready'] as const;
export type ReadySchool = (typeof READY_SCHOOLS)[number];

/** A show, and what plays in it. */
export interface PlanSession {
  curtainMs: number;
  minutes: number;
  toleranceCents: number;
  /** The interval, min after the curtain; null where there is none. */
  intervalMin: number | null;
  school: ReadySchool;
  /** Expected temperature there and temperature here, deg C; null where not said. */
  thereC: number | null;
  hereC: number | null;
}

/** One string as the plan sees it. */
export interface PlanString {
  instrumentId: string;
  stringId: string;
  note: string;
  material: SettlingMaterial;
  prior: SettlingPrior;
  /** When its age counts from; undefined where nothing is known. */
  startMs: number | undefined;
  strungMs: number | null;
  lastReadMs: number | null;
  /** Time between its last two checks, min. */
  lastIntervalMin: number;
  /** Where it was last read, cents from target; null before a reading. */
  offsetCents: number | null;
  /** Its settling at the time of planning; undefined before a reading. */
  fit: SettlingFit | undefined;
  /** The same as it was at the last reading: from there the next check is counted, whenever it is asked for. */
  readFit: SettlingFit | undefined;
  rounds: number;
}

export const PLAN_STEPS = [
  'restring',
  'too-late',
  'same-day',
  'rounds',
  'check',
  'acclimatise',
  'last-tuning',
  'between',
] as const;
export type PlanStep = (typeof PLAN_STEPS)[number];

export interface PlanItem {
  /** The same in every plan of one session, so that calendars can renew it. */
  uid: string;
  atMs: number;
  minutes: number;
  what: PlanStep;
  instrumentId: string;
  stringIds: string[];
  why: string;
  /** It was due before now. */
  late: boolean;
  /** It overlaps what comes before or after. */
  conflict: boolean;
}

/** How the show looks for one string. */
export interface ShowOutlook {
  instrumentId: string;
  stringId: string;
  /** P(within tolerance to the end) from the last tuning on; null before a reading. */
  chance: number | null;
  /** Fall from the last tuning to the end: median and 90 % interval, cents. */
  fall: { q05: number; q50: number; q95: number } | null;
}

export interface Plan {
  items: PlanItem[];
  outlook: ShowOutlook[];
  /** Walks of the bench before the last tuning. */
  walks: number;
}
