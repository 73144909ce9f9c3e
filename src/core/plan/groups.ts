import type { PlanString } from './types';
import { MINUTE } from '../base';

/** Readings of an instrument further apart than this belong to different walks, min. */
export const WALK_GAP_MIN = 10;

/** Strings of a list by instrument, in order of first appearance. */
export function byInstrument(strings: readonly PlanString[]): Map<string, PlanString[]> {
  const groups = new Map<string, PlanString[]>();
  for (const s of strings) groups.set(s.instrumentId, [...(groups.get(s.instrumentId) ?? []), s]);
  return groups;
}

/** How long some strings take, min. */
export type Takes = (strings: readonly PlanString[], times?: number) => number;

/** So many hands from a time on: each job goes to the one that is free first. @returns when it begins, ms */
export function handsFrom(hands: number, fromMs: number): (minutes: number, notBeforeMs?: number) => number {
  const free = Array.from({ length: Math.max(1, hands) }, () => fromMs);
  return (minutes, notBeforeMs = -Infinity) => {
    const hand = free.indexOf(Math.min(...free));
    const atMs = Math.max(notBeforeMs, free[hand]!);
    free[hand] = atMs + minutes * MINUTE;
    return atMs;
  };
}
