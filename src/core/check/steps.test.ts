import type { ReadingRecord, StringLife } from '../log';
import type { StringStatus } from '../status';
import { isOfPass, lastKept, leadIn, leftUndone, needsTuning, nextStep, type CheckPass } from './steps';
import { leftUndoneWords } from './words';

const TOLERANCE = 3;
let count = 0;
const reading = (stringId: string, cents: number, more: Partial<ReadingRecord> = {}): ReadingRecord =>
  ({ id: `r${++count}`, stringId, cents, purpose: 'as-found', atMs: count, passId: 'p', ...more }) as ReadingRecord;
const string = (stringId: string, ...readings: ReadingRecord[]): StringLife =>
  ({ plan: { stringId }, readings }) as unknown as StringLife;
const pass = (more: Partial<CheckPass> = {}): CheckPass => ({ passId: 'p', startedMs: 0, skipped: [], ...more });
const visit = (bringUpFromCents: number, purpose: string, ...strings: [stringId: string, leadCents: number][]) => ({
  visit: { purpose, bringUpFromCents, strings: strings.map(([stringId, leadCents]) => ({ stringId, leadCents })) },
});
const next = (strings: StringLife[], p = pass(), statuses: StringStatus[] = []) =>
  nextStep(strings, statuses, p, TOLERANCE);

test('a reading is of the pass that it names; one that names none, of the pass that was under way', () => {
  expect(isOfPass(reading('a', 0), pass())).toBe(true);
  expect(isOfPass(reading('a', 0, { passId: 'q' }), pass())).toBe(false);
  const { passId: _, ...unnamed } = reading('a', 0, { atMs: 50 });
  expect([49, 50, 51].map((startedMs) => isOfPass(unnamed as ReadingRecord, pass({ startedMs })))).toEqual([
    true,
    true,
    false,
  ]);
});

test('what is taken back is the newest of the pass, whichever string it is of', () => {
  const [early, late, other] = [
    reading('a', 1, { atMs: 10 }),
    reading('b', 2, { atMs: 20 }),
    reading('a', 3, { atMs: 30, passId: 'q' }),
  ];
  expect(lastKept([string('a', early, other), string('b', late)], pass())).toBe(late);
  expect(lastKept([string('b', late), string('a', early)], pass())).toBe(late);
  expect(lastKept([string('a', other)], pass())).toBeUndefined();
});

test('a string is brought up beyond the tolerance, or as far from its lead as a plan says; what was left is left', () => {
  const needs = (cents: number, p = pass(), more: Partial<ReadingRecord> = {}) =>
    needsTuning(reading('a', cents, more), p, TOLERANCE);
  expect([-3.1, -3, 3, 3.1].map((c) => needs(c))).toEqual([true, false, false, true]);
  expect(needs(-9, pass(), { purpose: 'as-left' })).toBe(false);
  const planned = pass(visit(1.5, 'last', ['a', 2], ['b', 0]));
  expect([0.4, 0.5, 0.6, 3.4, 3.5].map((c) => needs(c, planned))).toEqual([true, true, false, false, true]);
  expect([leadIn(planned, 'a'), leadIn(planned, 'c'), leadIn(pass(), 'a'), leadIn(undefined, 'a')]).toEqual([
    2, 0, 0, 0,
  ]);
});

test('first every string as found, then those that are off, one passed over never', () => {
  const [a, b] = [string('a', reading('a', -9)), string('b')];
  expect(next([a, b])).toEqual({ stringId: 'b', purpose: 'found' });
  expect(next([a, b], pass({ skipped: ['b'] }))).toEqual({ stringId: 'a', purpose: 'left' });
  expect(next([a, b], pass({ skipped: ['a', 'b'] }))).toBeUndefined();
  expect(next([string('a', reading('a', -9), reading('a', 0, { purpose: 'as-left' }))])).toBeUndefined();
  // What was read before this pass says nothing in it.
  expect(next([string('a', reading('a', -9, { passId: 'q' }))])).toEqual({ stringId: 'a', purpose: 'found' });
});

test('a visit has its own strings in its own order; between two pieces each is brought up before the next is read', () => {
  const strings = [string('a'), string('b', reading('b', -9)), string('c')];
  const order = (purpose: string) => pass(visit(2, purpose, ['b', 0], ['c', 0], ['gone', 0]));
  expect(next(strings, order('last'))).toEqual({ stringId: 'c', purpose: 'found' });
  expect(next(strings, order('retune'))).toEqual({ stringId: 'b', purpose: 'left' });
});

test('what moved at once is confirmed by a second pluck before anything else: the reading that showed it', () => {
  const [first, second] = [reading('b', -30), reading('b', -31)];
  const leap = (readingId: string) => [{ stringId: 'b', leap: { readingId, cents: -28 } }] as StringStatus[];
  expect(next([string('a'), string('b', first)], pass(), leap(first.id))).toEqual({
    stringId: 'b',
    purpose: 'found',
    leapCents: -28,
  });
  expect(next([string('a'), string('b', first, second)], pass(), leap(first.id))?.stringId).toBe('a');
});

test('a check that is done says what it left: not read, or read and not brought up; not bare strings, nor those a plan did not ask for', () => {
  const named = (id: string, ...readings: ReadingRecord[]) => {
    const s = string(id, ...readings);
    return { ...s, plan: { ...s.plan, note: id.toUpperCase() } };
  };
  const strings = [
    named('a', reading('a', -9)),
    named('b', reading('b', -2)),
    named('c'),
    { ...named('d'), bare: true },
    named('e', reading('e', -9), reading('e', 0, { purpose: 'as-left' })),
  ];
  const left = leftUndone(strings, pass(), TOLERANCE);
  expect(left).toEqual({ unread: ['C'], off: ['A'] });
  expect(leftUndoneWords(left)).toBe('Not read: C. Read and not brought up: A.');
  expect(leftUndoneWords({ unread: [], off: [] })).toBe('');
  expect(leftUndone(strings, pass(visit(3, 'last', ['b', 0], ['c', 0])), TOLERANCE)).toEqual({
    unread: ['C'],
    off: [],
  });
});
