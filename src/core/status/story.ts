import { median } from 'simple-statistics';
import { type Zone, MINUTE } from '../base';
import { ageFromMs } from './hand-events';
import { fallenSeries } from './fallen';
import { fitLives, nextChecks, surpriseAt, type LifeFit, type Priors } from './fits';
import { tellingReadings } from './telling';
import type { InstrumentLife, StringLife, TreatmentRecord } from '../log';
import {
  chanceToStay,
  fallAhead,
  fallWithoutHands,
  mixtureMean,
  mixtureQuantile,
  offsetNow,
  standAhead,
  warmthOf,
} from '../settling';
import { roundsTold } from './rounds-gain';
import { readyAfterMin } from './ready';
import { why } from './why';

/** What the Settling view is asked. */
export interface StoryWish {
  nowMs: number;
  toleranceCents: number;
  holdMin: number;
  curtainMs: number | null;
  /** The chart looks ahead to here. */
  untilMs: number;
  priors: Priors;
  zone: Zone;
}

export interface StoryPoint {
  id: string;
  atMs: number;
  ageMin: number;
  fallCents: number;
  kind: 'found' | 'left' | 'stretched' | 'slipped';
}

interface Spread {
  q05: number;
  q25: number;
  q50: number;
  q75: number;
  q95: number;
}

export interface StringStory {
  stringId: string;
  note: string;
  /** The readings that tell something of its settling; how many more there are. */
  points: StoryPoint[];
  undrawn: number;
  treatments: Pick<TreatmentRecord, 'atMs' | 'treatment'>[];
  /** Total fall ahead if it is left alone, cents. */
  ahead: (Spread & { atMs: number; ageMin: number })[];
  /** The same had hands not pulled, warmed or played it; empty where they have not. */
  without: { atMs: number; ageMin: number; fallCents: number }[];
  /** What its stretch rounds have done; '' where there were none. */
  rounds: string;
  fallenCents: number | null;
  /** Fall in the next hour and day, median, cents; null before two readings. */
  perHour: number | null;
  perDay: number | null;
  /** Where it will stand at the curtain if it is left alone, cents from its target. */
  byCurtain: { q05: number; q50: number; q95: number } | null;
  chance: number | null;
  /** From when it holds the wanted time, once brought to pitch; null where one bring-up is not enough, however long it waits. */
  readyMs: number | null;
  /** The same, if it is kept in tune until then; null where a fortnight is not enough. */
  keptReadyMs: number | null;
  nextCheckMs: number | null;
  temperature: { centsPerC: number; sigma: number; from: LifeFit['temperatureFrom'] } | null;
  why: string;
}

export interface InstrumentStory {
  /** The moment it was told for. */
  nowMs: number;
  strings: StringStory[];
  /** What all strings did alike beyond their creep, at each walk with three strings or more, cents (sharp positive). */
  common: { atMs: number; cents: number }[];
}

const CONFIDENCE = 0.9;
const STEPS_AHEAD = 24;
const WALK_MIN = 10;
const FEWEST_COMMON = 3;

const spreadOf = (q: (p: number) => number): Spread => ({
  q05: q(0.05),
  q25: q(0.25),
  q50: q(0.5),
  q75: q(0.75),
  q95: q(0.95),
});

/** Everything that the record tells of an instrument's strings, in their order. */
export function instrumentStory({ strings }: InstrumentLife, wish: StoryWish): InstrumentStory {
  const fits = fitLives(strings, wish.nowMs, wish.priors);
  const checks = nextChecks(strings, { toleranceCents: wish.toleranceCents, confidence: CONFIDENCE }, wish.priors);
  const told = strings.map((life, i) => tell(life, fits[i], checks[i], wish));
  const surprises = told.flatMap((t) => t.surprises).sort((a, b) => a.atMs - b.atMs);
  const common: InstrumentStory['common'] = [];
  for (let i = 0, end = 0; i < surprises.length; i = end) {
    while (end < surprises.length && surprises[end]!.atMs - surprises[i]!.atMs < WALK_MIN * MINUTE) end++;
    const walk = surprises.slice(i, end);
    if (new Set(walk.map((s) => s.stringId)).size >= FEWEST_COMMON)
      common.push({ atMs: walk[0]!.atMs, cents: median(walk.map((s) => s.cents)) });
  }
  return { nowMs: wish.nowMs, strings: told.map((t) => t.story), common };
}

