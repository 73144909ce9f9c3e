import { pacedClock, realClock, steppedClock } from './clock';

test('what was waited for happens on the way, each at its moment, in the order it was asked for', () => {
  const clock = steppedClock(1000);
  const seen: string[] = [];
  const note = (what: string) => () => seen.push(`${what} ${clock.elapsedMs()}`);
  clock.after(50, note('late'));
  clock.after(20, note('first'));
  clock.after(20, note('second'));
  clock.every(30, note('beat'));
  clock.advance(19);
  expect(seen).toEqual([]);
  clock.advance(81);
  expect(seen).toEqual(['first 20', 'second 20', 'beat 30', 'late 50', 'beat 60', 'beat 90']);
  expect([clock.nowMs(), clock.elapsedMs()]).toEqual([1100, 100]);
});

test('what is taken back does not happen, nor what another one has taken back at the same moment', () => {
  const clock = steppedClock(0);
  const act = jest.fn();
  const stop = clock.every(10, act);
  clock.advance(25);
  stop();
  clock.after(40, act);
  const later = clock.after(20, act);
  clock.after(10, later);
  clock.advance(30);
  expect(act).toHaveBeenCalledTimes(2);
  clock.advance(30);
  expect(act).toHaveBeenCalledTimes(3);
});

test('something that is asked for while time goes on happens in the same step, where it is due', () => {
  const clock = steppedClock(0);
  const seen: number[] = [];
  clock.after(10, () => clock.after(10, () => seen.push(clock.elapsedMs())));
  clock.advance(100);
  expect(seen).toEqual([20]);
});

describe('a clock with a pace of its own', () => {
  beforeEach(() => jest.useFakeTimers());
  afterEach(() => jest.useRealTimers());

  test('goes so many times faster, and stands still while somebody holds it', () => {
    const clock = pacedClock(8);
    const start = clock.nowMs();
    jest.advanceTimersByTime(100);
    expect(clock.nowMs() - start).toBe(800);
    let busy = true;
    const release = clock.holdWhile(() => busy);
    jest.advanceTimersByTime(100);
    expect(clock.elapsedMs()).toBe(800);
    busy = false;
    jest.advanceTimersByTime(50);
    expect(clock.elapsedMs()).toBe(1200);
    busy = true;
    release();
    jest.advanceTimersByTime(50);
    expect(clock.elapsedMs()).toBe(1600);
  });

  test('the device’s own waits for nobody', () => {
    const act = jest.fn();
    realClock.holdWhile(() => true);
    const stop = realClock.every(10, act);
    realClock.after(15, act);
    jest.advanceTimersByTime(30);
    expect(act).toHaveBeenCalledTimes(4);
    stop();
    jest.advanceTimersByTime(30);
    expect(act).toHaveBeenCalledTimes(4);
  });
});
