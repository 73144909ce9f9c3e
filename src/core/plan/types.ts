import type { Zone } from '../base';
import type { SettlingFit, SettlingMaterial, SettlingPrior } from '../settling';

/** Never a set fitted the same day, or made ready by rounds and treatment. */
export const READY_SCHOOLS = ['not-same-day', 'make-ready'] as const;
export type ReadySchool = (typeof READY_SCHOOLS)[number];

/** How often somebody is willing to come, from once to whenever told. */
export const EFFORTS = ['once', 'few', 'often'] as const;
export type Effort = (typeof EFFORTS)[number];

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
  effort: Effort;
  /** Strings that will fall are left above their target. */
  leads: boolean;
  /** Who tunes: so many instruments are tuned at once. */
  hands: number;
  /** When an instrument plays, min after the curtain, where that is not all the time. */
  plays: Record<string, { fromMin: number; toMin: number }>;
  /** Instruments that stand by for another one. */
  spares: { instrumentId: string; forId: string }[];
  /** When a visit was skipped: what was due until then is not asked for any more; null where none was. */
  skippedMs: number | null;
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
  /** Its settling as it was at the last reading; undefined before one. */
  fit: SettlingFit | undefined;
  /** It was left where it stands: brought up, or found near enough. */
  leftThere: boolean;
  rounds: number;
  /** How far above its target it may be left at most, cents. */
  mostLeadCents: number;
}

/** What a plan is made from. */
export interface PlanAsked {
  strings: readonly PlanString[];
  session: PlanSession;
  nowMs: number;
  zone: Zone;
  /** How long one string takes to check and bring up, min, learned from the record. */
  minutesPerString: number;
}

export type PlanStep =
  'restring' | 'too-late' | 'same-day' | 'rounds' | 'check' | 'acclimatise' | 'last-tuning' | 'between' | 'swap';

/** What a visit is for. */
export type VisitPurpose = 'settle' | 'learn' | 'last-tuning' | 'retune';

export interface PlanItem {
  /** The same in every plan of one session, so that calendars can renew it. */
  uid: string;
  atMs: number;
  minutes: number;
  what: PlanStep;
  instrumentId: string;
  /** In the order of need. */
  stringIds: string[];
  why: string;
  /** It was due before now. */
  late: boolean;
  /** It overlaps what comes before or after. */
  conflict: boolean;
  /** Items of one walk have the same figure, min from the curtain. */
  walkMin?: number;
  /** Where strings are brought up. */
  for?: VisitPurpose;
  /** What each string is left at, cents above its target. */
  leaveAtCents?: Record<string, number>;
  /** What stands nearer to that is left alone, cents. */
  bringUpFromCents?: number;
  /** The instrument that takes over. */
  spareId?: string;
}

/** A fall: median and 90 % interval, cents. */
export interface FallSpan {
  q05: number;
  q50: number;
  q95: number;
}

/** How the show looks for one string. */
export interface ShowOutlook {
  instrumentId: string;
  stringId: string;
  /** P(within tolerance to the end) from the last tuning on, hands off; null before a reading. */
  chance: number | null;
  /** Fall from the last tuning to the end: median and 90 % interval, cents. */
  fall: FallSpan | null;
}

/** What a plan asks for and what it leaves, from now on. */
export interface PlanSum {
  /** Walks before the show, the last tuning among them, and in it. */
  before: number;
  inShow: number;
  /** Minutes of work. */
  minutes: number;
  /** Expected share of the string-minutes of the show out of tolerance. */
  out: number;
}

export interface Plan extends PlanSum {
  items: PlanItem[];
  outlook: ShowOutlook[];
  /** Chance that a string holds to the end, hands off, by instrument/string. */
  holds: Record<string, number>;
}
