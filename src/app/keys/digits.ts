import { useLayoutEffect, useRef, useState } from 'react';
import type { Clock, Stop } from '../world/clock';
import { useWorld } from '../world/world';

/** A digit that could begin a longer number waits so long for the next, ms. */
const WAIT_MS = 1000;

/**
 * Chooses strings by digits: 1 to 9, 0 for the tenth; with more than ten strings two digits within a second, and a first one alone after
 * it.
 * @param choose told the string's index
 * @param show told what waits for a second digit
 */
export function createDigits(
  clock: Pick<Clock, 'after'>,
  choose: (index: number) => void,
  show: (digits: string) => void,
) {
  let before = '';
  let stop: Stop | undefined;
  const take = (number: number) => {
    before = '';
    stop?.();
    choose(number - 1);
  };
  return (digit: number, count: number): void => {
    stop?.();
    const both = Number(`${before}${digit}`);
    if (before !== '' && both <= count) return take(both);
    before = '';
    if (digit === 0) return count >= 10 ? take(10) : undefined;
    if (digit > count) return;
    if (10 * digit > count || count <= 10) return take(digit);
    before = String(digit);
    show(before);
    stop = clock.after(WAIT_MS, () => take(digit));
  };
}

/** The digit keys of a view that shows so many strings. */
export function useDigits(
  count: number,
  choose: (index: number) => void,
  show: (digits: string) => void,
): (digit: number) => void {
  const { clock } = useWorld();
  const latest = useRef({ choose, show });
  useLayoutEffect(() => {
    latest.current = { choose, show };
  });
  const [press] = useState(() =>
    createDigits(
      clock,
      (index) => latest.current.choose(index),
      (digits) => latest.current.show(digits),
    ),
  );
  return (digit) => press(digit, count);
}
