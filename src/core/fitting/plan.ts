import type { FamilyTraits } from '../strings';
import {
  beforeSteps,
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

/**
 * Outer and inner strings in turn: first, last, second, last but one … so that the pull comes on evenly across the body.
 */
export function bringUpOrder<T>(strings: readonly T[]): T[] {
  const left = [...strings];
  const order: T[] = [];
  while (left.length > 0) order.push(order.length % 2 === 0 ? left.shift()! : left.pop()!);
  return order;
}

/**
 * Every step of fitting these strings, in order; what is alike for all of them is one step. Strings that hold something up are
 * changed one at a time, each brought up before the next comes off; otherwise all go on, all come up under, then each to its
 * pitch and through its rounds.
 * @param strings those to be fitted, in the instrument's own order
 */
export function fittingPlan(traits: FamilyTraits, strings: readonly FittedString[]): FittingStep[] {
  const order = bringUpOrder(strings);
  const on = (s: FittedString) => onStep(s, traits);
  const under = (s: FittedString) => raiseUnderStep(s, traits);
  const changed =
    traits.holds === 'nothing'
      ? [...offSteps(strings, traits), ...order.map(on), ...order.map(under)]
      : order.flatMap((s) => [...offSteps([s], traits), on(s), under(s)]);
  return [
    ...beforeSteps(traits, strings.length > 1),
    ...changed,
    bedStep(strings, traits),
    ...order.map((s) => raiseStep(s, traits)),
    ...warmSteps(strings),
    ...order.map(roundsStep),
  ];
}

/** Schools of stretching by hand; the user picks one. */
export const SCHOOLS = [
  {
    code: 'pull',
    name: 'Pull away',
    how: 'Pull the string gently away from the fingerboard, here and there along its length.',
  },
  { code: 'push-pull', name: 'Push and pull', how: 'Push and pull it between two hands, moving along its length.' },
  {
    code: 'cloth',
    name: 'Cloth and thumb',
    how: 'Draw a cloth between thumb and finger firmly along the string, several times.',
  },
] as const;
export type School = (typeof SCHOOLS)[number]['code'];
