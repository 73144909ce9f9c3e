import type { PlanString } from './types';

const MINUTE = 60000;

/** Strings of a list by instrument, in order of first appearance. */
export function byInstrument(strings: readonly PlanString[]): Map<string, PlanString[]> {
  const groups = new Map<string, PlanString[]>();
  for (const s of strings) groups.set(s.instrumentId, [...(groups.get(s.instrumentId) ?? []), s]);
  return groups;
}

/** How long some strings take, min. */
export type Takes = (strings: readonly PlanString[], times?: number) => number;

/** One instrument after the other from a time on, as many at once as there are hands. */
export function spread(
  strings: readonly PlanString[],
  atMs: number,
  hands: number,
  takes: Takes,
  each: (own: PlanString[], atMs: number) => void,
): void {
  const free = Array.from({ length: Math.max(1, hands) }, () => atMs);
  for (const own of byInstrument(strings).values()) {
    const hand = free.indexOf(Math.min(...free));
    each(own, free[hand]!);
    free[hand]! += takes(own) * MINUTE;
  }
}
