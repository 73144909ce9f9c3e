import { readBench, type LogRecord } from '../log';
import { DAY } from '../base';
import { instrumentFriction } from './index';

const NOW = Date.UTC(2026, 5, 20, 12);
const OILED = NOW - 50 * DAY;
let count = 0;
const base = (atMs: number, instrumentId = 'x') => ({
  id: `r${++count}`,
  version: 2 as const,
  atMs,
  zoneMin: 0,
  instrumentId,
});
const instrument = (id = 'x'): LogRecord => ({
  ...base(NOW - 300 * DAY, id),
  type: 'instrument',
  name: id,
  family: 'electric-floating',
  strings: ['E4', 'B3', 'G3'].map((note, i) => ({
    stringId: `s${i + 1}`,
    note,
    lengthMm: 648,
    material: 'plain-steel',
    gaugeMm: 0.3,
    ...(i === 0 ? { headMm: 64.8 } : {}),
  })),
});
const tested = (stringId: string, days: number, cents: number, more: object = {}): LogRecord => ({
  ...base(OILED + days * DAY),
  type: 'test',
  stringId,
  passId: 'friction',
  test: 'friction',
  firstCents: -cents / 2,
  secondCents: cents / 2,
  sigmaCents: 0.4,
  ...more,
});
const oil = (stringIds: string[], days = 0, more: object = {}): LogRecord => ({
  ...base(OILED + days * DAY),
  type: 'treatment',
  stringIds,
  treatment: 'lubricated',
  ...more,
});
const friction = (records: LogRecord[]) => {
  const bench = readBench([instrument(), ...records]);
  return instrumentFriction(
    bench.instruments.find((i) => i.record.instrumentId === 'x')!,
    bench,
  );
};
/** Half of what was gained is gone after twenty days. */
const returning = (stringId: string, high: number, firstDays = 0.1): LogRecord[] => [
  tested(stringId, -1, high),
  tested(stringId, firstDays, 2),
  tested(stringId, 20, 2 + (high - 2) / 2),
  tested(stringId, 40, 2 + (3 * (high - 2)) / 4),
];

test('by string: before and after a lubrication, and how long it lasts', () => {
  const { strings, lasts } = friction([oil(['s1', 's2']), ...returning('s1', 12), ...returning('s2', 15)]);
  expect(strings.map((s) => [s.note, s.figures.length, s.lubricatedMs.length])).toEqual([
    ['E4', 4, 1],
    ['B3', 4, 1],
    ['G3', 0, 0],
  ]);
  expect(strings[0]!.before!.figure.cents).toBe(12);
  expect(strings[0]!.figures.at(-1)!.figure.cents).toBeCloseTo(9.5, 6);
  expect(strings[2]!.before).toBeUndefined();
  expect(lasts!.days).toBeGreaterThan(17);
  expect(lasts!.days).toBeLessThan(24);
});

test('the head’s length makes friction times wrap of what was read: a usual one where nobody measured it', () => {
  const { strings } = friction([tested('s1', 0, 12), tested('s2', 0, 12)]);
  const [measured, usual] = strings.map((s) => s.figures[0]?.figure.muTheta);
  // (1 + aside) / aside: .1 against .15.
  expect(measured! / usual!).toBeCloseTo(1.1 / 0.1 / (1.15 / 0.15), 6);
});

test('what tells nothing of a lubricant: a first figure too late after it, none before it, another instrument’s, another treatment', () => {
  const lasts = (records: LogRecord[]) => friction(records).lasts;
  const late = returning('s1', 12, 2.1);
  const soon = returning('s1', 12, 1.9);
  const two = returning('s2', 15);
  expect(lasts([oil(['s1', 's2']), ...soon, ...two])).toBeDefined();
  expect(lasts([oil(['s1', 's2']), ...late, ...two])).toBeUndefined();
  expect(lasts([oil(['s1', 's2']), ...soon.slice(1), ...two])).toBeUndefined();
  expect(lasts([oil(['s2']), ...soon, ...two])).toBeUndefined();
  expect(lasts([oil(['s1', 's2'], 0, { treatment: 'warmed' }), ...soon, ...two])).toBeUndefined();
  expect(lasts([instrument('y'), oil(['s1', 's2'], 0, { instrumentId: 'y' }), ...soon, ...two])).toBeUndefined();
});

test('a second lubrication ends the first: figures after it count from it', () => {
  const { strings } = friction([oil(['s1']), oil(['s1'], 30), ...returning('s1', 12)]);
  const [own] = strings;
  expect(own!.lubricatedMs).toHaveLength(2);
  // The last one before the newest lubrication, where one came after that.
  expect(own!.before!.figure.cents).toBe(7);
  expect(friction([oil(['s1'], 45), ...returning('s1', 12)]).strings[0]!.before).toBeUndefined();
});

test('of tricks the newest counts, each string’s own; a test of one half is no figure', () => {
  const { strings } = friction([
    tested('s1', 1, 4, { test: 'wings-up' }),
    tested('s1', 3, 6, { test: 'wings-up' }),
    tested('s1', 4, 5, { test: 'friction', secondCents: null }),
    tested('s2', 2, 3, { test: 'routine' }),
  ]);
  expect(strings[0]!.tricks['wings-up']!.firstCents).toBe(-3);
  expect(strings[0]!.figures).toEqual([]);
  expect(Object.keys(strings[1]!.tricks)).toEqual(['routine']);
});
