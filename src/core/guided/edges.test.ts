import { ratioOfCents } from '../music';
import { asLeft, asTaken, type AtRest } from './as-left';
import { HOME_CENTS, othersThan, whichString } from './identify';

const A4 = 440;
const at = (cents: number, hz = A4) => hz * ratioOfCents(cents);
const place = (id: string, cents: number, lastCents?: number) => ({
  id,
  name: id,
  targetHz: at(cents),
  ...(lastCents === undefined ? {} : { lastHz: at(lastCents) }),
});
const NAMED = { ...place('a', 0), name: 'A4' };
const which = (cents: number, others: ReturnType<typeof place>[] = [], homeCents = 0, rising = false) =>
  whichString(at(cents), NAMED as never, others, at(homeCents), rising).is;

test('a string is itself up to a semitone from where it was; a neighbour that was read there is that, from so much nearer', () => {
  expect(HOME_CENTS).toBe(100);
  expect([-100.5, -99.5, 99.5, 100.5].map((c) => which(c))).toEqual(['far', 'named', 'named', 'far']);
  // It was last read 60 sharp: 25 nearer than the named one's home, and 35 from that, it is taken for the other.
  const near = place('b', 700, 60);
  expect([34, 36, 43, 60].map((c) => which(c, [near]))).toEqual(['named', 'named', 'other', 'other']);
  expect(which(60, [place('b', 700)])).toBe('named');
  expect([599, 601, 801].map((c) => which(c, [place('b', 700)]))).toEqual(['far', 'other', 'far']);
});

test('with the tuner in the hand it may stand anywhere on its way', () => {
  expect([-450, -301].map((c) => which(c, [], -400, true))).toEqual(['named', 'named']);
  expect(which(-450, [], -400)).toBe('named');
  expect(which(-250, [], -400)).toBe('far');
  expect(which(-250, [], -400, true)).toBe('named');
  expect([-501, 101].map((c) => which(c, [], -400, true))).toEqual(['far', 'far']);
});

test('strings of a course share their pitch: none of them is another', () => {
  const ids = (cents: number) => othersThan(NAMED as never, [place('a', 0), place('b', cents)]).map((p) => p.id);
  expect([-51, -49, 49, 51].map(ids)).toEqual([['b'], [], [], ['b']]);
});

const LIMITS = { toleranceCents: 3 };
const taken = (cents: number, told?: { note: number; cents: number }, shownCents?: number, limits: object = {}) =>
  asTaken(
    told,
    { note: 1, cents, sigmaCents: 0.2 },
    shownCents === undefined ? undefined : { cents: shownCents, spread: 0.1, tS: 0 },
    { ...LIMITS, ...limits },
  );

test('the player’s word: in tolerance at once, out of it when it was told and stands there still, never where a hand has moved it', () => {
  expect([-3.1, -3, 3, 3.1].map((c) => taken(c))).toEqual(['tell', 'keep', 'keep', 'tell']);
  expect(taken(-2, undefined, undefined, { belowCents: 1 })).toBe('tell');
  expect(taken(5, { note: 1, cents: 5 })).toBe('keep');
  expect(taken(5, { note: 2, cents: 5 })).toBe('tell');
  expect(taken(5, { note: 1, cents: 25 })).toBe('tell');
  expect(taken(0, undefined, 30)).toBe('moved');
  expect(taken(0, undefined, 0.3)).toBe('keep');
});

const left = (cents: number, more: Partial<AtRest> = {}) =>
  asLeft({
    cents,
    sigmaCents: 0.3,
    way: { side: 'below', wasBelow: true },
    again: false,
    leftAlready: false,
    loud: true,
    ...LIMITS,
    ...more,
  });

test('left by itself: in tolerance with its doubt on both sides; not where nobody has turned it since it was left', () => {
  expect([-2.8, -2.6, 2.6, 2.8].map((c) => left(c))).toEqual(['off', 'keep', 'keep', 'off']);
  // A doubt beyond its share of the tolerance: not sure, while it lies inside.
  expect(left(2.8, { sigmaCents: 2.9 })).toBe('unsure');
  expect(left(-3.5, { sigmaCents: 2.9 })).toBe('off');
  // Where there is little room below, its doubt is not taken off it as well.
  expect(left(-0.9, { belowCents: 1 })).toBe('keep');
  expect(left(-1.1, { belowCents: 1 })).toBe('off');
  const still = { way: { side: undefined, wasBelow: false } } as const;
  expect(left(0, { ...still, leftAlready: true })).toBe('wait');
  expect(left(0, still)).toBe('keep');
  expect(left(0, { way: { side: 'above', wasBelow: true }, again: true })).toBe('wait');
  expect(left(0, { again: true })).toBe('keep');
});
