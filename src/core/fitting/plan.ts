import { traitsOf } from '../strings';
import { beforeSteps, putOnSteps, raiseUnderSteps, settleSteps, type FittedString, type FittingStep } from './steps';

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
 * Every step of fitting these strings, in order. Strings that hold something up are changed one at a time, each brought up
 * before the next comes off; otherwise all go on, all come up under, then each to its pitch and through its rounds.
 * @param strings those to be fitted, in the instrument's own order
 */
export function fittingPlan(family: string, strings: readonly FittedString[]): FittingStep[] {
  const traits = traitsOf(family);
  const order = bringUpOrder(strings);
  const before = beforeSteps(traits, strings.length > 1);
  const on = (s: FittedString) => putOnSteps(s, traits);
  const under = (s: FittedString) => raiseUnderSteps(s, traits);
  const settle = (s: FittedString) => settleSteps(s, traits);
  const putOn =
    traits.holds === 'nothing'
      ? [...order.flatMap(on), ...order.flatMap(under)]
      : order.flatMap((s) => [...on(s), ...under(s)]);
  return [...before, ...putOn, ...order.flatMap(settle)];
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
