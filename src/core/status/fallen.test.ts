import { fitSettling, type Surprise } from '../settling';
import type { ReadingRecord, StringLife } from '../log';
import { MINUTE } from '../base';
import { typedReading } from '../../../testing/typed';
import { fallenOf, fallenSeries } from './fallen';
import type { LifeFit } from './fits';

const START = Date.UTC(2026, 3, 1, 12);
const reading = (minute: number, cents: number, purpose = 'as-found'): ReadingRecord =>
  ({
    ...typedReading(cents),
    id: `r${minute}`,
    version: 2,
    zoneMin: 0,
    atMs: START + minute * MINUTE,
    purpose,
    sigmaCents: 0.3,
  }) as ReadingRecord;
const life = (readings: ReadingRecord[]): StringLife =>
  ({
    plan: { stringId: 'a', note: 'A4', material: 'plain-nylon' },
    strungMs: START,
    readings,
    treatments: [],
    rounds: [],
  }) as unknown as StringLife;
/** A string of nylon whose law is 20 cents an e-fold of age. */
const FIT = fitSettling(
  {
    material: 'plain-nylon',
    events: [
      { t: 0, kind: 'retune' },
      ...[5, 10, 20, 40, 60].map((t) => ({
        t,
        kind: 'read' as const,
        cents: -20 * Math.log1p(t / 1.5),
        sigmaCents: 0.3,
      })),
    ],
  },
  60,
);
const lived = (told: ReadingRecord[], surprise?: Surprise, moved: LifeFit['moved'] = []): LifeFit =>
  ({
    startMs: START,
    told,
    fit: FIT,
    readFit: FIT,
    moved,
    surprises: new Map(surprise ? [[told.at(-1)!.atMs, surprise]] : []),
  }) as unknown as LifeFit;

const WALK = [reading(10, 0, 'as-left'), reading(20, -12), reading(23, 0, 'as-left'), reading(40, -9)];

test('what was read, and what it fell by its law before the hand, with more doubt', () => {
  expect(fallenSeries(life(WALK), undefined).map((f) => f.cents)).toEqual([0, 12, 12, 21]);
  const [, found, left, last] = fallenSeries(life(WALK), lived(WALK));
  const unread = 20 * Math.log((23 + 1.5) / (20 + 1.5));
  expect(found!.cents).toBe(12);
  expect(left!.cents - 12).toBeGreaterThan(0.7 * unread);
  expect(left!.cents - 12).toBeLessThan(1.3 * unread);
  expect(last!.cents - left!.cents).toBeCloseTo(9, 9);
  expect(Math.sqrt(last!.varianceCents2)).toBeGreaterThan(0.6 * unread);
  // Two figures at the ends, two at the hand.
  expect(fallenSeries(life(WALK), undefined).at(-1)!.varianceCents2).toBeCloseTo(4 * 0.3 ** 2, 9);
});

test('what hands moved without a word is no fall; its doubt counts', () => {
  const told = WALK.slice(0, 2);
  const moved = [{ index: 0, atMs: told[1]!.atMs, surprise: { innovationCents: -5, varianceCents2: 4 } }];
  const { cents, interval } = fallenOf(life(told), lived(told, undefined, moved))!;
  expect(cents).toBeCloseTo(7, 9);
  expect((interval[1] - interval[0]) / 2).toBeCloseTo(1.645 * Math.sqrt(2 * 0.09 + 4), 2);
});

test('a string that stood far from where it was expected fell there, or was turned: both lie within', () => {
  const told = WALK.slice(0, 2);
  const of = (innovationCents: number, varianceCents2 = 1) =>
    fallenOf(life(told), lived(told, { innovationCents, varianceCents2 }))!.interval.map((x) => Math.round(x));
  expect(of(-6)).toEqual([5, 13]);
  expect(of(6)).toEqual([11, 19]);
  // As was expected, by its doubt.
  expect(of(-1.9)).toEqual([11, 13]);
  expect(of(-6, 36)).toEqual([11, 13]);
  expect(fallenOf(life(WALK.slice(0, 1)), undefined)).toBeUndefined();
});
