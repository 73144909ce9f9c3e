import { isCourses } from '../music';
import type { FamilyTraits } from '../strings';
import {
  bedStep,
  offSteps,
  onStep,
  raiseStep,
  raiseUnderStep,
  roundsStep,
  warmSteps,
  type FittedString,
  type FittingStep,
} from './steps';
import { afterSteps, beforeSteps, isOneByOne } from './whole';

/**
 * Outer and inner strings in turn: first, last, second, last but one … so that the pull comes on evenly across the body.
 */
export function bringUpOrder<T>(strings: readonly T[]): T[] {
  const left = [...strings];
  const order: T[] = [];
  while (left.length > 0) order.push(order.length % 2 === 0 ? left.shift()! : left.pop()!);
  return order;
}

/** What was said once is not said again at every string. */
function saidOnce(steps: readonly FittingStep[]): FittingStep[] {
  const said = new Set<string>();
  return steps.map((step) => {
    const again = said.has(step.why);
    said.add(step.why);
    return again ? { ...step, why: '' } : step;
  });
}

/**
 * Every step of fitting these strings, in order; what is alike for all of them is one step. Strings that hold something up, and
 * those of a frame with pins, are changed one at a time, each brought up before the next comes off; otherwise all go on, all come
 * up under, then each to its pitch and through its rounds.
 * @param strings those to be fitted, in the instrument's own order
 */
export function fittingPlan(traits: FamilyTraits, strings: readonly FittedString[]): FittingStep[] {
  const order = bringUpOrder(strings);
  const on = (s: FittedString) => onStep(s, traits);
  const under = (s: FittedString) => raiseUnderStep(s, traits);
  const changed = isOneByOne(traits)
    ? order.flatMap((s) => [...offSteps([s], traits), on(s), under(s)])
    : [...offSteps(strings, traits), ...order.map(on), ...order.map(under)];
  return saidOnce([
    ...beforeSteps(traits, strings.length > 1),
    ...changed,
    bedStep(strings, traits),
    ...order.map((s) => raiseStep(s, traits)),
    ...warmSteps(strings),
    ...order.map(roundsStep),
    ...afterSteps(traits),
  ]);
}

const octaveOf = (note: string) => Number(/-?\d+$/.exec(note)?.[0] ?? 0);

/**
 * Names of strings where neighbours form courses of two: 'E4 (first of two)', 'G4 (octave of G3)'. Undefined for single strings.
 * @param notes all strings of the instrument, in order
 */
export function courseLabels(notes: readonly string[]): (string | undefined)[] {
  const paired = isCourses(notes);
  return notes.map((note, i) => {
    const other = notes[i ^ 1];
    if (!paired || other === undefined) return undefined;
    if (other === note) return `${note} (${i % 2 === 0 ? 'first' : 'second'} of two)`;
    return octaveOf(note) > octaveOf(other) ? `${note} (octave of ${other})` : `${note} (with its octave)`;
  });
}

/** Schools of stretching by hand; the user picks one. */
export const STRETCH_SCHOOLS = [
  {
    code: 'pull',
    name: 'Pull away',
    how: 'Pull the string gently away from the instrument, here and there along its length.',
  },
  { code: 'push-pull', name: 'Push and pull', how: 'Push and pull it between two hands, moving along its length.' },
  {
    code: 'cloth',
    name: 'Cloth and thumb',
    how: 'Hold a cloth between thumb and finger and draw it firmly along the string, several times.',
  },
] as const;
export type StretchSchool = (typeof STRETCH_SCHOOLS)[number]['code'];
