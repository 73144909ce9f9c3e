import type { AdjustmentRecord, TouchRecord } from '../log';
import { acrossMm, medianOfPlucks, octavePasses, responseOf } from '.';
import { MINUTE } from '../base';

const at = (cents: number, hz = 110) => hz * Math.pow(2, cents / 1200);
let serial = 0;
const touch = (
  minute: number,
  kind: TouchRecord['touch'],
  frequencyHz: number,
  more: Partial<TouchRecord> = {},
): TouchRecord => ({
  id: `t${serial++}`,
  version: 2,
  type: 'touch',
  atMs: minute * MINUTE,
  zoneMin: 0,
  instrumentId: 'x',
  stringId: 'a',
  passId: 'one',
  touch: kind,
  source: 'typed',
  frequencyHz,
  sigmaCents: 0.1,
  scatterCents: 0,
  inharmonicity: 0,
  ...(kind === 'fret' ? { fret: 12 } : {}),
  ...more,
});

test('the string’s drift between the two open readings is taken out', () => {
  // It falls 6 cents in 6 minutes; the 12th fret stands 4 cents sharp all the while.
  const fallen = (minute: number) => -minute;
  const [pass] = octavePasses(
    [
      touch(0, 'open', at(fallen(0))),
      touch(2, 'fret', 2 * at(4 + fallen(2))),
      touch(4, 'harmonic', 2 * at(fallen(4))),
      touch(6, 'open', at(fallen(6))),
    ],
    'x',
    'a',
  );
  expect(pass!.errors.errorCents).toBeCloseTo(4, 6);
  expect(pass!.errors.stringCents).toBeCloseTo(0, 6);
  expect(pass!.frets).toEqual([expect.objectContaining({ fret: 12 })]);
});

test('a pass without frets reads the harmonic; half a pass is none', () => {
  const open = touch(0, 'open', 110);
  expect(octavePasses([open, touch(1, 'harmonic', at(3, 220))], 'x', 'a')[0]!.errors.errorCents).toBeCloseTo(3, 6);
  expect(octavePasses([open], 'x', 'a')).toEqual([]);
  expect(octavePasses([open, touch(1, 'fret', 220)], 'x', 'other')).toEqual([]);
});

test('what a bridge really does is learned from moves between passes', () => {
  const pass = (passId: string, minute: number, cents: number) => [
    touch(minute, 'open', 110, { passId, scatterCents: 0.1 }),
    touch(minute + 1, 'fret', at(cents, 220), { passId, scatterCents: 0.1 }),
  ];
  const passes = octavePasses([...pass('one', 0, 5), ...pass('two', 60, 1)], 'x', 'a');
  const adjustment: AdjustmentRecord = {
    id: 'm',
    version: 2,
    type: 'adjustment',
    atMs: 30 * MINUTE,
    zoneMin: 0,
    instrumentId: 'x',
    stringIds: ['a'],
    what: 'saddle',
    moveMm: 2,
  };
  const response = responseOf(passes, [adjustment], 648, (a) => a.moveMm);
  expect(response.moves).toBe(1);
  expect(response.centsPerMm).toBeCloseTo(-2, 1);
  expect(responseOf(passes, [], 648, (a) => a.moveMm).moves).toBe(0);
});

test('of a single touch it is not known how the hand scatters: its error counts besides', () => {
  const errorOf = (scatterCents: number) =>
    octavePasses([touch(0, 'open', 110), touch(1, 'fret', 220, { scatterCents })], 'x', 'a')[0]!.errors.sigmaCents;
  const [once, twice] = [errorOf(0), errorOf(0.1)];
  expect(once ** 2 - twice ** 2).toBeGreaterThan(0.35 ** 2 - 1e-9);
});

test('plucks of one place: the median, its error, and a refusal when two differ', () => {
  const pluck = (cents: number) => ({ frequencyHz: at(cents), sigmaCents: 0.1 });
  const three = medianOfPlucks([pluck(0.2), pluck(0), pluck(5)])!;
  expect(three.frequencyHz).toBeCloseTo(at(0.2), 9);
  expect(three.scatterCents).toBeCloseTo(5, 6);
  expect(three.sigmaCents).toBeGreaterThan(1);
  expect(medianOfPlucks([pluck(0), pluck(1.5)])).toBeUndefined();
  expect(medianOfPlucks([pluck(0.4)])!.sigmaCents).toBeCloseTo(0.1, 9);
});

test('strings over the bridge: single ones evenly, courses as pairs', () => {
  expect(acrossMm(['B', 'F#', 'D'])).toEqual([22, 11, 0]);
  expect(acrossMm(['D', 'D', 'A', 'A', 'D', 'D', 'G', 'G'])).toEqual([45, 42, 31, 28, 17, 14, 3, 0]);
});
