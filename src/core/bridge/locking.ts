import { mean } from 'simple-statistics';
import { CENTS_PER_LN_TENSION } from '../strings';
import type { BridgeLaw } from './coupling';

/** What happened on a bridge with clamps at the nut, oldest first; strings from 0. */
export type LockedStep =
  | { kind: 'left' | 'read'; string: number; cents: number }
  | { kind: 'lock' }
  /** How much every string was wound while the clamps were closed, cents. */
  | { kind: 'wound'; cents: readonly number[] };

/** A fine tuner moves the string's end by this from one stop to the other, mm (house estimate). */
const FULL_TRAVEL_MM = 2.4;

/** What locking did to each string, the mean of all times: its first reading after, against how it was left; with how often. */
export function lockShifts(steps: readonly LockedStep[], strings: number): { cents: number; count: number }[] {
  const heard: number[][] = Array.from({ length: strings }, () => []);
  const left: (number | undefined)[] = [];
  let open: (number | undefined)[] = [];
  for (const s of steps) {
    if (s.kind === 'left') left[s.string] = s.cents;
    else if (s.kind === 'lock') open = [...left];
    else if (s.kind === 'read' && open[s.string] !== undefined) {
      heard[s.string]!.push(s.cents - open[s.string]!);
      open[s.string] = undefined;
    }
  }
  return heard.map((c) => ({ cents: c.length > 0 ? mean(c) : 0, count: c.length }));
}

/** What the fine tuners have left each way, cents: half of their travel from the middle, less what was wound since the nut was locked. */
export function fineTunerRooms(law: BridgeLaw, steps: readonly LockedStep[]): { up: number; down: number }[] {
  const since = steps.slice(steps.findLastIndex((s) => s.kind === 'lock') + 1);
  return law.tensionN.map((tensionN, i) => {
    const half = (CENTS_PER_LN_TENSION * law.stiffNPerMm[i]! * FULL_TRAVEL_MM) / 2 / tensionN;
    const used = since.reduce((sum, s) => sum + (s.kind === 'wound' ? (s.cents[i] ?? 0) : 0), 0);
    return { up: half - used, down: half + used };
  });
}
