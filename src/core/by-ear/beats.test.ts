import { beatTrend, isRight, standStill, turnWords, unisonWay } from './beats';
import { apartAlone } from './checkpoints';
import type { EarStep } from './ear';

test('beats are slower or faster by three tenths a second, or by a twelfth of what they were; fewer than a quarter stand still', () => {
  expect([1.71, 1.69, 2.29, 2.31].map((hz) => beatTrend(hz, 2))).toEqual(['', 'slower', '', 'faster']);
  expect([9.25, 9.15].map((hz) => beatTrend(hz, 10))).toEqual(['', 'slower']);
  expect([0.24, 0.25].map(standStill)).toEqual([true, false]);
});

test('a unison’s way is that of what was read alone while it stands there; near to pure nothing tells it any more', () => {
  expect([unisonWay(6, 7), unisonWay(6, -7), unisonWay(6, -7.6), unisonWay(6, undefined)]).toEqual([
    1,
    -1,
    undefined,
    undefined,
  ]);
  expect([unisonWay(1.4, 7), unisonWay(1.6, 7)]).toEqual([0, undefined]);
});

test('what the hand is told: its way where that is known, else to make the beats slower', () => {
  expect([turnWords(true, 5, false, ''), turnWords(true, 5, false, 'faster'), turnWords(true, 5, true, '')]).toEqual([
    'slower is right',
    'faster',
    'still',
  ]);
  expect([-1.1, -0.9, 0.9, 1.1].map((off) => turnWords(false, off, false, ''))).toEqual([
    '↑ up',
    'right',
    'right',
    '↓ down',
  ]);
  expect(turnWords(false, 4, false, 'slower')).toBe('↓ down, slower');
});

test('within a cent it is right, above or below', () => {
  expect([-1.01, -0.99, 0.99, 1.01].map(isRight)).toEqual([false, true, true, false]);
});

test('how far two stood apart alone tells a way beyond twice their doubt together; where one was not read, nothing', () => {
  const step = { sound: { string: 2, fret: 0 }, against: { string: 1, fret: 0 } } as EarStep;
  const alone = (string: number, cents: number) => ({ string, cents, sigmaCents: 0.5 });
  // Twice the root of a half: 1.41.
  expect([1.4, 1.43, -1.43].map((cents) => apartAlone(step, [alone(1, 0), alone(2, cents)]))).toEqual([
    undefined,
    1.43,
    -1.43,
  ]);
  expect(apartAlone(step, [alone(1, 0), undefined])).toBeUndefined();
  expect(apartAlone(step, [undefined, alone(2, 9)])).toBeUndefined();
});
