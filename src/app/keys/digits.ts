import { useLayoutEffect, useRef, useState } from 'react';

/** A digit that could begin a longer number waits so long for the next, ms. */
const WAIT_MS = 1000;

/**
 * Chooses strings by digits: 1 to 9, 0 for the tenth; with more than ten strings two digits within a second, and a first one alone after
 * it.
 * @param choose told the string's index
 * @param show told what waits for a second digit
 */
export function createDigits(choose: (index: number) => void, show: (digits: string) => void) {
  let before = '';
  let timer: ReturnType<typeof setTimeout> | undefined;
  const take = (number: number) => {
    before = '';
    clearTimeout(timer);
    choose(number - 1);
  };
  return (digit: number, count: number): void => {
    clearTimeout(timer);
    const both = Number(`${before}${digit}`);
    if (before !== '' && both <= count) return take(both);
    before = '';
    if (digit === 0) return count >= 10 ? take(10) : undefined;
    if (digit > count) return;
    if (10 * digit > count || count <= 10) return take(digit);
    before = String(digit);
    show(before);
    timer = setTimeout(() => take(digit), WAIT_MS);
  };
}

/** The digit keys of a view that shows so many strings. */
export function useDigits(
  count: number,
  choose: (index: number) => void,
  show: (digits: string) => void,
): (digit: number) => void {
  const latest = useRef({ choose, show });
  useLayoutEffect(() => {
    latest.current = { choose, show };
  });
  const [press] = useState(() =>
    createDigits(
      (index) => latest.current.choose(index),
      (digits) => latest.current.show(digits),
    ),
  );
  return (digit) => press(digit, count);
}
