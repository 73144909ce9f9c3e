import type { KeyLines } from '../keys/table';
import { usePedal } from '../keys/usePedal';
import type { BarAction } from './BottomBar';
import type { Listening } from './useListening';

/** One thing that can be done in a view now: its key by the table of keys, its button where it has one, and what it does. */
export interface Action<Name> {
  key: Name;
  on: (shift: boolean, key: string) => void;
  /** On its button; without, there is only the key. */
  words?: string | undefined;
  strong?: boolean;
  disabled?: boolean;
  seldom?: boolean;
  /** Its button stands in the menu only. */
  menu?: boolean;
}

/** What works with every sound: to listen, to type a figure instead. */
export const soundActions = (sound: Listening): Action<'listen' | 'type'>[] => [
  { key: 'listen', on: sound.toggle },
  { key: 'type', on: sound.type },
];

/** The simulated hands, where there are such: they pluck, and turn the tuner. */
export const handActions = (
  hands: { pluck: (hardness: number) => void; turn: (cents: number) => void } | false | undefined,
): Action<'pluck' | 'turn'>[] =>
  hands
    ? [
        { key: 'pluck', on: (shift) => hands.pluck(shift ? HARD : SOFT) },
        { key: 'turn', on: (shift, key) => hands.turn((key === 'ArrowUp' ? 1 : -1) * (shift ? FAR : NEAR)) },
      ]
    : [];
/** How hard the simulated hand plucks, and how far it turns, cents. */
const SOFT = 0.4;
const HARD = 1;
const NEAR = 2;
const FAR = 15;

/** One list for pedal, keys and bar. @returns what stands on the bar, and in its menu only */
export function useActions<Lines extends KeyLines>(
  lines: Lines,
  listed: readonly (Action<keyof Lines & string> | false | undefined)[],
): { actions: BarAction[]; more: BarAction[] } {
  const there = listed.filter((a) => a !== false && a !== undefined);
  const acts = Object.fromEntries(there.filter((a) => !a.disabled).map((a) => [a.key, a.on]));
  usePedal(lines, acts as Partial<Record<keyof Lines, Action<string>['on']>>);
  const bar = (inMenu: boolean): BarAction[] =>
    there.flatMap(({ key, on, words, menu = false, strong, disabled, seldom }) =>
      words === undefined || menu !== inMenu
        ? []
        : [
            {
              words,
              hint: hintOf(lines[key]!.shown),
              on: () => on(false, ''),
              strong: strong === true,
              disabled: disabled === true,
              seldom: seldom === true,
            },
          ],
    );
  return { actions: bar(false), more: bar(true) };
}

/** The first of a line's keys, as a button writes it. */
const hintOf = (shown: string): string => shown.split(/,|, with/)[0]!.trim();
