import type { TrackPoint } from '../pitch';

/** How the string came to where it is. */
export type Arrival = 'from below' | 'from above' | 'overshot' | 'untouched';

/** A robust figure of where the string stands now. */
export interface Figure {
  cents: number;
  /** Median distance of the points from it, cents. */
  spread: number;
  tS: number;
}

/** The figure rests on the points of this long, s, and on at least so many. */
const FIGURE_S = 0.3;
const LEAST_POINTS = 6;
/** A pluck starts sharp and rough: its first points say nothing, s (house estimate). */
const ATTACK_S = 0.2;
/** Points that scatter more than this are no figure, cents. */
const MOST_SPREAD = 35;
/** Outside is outside by more than this beside the scatter, cents (house estimate). */
const CLEARLY_CENTS = 0.8;

const medianOf = (sorted: number[]): number => sorted[sorted.length >> 1]!;

/** Where the string stands: median of the newest points, none where they are too few or do not agree. */
export function figureOf(points: readonly TrackPoint[], onsetS: number): Figure | undefined {
  const newest = points[points.length - 1];
  if (!newest) return undefined;
  const from = Math.max(newest.tS - FIGURE_S, onsetS + ATTACK_S);
  const recent: number[] = [];
  for (let i = points.length - 1; i >= 0 && points[i]!.tS > from; i--) {
    const { cents } = points[i]!;
    if (cents !== null) recent.push(cents);
  }
  if (recent.length < LEAST_POINTS) return undefined;
  const cents = medianOf(recent.sort((a, b) => a - b));
  const spread = medianOf(recent.map((c) => Math.abs(c - cents)).sort((a, b) => a - b));
  return spread > MOST_SPREAD ? undefined : { cents, spread, tS: newest.tS };
}

/** The side of the tolerance on which the string was last, and whether it had been below before. */
export interface Approach {
  side: 'below' | 'above' | undefined;
  wasBelow: boolean;
}

/** The approach as it begins. @param cents where it stands; null where nobody knows */
export const wayFrom = (cents: number | null, toleranceCents: number): Approach =>
  goesOn({ side: undefined, wasBelow: false }, cents ?? 0, 0, toleranceCents);

/**
 * The way so far, and one figure more.
 * @param spread of the figure, cents
 */
export function goesOn(way: Approach, cents: number, spread: number, toleranceCents: number): Approach {
  const edge = toleranceCents + CLEARLY_CENTS + 1.5 * spread;
  if (cents < -edge) return { side: 'below', wasBelow: true };
  return cents > edge ? { ...way, side: 'above' } : way;
}

/** How it came to where it is. */
export function arrivalOf({ side, wasBelow }: Approach): Arrival {
  if (side === undefined) return 'untouched';
  if (side === 'below') return 'from below';
  return wasBelow ? 'overshot' : 'from above';
}

/** A string that came from above may fall: it is to be finished from below. */
export const cameFromAbove = (arrival: Arrival | undefined): boolean =>
  arrival === 'from above' || arrival === 'overshot';

/** Points of one unbroken sound lie no further apart than this, s and cents. */
const UNBROKEN_S = 0.12;
const UNBROKEN_CENTS = 45;

/**
 * How far the pitch has risen within the newest unbroken run of the trace, cents: a hand that turns. Another string begins
 * with a gap or a jump.
 */
export function riseOf(points: readonly TrackPoint[]): number {
  let lowest = Infinity;
  let after: { tS: number; cents: number } | undefined;
  const newest = points[points.length - 1];
  for (let i = points.length - 1; i >= 0; i--) {
    const { tS, cents } = points[i]!;
    if (cents === null) continue;
    if (after && (after.tS - tS > UNBROKEN_S || Math.abs(after.cents - cents) > UNBROKEN_CENTS)) break;
    lowest = Math.min(lowest, cents);
    after = { tS, cents };
  }
  const top = points.findLast((p) => p.cents !== null)?.cents;
  return newest && top !== undefined && top !== null && Number.isFinite(lowest) ? top - lowest : 0;
}
