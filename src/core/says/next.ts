import { bridgeNow } from '../bridge';
import { checkStep, TOLERANCE_CENTS } from '../check';
import { BEGIN_OCTAVE, freshMoves, octaveAt, octavePasses, octavesOf } from '../octave';
import { doneWalks, isDue, type PlanItem } from '../plan';
import { dueWords, sinceTime, type Zone, MINUTE, HOUR, DAY } from '../base';
import type { Bench, InstrumentLife } from '../log';
import { adviseRounds } from '../settling';
import { traitsOf } from '../strings';
import { type StringStatus, commonOffset } from '../status';
import { inquiryUnderWay } from '../causes';

/** Where a next thing is done: the first part of a view's address. */
export type NextPlace = 'bench' | 'fitting' | 'causes' | 'octave' | 'bridge';
export interface NextThing {
  to: NextPlace;
  /** The string that is to be put on or stretched. */
  stringId?: string;
  /** When it is to be done; missing where it is now. */
  atMs?: number;
  /** There is nothing to do. */
  idle?: true;
  words: string;
}
export interface NextAsked {
  life: InstrumentLife;
  bench: Bench;
  a4Hz: number;
  nowMs: number;
  zone: Zone;
  statuses: readonly StringStatus[];
  /** What the plan of the show has next for it; null where it has nothing more, undefined where it does not play. */
  visit: PlanItem | null | undefined;
}

/** Stretch rounds are thought of for so long after a string was put on, ms (house). */
const YOUNG_MS = 3 * HOUR;
/** A string that slipped is asked about for so long, ms. */
const SLIPPED_MS = DAY;
/** So many walks settle a set enough for its octave to be worth reading, and so long it is offered, ms (house). */
const CHECKS = 3;
const NEW_SET_MS = 21 * DAY;
const SETTLED_MS = DAY;
/** What is due within this is due now. */
export const SOON_MS = 5 * MINUTE;
/** Walks are so far apart, ms. */
const WALK_MS = 10 * MINUTE;

type Rule = (asked: NextAsked) => NextThing | undefined;
const noteOf = ({ life }: NextAsked, stringId: string) =>
  life.strings.find((s) => s.plan.stringId === stringId)?.plan.note ?? '';
const named = (notes: readonly string[]): string =>
  notes.length > 2 ? `${notes.length} strings` : notes.join(' and ');

/** What was begun and is not done is gone on with. */
const underWay: Rule = (asked) => {
  const { life, bench, a4Hz, nowMs } = asked;
  const log = { ...asked, newId: () => '' };
  if (checkStep(log, {})) return { to: 'bench', words: 'Go on with the check' };
  if (octaveAt(log, BEGIN_OCTAVE).step) return { to: 'octave', words: 'Go on with the intonation check' };
  if (traitsOf(life.record).holds === 'springs' && bridgeNow({ life, bench, a4Hz, nowMs }).session)
    return { to: 'bridge', words: 'Go on tuning with the floating bridge' };
  const inquiry = inquiryUnderWay(life, bench, nowMs);
  const note = life.strings.find((s) => s.plan.stringId === inquiry?.stringId)?.plan.note;
  return note ? { to: 'causes', words: `Go on: why does ${note} lose its tuning?` } : undefined;
};

const bare: Rule = ({ life }) => {
  const off = life.strings.filter((s) => s.bare);
  const [first] = off;
  if (!first) return undefined;
  return { to: 'fitting', stringId: first.plan.stringId, words: `Put on ${named(off.map((s) => s.plan.note))}` };
};

const unread: Rule = ({ life }) =>
  life.strings.every((s) => s.readings.length === 0) ? { to: 'bench', words: 'Check all strings once' } : undefined;

const slipped: Rule = (asked) => {
  const { statuses, bench, life, nowMs } = asked;
  const gone = statuses.find(
    (s) =>
      s.slippedMs !== null &&
      nowMs - s.slippedMs < SLIPPED_MS &&
      !bench.findings.some(
        (f) => f.instrumentId === life.record.instrumentId && f.stringId === s.stringId && f.atMs > s.slippedMs!,
      ),
  );
  if (!gone) return undefined;
  const what = gone.state === 'rose' ? 'rose at once' : 'slipped';
  return { to: 'causes', words: `${noteOf(asked, gone.stringId)} ${what}: find out why` };
};

/** New strings that another round would bed. */
const rounds: Rule = ({ life, nowMs }) => {
  const young = life.strings.filter(
    (s) =>
      s.strungMs !== null &&
      nowMs - s.strungMs < YOUNG_MS &&
      s.rounds.length > 0 &&
      !s.readings.some((r) => r.purpose === 'as-left' && r.atMs > s.rounds.at(-1)!.atMs + WALK_MS) &&
      !adviseRounds(s.rounds.map((r) => r.dropCents)).stop,
  );
  const [first] = young;
  if (!first) return undefined;
  return {
    to: 'fitting',
    stringId: first.plan.stringId,
    words: `Stretch ${named(young.map((s) => s.plan.note))} once more`,
  };
};

