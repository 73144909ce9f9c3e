import { freshMoves, movesToMake, moveUnder, toldMoveMm, travelLeftMm } from './saddle-move';
import type { Octaves, StringOctave } from './string-octave';

const string = (stringId: string, more: Partial<StringOctave> = {}): StringOctave =>
  ({ stringId, verdict: 'saddle', moveMm: 1, movedMm: 0, stale: null, ...more }) as StringOctave;
const octaves = (strings: StringOctave[], more: object = {}): Octaves =>
  ({ strings, loose: false, line: undefined, setup: { travelMm: null }, ...more }) as unknown as Octaves;

test('a sharp octave wants a longer string: by the law of lengths, or by what this saddle did before', () => {
  const geometry = { moves: 0, centsPerMm: -2.6, sigma: 0.5 };
  expect(toldMoveMm(648, 5, geometry)).toBeCloseTo(1.88, 2);
  expect(toldMoveMm(648, -5, geometry)).toBeLessThan(0);
  // It answered twice as much as the law says: half of the way, to the same side.
  const learned = { moves: 1, centsPerMm: -5, sigma: 0.2 };
  expect(toldMoveMm(648, 5, learned)).toBeCloseTo(1, 9);
  expect(toldMoveMm(648, -5, learned)).toBeCloseTo(-1, 9);
});

test('an adjustment moves the bridge under a string by what was moved: its own saddle, or its share of the feet', () => {
  const moved = (what: 'saddle' | 'low-foot' | 'high-foot' | 'nut', share = 0.25) =>
    moveUnder({ what, stringIds: ['a'], moveMm: 2 } as never, 'a', share);
  expect([moved('saddle'), moved('low-foot'), moved('high-foot'), moved('nut')]).toEqual([2, 1.5, 0.5, 0]);
  expect(moveUnder({ what: 'saddle', stringIds: ['b'], moveMm: 2 }, 'a', 0.25)).toBe(0);
});

test('a screw goes as far as its travel to that side, less what it was moved there before', () => {
  expect(travelLeftMm({ movedMm: 0 }, 5, null)).toBe(Infinity);
  expect([0, 1, -1, 4].map((movedMm) => travelLeftMm({ movedMm }, 1, 3))).toEqual([3, 2, 4, 0]);
  expect(travelLeftMm({ movedMm: 1 }, -1, 3)).toBe(4);
});

test('moves are made of saddles alone, worth a tenth of a millimetre, within their travel', () => {
  const told = (more: Partial<StringOctave>, setup: object = { travelMm: null }) =>
    movesToMake(octaves([string('a', more)], { setup })).map((m) => m.moveMm);
  expect(told({})).toEqual([1]);
  expect(told({ verdict: 'string' })).toEqual([]);
  expect(told({ moveMm: null })).toEqual([]);
  expect([told({ moveMm: 0.09 }), told({ moveMm: 0.1 }), told({ moveMm: -0.1 })]).toEqual([[], [0.1], [-0.1]]);
  expect(told({ moveMm: -4 }, { travelMm: 3 })).toEqual([-3]);
  expect(told({ moveMm: 4, movedMm: 2.95 }, { travelMm: 3 })).toEqual([]);
  expect(movesToMake(octaves([string('a'), string('b')])).map((m) => m.stringIds)).toEqual([['a'], ['b']]);
});

test('a loose bridge is moved by its feet, all strings with it, where every string was read', () => {
  const strings = [string('a'), string('b')];
  const line = { footMoves: { lowMm: 1.4, highMm: -0.05 } };
  expect(movesToMake(octaves(strings, { loose: true, line }))).toEqual([
    { what: 'low-foot', stringIds: ['a', 'b'], moveMm: 1.4 },
  ]);
  expect(movesToMake(octaves(strings, { loose: true }))).toEqual([]);
});

test('what was changed since it was read is not moved by that reading', () => {
  const strings = [string('a', { stale: 'reworked' }), string('b')];
  expect(freshMoves(octaves(strings)).map((m) => m.stringIds)).toEqual([['b']]);
  const line = { footMoves: { lowMm: 1.4, highMm: 1 } };
  expect(freshMoves(octaves(strings, { loose: true, line }))).toEqual([]);
});
