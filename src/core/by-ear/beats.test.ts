import { beatTrend, standStill, turnWords, unisonWay } from './beats';

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