/** What moved all strings at once is found out before any of them is turned back. */
const together: Rule = ({ life, statuses, a4Hz }) => {
  const all = commonOffset(life, statuses, a4Hz);
  if (!all) return undefined;
  return {
    to: 'bench',
    words: `All strings moved: ${all.asHz === null ? 'were they tuned elsewhere?' : 'check the reference'}`,
  };
};

/** Tune those strings of which this is so. */
function tune({ life, statuses }: NextAsked, which: (status: StringStatus) => boolean): NextThing | undefined {
  const notes = statuses.flatMap((s, i) => (which(s) ? [life.strings[i]!.plan.note] : []));
  return notes.length === 0 ? undefined : { to: 'bench', words: `Tune ${named(notes)}` };
}

/** Strings that stand off and are read: they are brought up, if no plan says otherwise. */
const off: Rule = (asked) => (asked.visit === undefined ? tune(asked, (s) => s.off) : undefined);

/** Is out of tolerance now: by its last figure, or surely by what it has done since. */
const isOut = ({ state, off, byNow }: StringStatus): boolean =>
  state !== 'unread' && (off || (byNow !== null && Math.abs(byNow.cents) - byNow.sigmaCents > TOLERANCE_CENTS));

/** Before a show its plan says when; but what stands out now is not left for a visit that is far off. */
const outNow: Rule = (asked) => {
  const { visit, nowMs } = asked;
  return visit === undefined || (visit && isDue(visit, nowMs)) ? undefined : tune(asked, isOut);
};

const show: Rule = ({ visit, nowMs, zone }) => {
  if (visit === undefined) return undefined;
  if (visit === null) return { to: 'bench', idle: true, words: 'Nothing more before the show' };
  if (isDue(visit, nowMs))
    return {
      to: 'bench',
      words: visit.for === 'last-tuning' ? 'The last tuning before the show' : 'Check and tune now',
    };
  const what = visit.for === 'last-tuning' ? 'Last tuning' : 'Check';
  return { to: 'bench', atMs: visit.atMs, words: `${what} ${dueWords(visit.atMs, nowMs, zone)}` };
};

/** Saddles to be moved, or the octave of a new set to be read. */
const octave: Rule = ({ life, bench, nowMs, statuses }) => {
  const { frets } = traitsOf(life.record);
  if (!frets) return undefined;
  const { instrumentId } = life.record;
  const octaves = octavesOf(life, bench);
  if (freshMoves(octaves).length > 0) return { to: 'octave', words: 'Set the intonation as it was measured' };
  const strungMs = Math.max(0, ...life.strings.map((s) => s.strungMs ?? 0));
  const age = nowMs - strungMs;
  if (strungMs === 0 || age > NEW_SET_MS || doneWalks([life], 0).length < CHECKS) return undefined;
  // What still falls fast has no octave yet.
  if (age < SETTLED_MS && statuses.some((s) => s.state !== 'holding')) return undefined;
  const isRead = life.strings.some((s) =>
    octavePasses(bench.touches, instrumentId, s.plan.stringId).some((p) => p.atMs > strungMs),
  );
  return isRead ? undefined : { to: 'octave', words: 'Check the intonation on these new strings' };
};

/** When the first string is to be looked at, ms; Infinity where that is not known. */
const dueMs = ({ statuses }: NextAsked): number => Math.min(...statuses.map((s) => s.nextCheckMs ?? Infinity));

const due: Rule = (asked) => (dueMs(asked) <= asked.nowMs + SOON_MS ? { to: 'bench', words: 'Check now' } : undefined);

const check: Rule = (asked) => {
  const { statuses, nowMs, zone } = asked;
  const atMs = dueMs(asked);
  if (Number.isFinite(atMs)) return { to: 'bench', atMs, words: `Check ${dueWords(atMs, nowMs, zone)}` };
  const lastMs = Math.max(...statuses.map((s) => s.lastReadMs ?? 0));
  return { to: 'bench', words: `Check again, last read ${sinceTime(lastMs, nowMs, zone)}` };
};

/** In the order of need: what is under way, what presses, what the show asks, what is due, what may be worth it. */
const RULES: readonly Rule[] = [
  underWay,
  bare,
  unread,
  slipped,
  rounds,
  together,
  outNow,
  show,
  off,
  due,
  octave,
  check,
];

/** The one next thing to do with an instrument. */
export function nextThing(asked: NextAsked): NextThing {
  for (const rule of RULES) {
    const next = rule(asked);
    if (next) return next;
  }
  throw new Error('The last rule always answers.');
}
