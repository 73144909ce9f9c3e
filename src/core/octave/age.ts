import jstat from 'jstat';
import { weightedFit } from './least-squares';

export interface OctaveAt {
  ageDays: number;
  errorCents: number;
  sigmaCents: number;
}

/** How a string's octave error moves with its age. */
export interface AgeTrend {
  /** Cents a month of 30 days, with its 80 % interval. */
  perMonth: { q10: number; q50: number; q90: number };
  /** The interval leaves out 0. */
  grows: boolean;
  /** Age at which it crosses the limit, days; ends that are never reached are null. */
  crosses: { q10: number | null; q50: number | null; q90: number | null } | null;
}

const MONTH_DAYS = 30;
const FEWEST = 4;
/** Accelerating wear broke intervals of a straight line (57 to 71 % instead of 80 %): the slope's error is widened by this. */
const CURVATURE = 1.6;
/** Nothing is foretold beyond this many times the record. */
const REACH = 3;

/**
 * Straight line through octave errors by age, weighted by their errors, intervals by Student's t widened for curvature (house
 * calibration). The present value is the line's end; the trend from there on is the slope with its interval.
 * @param limitCents the owner's limit, either way
 * @returns undefined before four passes at different ages
 */
export function ageTrend(passes: readonly OctaveAt[], limitCents: number): AgeTrend | undefined {
  const list = [...passes].sort((a, b) => a.ageDays - b.ageDays);
  if (new Set(list.map((p) => p.ageDays)).size < FEWEST) return undefined;
  const { values, covariance, rest } = weightedFit(
    list.map((p) => [1, p.ageDays]),
    list.map((p) => p.errorCents),
    list.map((p) => p.sigmaCents),
  );
  const freedom = list.length - 2;
  const excess = Math.max(1, rest.reduce((s, r, i) => s + (r / list[i]!.sigmaCents) ** 2, 0) / freedom);
  const [start, slope] = values as [number, number];
  const reach = jstat.studentt.inv(0.9, freedom) * CURVATURE * Math.sqrt(excess * covariance.get(1, 1));
  const first = list[0]!.ageDays;
  const last = list[list.length - 1]!.ageDays;
  const now = start + slope * last;
  const crossing = (perDay: number): number | null => {
    if (Math.abs(now) >= limitCents) return last;
    const to = perDay > 0 ? limitCents : -limitCents;
    const days = perDay === 0 ? Infinity : (to - now) / perDay;
    return days <= REACH * (last - first) ? last + days : null;
  };
  const grows = Math.abs(slope) > reach;
  const away = Math.sign(slope) * reach;
  return {
    perMonth: {
      q10: (slope - reach) * MONTH_DAYS,
      q50: slope * MONTH_DAYS,
      q90: (slope + reach) * MONTH_DAYS,
    },
    grows,
    crosses: grows ? { q10: crossing(slope + away), q50: crossing(slope), q90: crossing(slope - away) } : null,
  };
}

/**
 * Which strings' errors grew while no other string's did the same way: wear of that string, where season, neck or bridge would
 * have moved them all.
 * @param trends one a string, undefined where there are too few passes
 */
export function grewAlone(trends: readonly (AgeTrend | undefined)[]): boolean[] {
  return trends.map((own, i) => {
    const others = trends.filter((t, j): t is AgeTrend => j !== i && t !== undefined);
    const alike = (t: AgeTrend) => t.grows && Math.sign(t.perMonth.q50) === Math.sign(own!.perMonth.q50);
    return own !== undefined && own.grows && others.length > 0 && !others.some(alike);
  });
}
