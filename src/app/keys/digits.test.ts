import { steppedClock } from '../world/clock';
import { createDigits } from './digits';

/** What is chosen, counted from 1, when these digits come with so many ms before each. */
function chosen(count: number, ...keys: [waitMs: number, digit: number][]): number[] {
  const out: number[] = [];
  const clock = steppedClock(0);
  const press = createDigits(
    clock,
    (i) => out.push(i + 1),
    () => undefined,
  );
  for (const [waitMs, digit] of keys) {
    clock.advance(waitMs);
    press(digit, count);
  }
  clock.advance(5000);
  return out;
}

test('six strings: a digit is a string, what is none does nothing', () => {
  expect(chosen(6, [0, 1], [10, 6], [10, 7], [10, 0])).toEqual([1, 6]);
  expect(chosen(10, [0, 1], [10, 0])).toEqual([1, 10]);
});

test('twelve strings: two digits within a second, or one alone', () => {
  expect(chosen(12, [0, 1], [300, 2])).toEqual([12]);
  expect(chosen(12, [0, 1], [300, 0])).toEqual([10]);
  expect(chosen(12, [0, 1], [1500, 2])).toEqual([1, 2]);
  expect(chosen(12, [0, 1], [300, 5])).toEqual([5]);
  expect(chosen(12, [0, 4])).toEqual([4]);
});

test('what waits for a second digit is shown', () => {
  const shown = jest.fn();
  createDigits(steppedClock(0), () => undefined, shown)(1, 11);
  expect(shown).toHaveBeenCalledWith('1');
});
