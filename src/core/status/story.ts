import { median } from 'simple-statistics';
import { MINUTE } from '../base';
import { ageFromMs } from './hand-events';
import { fallenSeries } from './fallen';
import { fitLives, surpriseAt, type LifeFit, type Priors } from './fits';
import { tellingReadings } from './telling';
import type { InstrumentLife, StringLife, TreatmentRecord } from '../log';
import { fallWithoutHands, mixtureQuantile, offsetNow, standAhead } from '../settling';
import { isReadTwice } from './outlook';

/** What the Settling view is asked. */
export interface StoryWish {
  nowMs: number;
  /** The chart looks ahead to here. */
  untilMs: number;
  priors: Priors;
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
}

export interface InstrumentStory {
  /** The moment it was told for. */
  nowMs: number;
  strings: StringStory[];
  /** What all strings did alike beyond their creep, at each walk with three strings or more, cents (sharp positive). */
  common: { atMs: number; cents: number }[];
}

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
  const told = strings.map((life, i) => tell(life, fits[i], wish));
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

/** What is told of a string, and how far each reading lay from what was expected. */
interface Told {
  story: StringStory;
  surprises: { stringId: string; atMs: number; cents: number }[];
}

function tell(life: StringLife, lived: LifeFit | undefined, wish: StoryWish): Told {
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
  };
  const last = readings.at(-1);
  if (!lived || !last || !isReadTwice(life)) return { story, surprises: [] };
  const { fit } = lived;
  const { nowMin } = fit;
  const now = offsetNow(fit);
  // Total fall: the last reading's, and what it has lost or gained since; where it stands now has its doubt too.
  const base = fallen.at(-1)!.cents + last.cents;
  const horizon = Math.max(30, (wish.untilMs - wish.nowMs) / MINUTE);
  for (let k = 0; k <= STEPS_AHEAD; k++) {
    const h = horizon * (k / STEPS_AHEAD) ** 2;
    const place = { atMs: wish.nowMs + h * MINUTE, ageMin: nowMin + h };
    const stand = standAhead(fit, h);
    story.ahead.push({ ...place, ...spreadOf((p) => base - mixtureQuantile(stand, 1 - p)) });
    if (fit.isTouched) story.without.push({ ...place, fallCents: base - now.cents + fallWithoutHands(fit, h) });
  }
  const surprises = lived.told.flatMap((r) => {
    const s = surpriseAt(lived, r.atMs);
    return s && r.purpose === 'as-found' && !r.slip && !r.stretched
      ? [{ stringId: plan.stringId, atMs: r.atMs, cents: s.innovationCents }]
      : [];
  });
  return { story, surprises };
}