function tell(life: StringLife, lived: LifeFit | undefined, nextCheckMs: number | undefined, wish: StoryWish) {
  const start = ageFromMs(life);
  const { plan, readings } = life;
  const drawn = tellingReadings(life);
  const fallen = fallenSeries(life, lived);
  const story: StringStory = {
    undrawn: readings.length - drawn.length,
    stringId: plan.stringId,
    note: plan.note,
    points: drawn.map((r, i) => {
      const kind = r.slip ? 'slipped' : r.stretched ? 'stretched' : r.purpose === 'as-left' ? 'left' : 'found';
      return {
        id: r.id,
        atMs: r.atMs,
        ageMin: (r.atMs - start!) / MINUTE,
        fallCents: fallen[i]!.cents,
        kind,
      };
    }),
    treatments: life.treatments.map(({ atMs, treatment }) => ({ atMs, treatment })),
    ahead: [],
    without: [],
    rounds: '',
    fallenCents: fallen.at(-1)?.cents ?? null,
    perHour: null,
    perDay: null,
    byCurtain: null,
    chance: null,
    readyMs: null,
    keptReadyMs: null,
    nextCheckMs: null,
    temperature: null,
    why: readings.length === 0 ? 'Not read yet.' : 'Too few readings. Read it twice, some minutes apart.',
  };
  const first = readings[0];
  const last = readings[readings.length - 1];
  const none = { story, surprises: [] as { stringId: string; atMs: number; cents: number }[] };
  if (!lived || !first || !last || last.atMs - first.atMs < MINUTE) return none;
  const { fit } = lived;
  const { nowMin } = fit;
  const now = offsetNow(fit);
  // Total fall: the last reading's, and what it has lost or gained since; where it stands now has its doubt too.
  const base = story.fallenCents! + last.cents;
  const horizon = Math.max(30, (wish.untilMs - wish.nowMs) / MINUTE);
  for (let k = 0; k <= STEPS_AHEAD; k++) {
    const h = horizon * (k / STEPS_AHEAD) ** 2;
    const place = { atMs: wish.nowMs + h * MINUTE, ageMin: nowMin + h };
    const stand = standAhead(fit, h);
    story.ahead.push({ ...place, ...spreadOf((p) => base - mixtureQuantile(stand, 1 - p)) });
    if (fit.isTouched) story.without.push({ ...place, fallCents: base - now.cents + fallWithoutHands(fit, h) });
  }
  story.rounds = roundsTold(life, lived, wish);
  story.perHour = mixtureMean(fallAhead(fit, 60));
  story.perDay = mixtureMean(fallAhead(fit, 1440));
  const curtainMin = wish.curtainMs === null ? 0 : (wish.curtainMs - wish.nowMs) / MINUTE;
  if (curtainMin > 0) {
    const stand = standAhead(fit, curtainMin);
    story.byCurtain = spreadOf((p) => mixtureQuantile(stand, p));
  }
  story.chance = chanceToStay(fit, wish.holdMin, wish.toleranceCents);
  const readyMs = (till: 'left alone' | 'kept in tune') => {
    const wait = readyAfterMin(fit, wish, till);
    return wait === null ? null : wish.nowMs + wait * MINUTE;
  };
  story.readyMs = readyMs('left alone');
  story.keptReadyMs = readyMs('kept in tune');
  story.nextCheckMs = nextCheckMs ?? null;
  const warmth = warmthOf(fit);
  story.temperature = { centsPerC: warmth.mean, sigma: warmth.sd, from: lived.temperatureFrom };
  story.why = why(life, lived, wish);
  const surprises = lived.told.flatMap((r) => {
    const s = surpriseAt(lived, r.atMs);
    return s && r.purpose === 'as-found' && !r.slip && !r.stretched
      ? [{ stringId: plan.stringId, atMs: r.atMs, cents: s.innovationCents }]
      : [];
  });
  return { story, surprises };
}
