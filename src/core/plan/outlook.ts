import {
  chanceToHold,
  mixtureBetween,
  fallAhead,
  fitSettling,
  mixtureQuantile,
  type Mixture,
  type SettlingFit,
  type SettlingMaterial,
  type SettlingPrior,
} from '../settling';
import type { StringPlan } from '../log';
import { SETTLES_AS } from '../strings';
import type { FallSpan, PlanSession } from './types';
import { MINUTE } from '../base';
import type { StringCourse } from './courses';

/**
 * The forecast of a string that was just tuned is this much too wide for an hour or two: the tolerance is counted so much wider.
 * House calibration by bench/plan.
 */
const MARGIN = 1.05;
/** Of a new string nothing is known yet but its material: it is ready from this chance on, within this share of the tolerance (house). */
const NEW_READY = 0.95;
const NEW_MARGIN = 0.9;

/** Chance that a string left at a lead stays within tolerance while it plays, with the plan's margin: in at the beginning and at the end. */
export function chanceWithin(
  course: StringCourse,
  leadCents: number,
  playsMs: { from: number; to: number },
  toleranceCents: number,
): number {
  const within = MARGIN * toleranceCents;
  const inAt = (atMs: number) => {
    const { share, mean, sd } = course.fallTo(Math.max(atMs, course.fromMs + MINUTE));
    const mix = { share, mean, sd: sd.map((s) => Math.hypot(s, course.sigmaCents)) };
    return mixtureBetween(mix, leadCents - within, leadCents + within);
  };
  return Math.max(0, inAt(playsMs.from) + inAt(playsMs.to) - 1);
}

/** A fall as its median and nine of ten, cents. */
export const fallSpan = (mix: Mixture): FallSpan => ({
  q05: mixtureQuantile(mix, 0.05),
  q50: mixtureQuantile(mix, 0.5),
  q95: mixtureQuantile(mix, 0.95),
});

/** Rounds and treatment leave about this share of a new string's slope (house estimate, to be tested as a trial). */
const MADE_READY = 0.55;

/** A fresh string as its prior alone describes it, at an age. */
function freshFit(material: SettlingMaterial, prior: SettlingPrior, ageMin: number, madeReady: boolean): SettlingFit {
  const known = madeReady ? { ...prior, slopeCents: prior.slopeCents * MADE_READY } : prior;
  return fitSettling(
    {
      material,
      prior: known,
      events: [
        { t: 0, kind: 'retune' },
        { t: ageMin, kind: 'retune' },
      ],
    },
    ageMin,
  );
}

/** What restringing at a moment would mean at the show, from priors and the record. */
export interface RestringOutlook {
  chance: number;
  /** Fall from the last tuning to the interval, or the end where there is none, cents. */
  fall: FallSpan;
}

/** What a fresh string would do at the show if it were put on now. */
export function ifRestrung(
  string: { material: SettlingMaterial; prior: SettlingPrior },
  restrungMs: number,
  tunedMs: number,
  intervalMs: number,
  endMs: number,
  toleranceCents: number,
  madeReady: boolean,
): RestringOutlook {
  const fit = freshFit(string.material, string.prior, Math.max(1, (tunedMs - restrungMs) / MINUTE), madeReady);
  const mix = fallAhead(fit, Math.max(1, (intervalMs - tunedMs) / MINUTE));
  return {
    chance: chanceToHold(fit, Math.max(1, (endMs - tunedMs) / MINUTE), NEW_MARGIN * toleranceCents, 0),
    fall: fallSpan(mix),
  };
}

/** New strings put on for a show: when, when they are tuned last, and what they play. */
export interface RestringShow {
  session: PlanSession;
  restrungMs: number;
  tunedMs: number;
}
export type StringRestrung = RestringOutlook & { stringId: string; note: string };

/** What every string of an instrument would do at the show if all were put on anew; the fall until the interval, where there is one. */
export function ifAllRestrung(
  strings: readonly StringPlan[],
  priorOf: (material: SettlingMaterial) => SettlingPrior,
  { session, restrungMs, tunedMs }: RestringShow,
): StringRestrung[] {
  const { curtainMs, minutes, intervalMin, toleranceCents, school } = session;
  const endMs = curtainMs + minutes * MINUTE;
  const intervalMs = intervalMin === null ? endMs : curtainMs + intervalMin * MINUTE;
  return strings.map(({ stringId, note, material }) => {
    const settles = SETTLES_AS[material];
    const string = { material: settles, prior: priorOf(settles) };
    const madeReady = school === 'make-ready';
    return {
      stringId,
      note,
      ...ifRestrung(string, restrungMs, tunedMs, intervalMs, endMs, toleranceCents, madeReady),
    };
  });
}

const LONGEST_MIN = 30 * 1440;

/** Ages at which strings are ready that were worked out: every plan of a show asks for the same. */
const readyAges = new Map<string, number | null>();
const MOST_AGES = 60;

/** Age at which a fresh string is ready to hold for so long, min, to a twentieth; null where a month is not enough. */
export function readyAgeMin(
  { material, prior }: { material: SettlingMaterial; prior: SettlingPrior },
  holdMin: number,
  toleranceCents: number,
  madeReady: boolean,
): number | null {
  const key = JSON.stringify([material, prior, holdMin, toleranceCents, madeReady]);
  const known = readyAges.get(key);
  if (known !== undefined) return known;
  const within = NEW_MARGIN * toleranceCents;
  const age = firstReady((age) => chanceToHold(freshFit(material, prior, age, madeReady), holdMin, within, 0));
  if (readyAges.size >= MOST_AGES) readyAges.clear();
  readyAges.set(key, age);
  return age;
}

function firstReady(chanceAt: (ageMin: number) => number): number | null {
  const isReady = (age: number) => chanceAt(age) >= NEW_READY;
  if (!isReady(LONGEST_MIN)) return null;
  let low = 10;
  let high = LONGEST_MIN;
  if (isReady(low)) return low;
  while (high / low > 1.05) {
    const middle = Math.sqrt(low * high);
    if (isReady(middle)) high = middle;
    else low = middle;
  }
  return high;
}

/** A string is put on and brought up in no less, min (house estimate). */
const RESTRING_MIN = 5;
/** Whether there is time to put new strings on before the last tuning; false where no time was said. */
export const canBeRestrung = (restrungMs: number, tunedMs: number): boolean =>
  restrungMs < tunedMs - RESTRING_MIN * MINUTE;
