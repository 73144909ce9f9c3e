import { mixtureMoments, normalBelow } from '../settling';
import { MINUTE } from '../base';
import type { StringCourse, Fall } from './courses';

/** Leads are looked for in such steps, cents. */
const STEP_CENTS = 0.25;
/** A smaller lead is not worth an aim, cents (house). */
const LEAST_CENTS = 0.5;
/** Nor is one that saves less, minutes out (house). */
const LEAST_MINUTES = 0.3;
/** A string is not left nearer to the edge above than this when the music begins, cents (house). */
const EDGE_CENTS = 0.75;

/** A retuning that is planned between two pieces is not made so often (house): a lead looks that far beyond it. */
const NOT_DONE = 0.1;

/** The show in short stretches of equal length. */
export interface Cell {
  atMs: number;
  minutes: number;
}

/** A time in equal stretches, ms. @param count how many */
export const cellsOf = (fromMs: number, toMs: number, count: number): Cell[] =>
  Array.from({ length: count }, (_, i) => ({
    atMs: fromMs + ((toMs - fromMs) * (i + 0.5)) / count,
    minutes: (toMs - fromMs) / count / MINUTE,
  }));

/** Chance to be out of tolerance where a string that was left at a lead has fallen by so much. */
const chanceOut = (leadCents: number, { mean, sd }: Fall, toleranceCents: number): number =>
  1 - normalBelow(toleranceCents + mean - leadCents, 0, sd) + normalBelow(mean - leadCents - toleranceCents, 0, sd);

/** A string left at one moment: what each stretch of the show costs it until it is touched again, by the best lead. */
export interface LeadRow {
  fromMs: number;
  /** The first stretch that it plays in. */
  first: number;
  /** Minutes out from the first stretch to before the i-th, with the lead that makes them fewest. */
  until: { out: number; leadCents: number }[];
}

export interface LeadRule {
  toleranceCents: number;
  /** No higher than this, cents; 0 where no lead is wanted. */
  mostCents: number;
}

/** @param first index of its first cell; falls of the stretches that it plays in, its hand's error counted in */
export function rowFrom(
  fromMs: number,
  cells: readonly Cell[],
  first: number,
  falls: readonly Fall[],
  stands: number | null,
  rule: LeadRule,
): LeadRow {
  const { toleranceCents } = rule;
  // Never above the tolerance when it begins to play.
  const most = Math.max(0, Math.min(rule.mostCents, toleranceCents - EDGE_CENTS + Math.max(0, falls[0]?.mean ?? 0)));
  const leads =
    stands === null
      ? Array.from({ length: Math.floor(most / STEP_CENTS) + 1 }, (_, k) => k * STEP_CENTS).filter(
          (l) => l === 0 || l >= LEAST_CENTS,
        )
      : [stands];
  /** Minutes out of each lead before each stretch. */
  const sums = leads.map(() => [0]);
  cells.forEach((cell, c) => {
    const fall = falls[c - first];
    for (let k = 0; k < leads.length; k++)
      sums[k]!.push(sums[k]![c]! + (fall ? cell.minutes * chanceOut(leads[k]!, fall, toleranceCents) : 0));
  });
  const until = sums[0]!.map((_, c) => {
    const weighed = sums.map((s) => s[c]! + NOT_DONE * (s[cells.length]! - s[c]!));
    const best = weighed.reduce((b, w, k) => (w < weighed[b]! - 1e-9 ? k : b), 0);
    const taken = weighed[0]! - weighed[best]! > LEAST_MINUTES ? best : 0;
    return { out: sums[taken]![c]!, leadCents: leads[taken]! };
  });
  return { fromMs, first, until };
}

/** What a course costs, stretch by stretch. */
export function rowOf(course: StringCourse, cells: readonly Cell[], rule: LeadRule): LeadRow {
  const first = cells.findIndex((c) => c.atMs > course.fromMs);
  const at = first < 0 ? cells.length : first;
  const falls = cells.slice(at).map((c): Fall => {
    const { mean, sd } = mixtureMoments(course.fallTo(c.atMs));
    return { mean, sd: Math.hypot(sd, course.sigmaCents) };
  });
  return rowFrom(course.fromMs, cells, at, falls, course.standsCents, rule);
}
