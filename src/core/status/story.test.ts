import type { InstrumentLife, PastLife, ReadingRecord, StringLife } from '../log';
import { SETTLING_PRIORS } from '../settling';
import { fitLives, instrumentStory, learnedPriors, stringOutlook, setsTaughtBy, type StoryWish } from './index';
import { MINUTE, DAY } from '../base';

const START = Date.UTC(2026, 5, 12, 10, 0);
const AGES = [2, 6, 15, 40, 90, 180];

/** Readings of a string left alone, or brought up at each, that falls by so much per e-fold of age. */
function readings(
  stringId: string,
  slope: number,
  strungMs = START,
  tempAt: (min: number) => number = () => 20,
): ReadingRecord[] {
  return AGES.map((t, i): ReadingRecord => {
    const cents = -slope * Math.log1p(t / 1.5) - 1.5 * (tempAt(t) - 20);
    return {
      id: `${stringId}-${strungMs}-${i}`,
      version: 2,
      type: 'reading',
      atMs: strungMs + t * MINUTE,
      zoneMin: 0,
      instrumentId: 'x',
      stringId,
      purpose: 'as-found',
      source: 'typed',
      frequencyHz: 220,
      cents,
      sigmaCents: 0.2,
      targetHz: 220,
      a4Hz: 440,
      partials: [],
      tempC: tempAt(t),
    };
  });
}
const string = (stringId: string, own: ReadingRecord[], more: Partial<StringLife> = {}): StringLife => ({
  plan: { stringId, note: 'A3', lengthMm: 650, material: 'plain-nylon', gaugeMm: 0.8 },
  strungMs: START,
  readings: own,
  rounds: [],
  treatments: [],
  windings: null,
  bare: false,
  past: [],
  ...more,
});
const instrument = (strings: StringLife[], instrumentId = 'x'): InstrumentLife => ({
  record: {
    id: `${instrumentId}-record`,
    version: 2,
    type: 'instrument',
    atMs: START,
    zoneMin: 0,
    instrumentId,
    name: instrumentId,
    family: 'own',
    strings: strings.map((s) => s.plan),
  },
  strings,
});
const wish: StoryWish = {
  nowMs: START + 185 * MINUTE,
  untilMs: START + 500 * MINUTE,
  priors: {},
};
const outlook = (life: InstrumentLife, more: object = {}) => {
  const asked = { nowMs: wish.nowMs, toleranceCents: 3, holdMin: 90, curtainMs: null, zone: 0, ...more };
  const fits = fitLives(life.strings, asked.nowMs);
  return life.strings.map((s, i) => stringOutlook(s, fits[i], asked));
};

test('a string’s story: fallen so far, what comes, and when it is ready', () => {
  const life = instrument([string('a', readings('a', 20)), string('b', [])]);
  const [told, unread] = instrumentStory(life, wish).strings;
  const fallen = told!.points.at(-1)!.fallCents;
  expect(fallen).toBeCloseTo(20 * (Math.log1p(180 / 1.5) - Math.log1p(2 / 1.5)), 1);
  // Five minutes have gone since the last reading.
  expect(told!.ahead[0]!.q50 - fallen).toBeCloseTo(20 * Math.log(186.5 / 181.5), 0);
  const widths = told!.ahead.map((p) => p.q95 - p.q05);
  expect(widths[widths.length - 1]!).toBeGreaterThan(widths[5]!);
  expect([unread!.points, unread!.ahead]).toEqual([[], []]);
  const [a, b] = outlook(life);
  expect(b).toBeUndefined();
  expect(a!.perHour.mean).toBeGreaterThan(4);
  expect(a!.perHour.mean).toBeLessThan(8);
  expect(a!.perDay.mean).toBeGreaterThan(4 * a!.perHour.mean);
  // One hand after days would have too much to bring up; kept in tune it settles.
  expect([a!.readyMs, a!.keptReadyMs === null]).toEqual([null, false]);
  expect(a!.perDoubling.mean).toBeCloseTo(20 * Math.LN2, 0);
  expect(a!.leap).toBeUndefined();
  // A wider tolerance is ready sooner.
  const readyMs = (toleranceCents: number) =>
    outlook(instrument([string('a', readings('a', 3))]), { toleranceCents })[0]!.readyMs!;
  expect(readyMs(3)).toBeGreaterThan(readyMs(10));
  expect(readyMs(10)).toBeGreaterThanOrEqual(wish.nowMs);
});

test('nothing is forecast of a string that was read once, or twice within a minute', () => {
  const [first, second] = readings('a', 20);
  const twice = (apartMs: number) => [first!, { ...second!, atMs: first!.atMs + apartMs }];
  expect(outlook(instrument([string('a', [first!])]))).toEqual([undefined]);
  expect(outlook(instrument([string('a', twice(MINUTE - 1))]))).toEqual([undefined]);
  expect(outlook(instrument([string('a', twice(MINUTE))]))[0]).toBeDefined();
});

test('what all strings do alike is told apart from one string’s fall, and a slip is named', () => {
  const jump = (r: ReadingRecord[], by: number): ReadingRecord[] =>
    r.map((x, i) => (i === r.length - 1 ? { ...x, cents: x.cents + by } : x));
  const all = ['a', 'b', 'c', 'd'].map((id, i) => string(id, jump(readings(id, 15 + 2 * i), 5)));
  const { common } = instrumentStory(instrument(all), wish);
  expect(common[common.length - 1]!.cents).toBeGreaterThan(2);
  const one = ['a', 'b', 'c', 'd'].map((id, i) => string(id, i === 0 ? jump(readings(id, 15), -9) : readings(id, 15)));
  const single = instrumentStory(instrument(one), wish);
  expect(Math.abs(single.common[single.common.length - 1]!.cents)).toBeLessThan(1);
  const slipped = readings('a', 15).map((r, i) => (i === 5 ? { ...r, cents: r.cents - 12, slip: true } : r));
  const { leap } = outlook(instrument([string('a', slipped)]))[0]!;
  expect(leap!.atMs).toBe(slipped[5]!.atMs);
  expect(leap!.cents).toBeLessThan(-12);
});

test('earlier sets narrow the prior and move it their way; the present set does not teach itself', () => {
  const house = SETTLING_PRIORS['plain-nylon'];
  const life = (k: number): PastLife => {
    const strungMs = START - (k + 1) * 10 * DAY;
    return {
      strungMs,
      endedMs: strungMs + 9 * DAY,
      reason: 'worn',
      place: null,
      readings: readings('a', 20 + k, strungMs),
    };
  };
  const one = [instrument([string('a', readings('a', 60), { past: [life(1), life(0)] })])];
  const learned = learnedPriors(one.flatMap(setsTaughtBy), 'plain-nylon')('x');
  expect(learned.sets).toBe(2);
  expect(learned.prior.slopeCents).toBeLessThan(0.75 * house.slopeCents);
  expect(learned.prior.slopeSpread).toBeLessThan(house.slopeSpread);
  expect(learnedPriors(setsTaughtBy(instrument([string('a', readings('a', 60))])), 'plain-nylon')('x')).toEqual({
    prior: house,
    sets: 0,
  });
  // Another instrument's present set does teach this one.
  expect(
    learnedPriors([...one, instrument([string('a', readings('a', 22))], 'y')].flatMap(setsTaughtBy), 'plain-nylon')('x')
      .sets,
  ).toBe(3);
  expect(learnedPriors(one.flatMap(setsTaughtBy), 'plain-steel')('x').sets).toBe(0);
});

test('without a thermometer the answer to warmth comes from the other strings, with one from the room’s figures', () => {
  const warm = (min: number) => 20 + 2 * Math.sin(min / 25);
  const steel = (thermometer: boolean) =>
    ['a', 'b', 'c', 'd', 'e'].map((id, i) => {
      const own = readings(id, 2 + i / 2, START, warm).map(({ tempC, ...r }) =>
        thermometer ? { ...r, tempC: tempC! } : r,
      );
      const life = string(id, own);
      return { ...life, plan: { ...life.plan, material: 'plain-steel' as const } };
    });
  const bare = outlook(instrument(steel(false)))[0]!;
  expect(bare.warmth.from).toBe('other strings');
  expect(bare.warmth.centsPerC).toBeLessThan(-1);
  expect(outlook(instrument(steel(true)))[0]!.warmth.from).toBe('thermometer');
  expect(outlook(instrument(steel(false).slice(0, 2)))[0]!.warmth.from).toBe('assumed');
});

test('a fit is of the moment that is asked for, within a quarter of a minute or a fiftieth of the time since; before its last reading it is of that', () => {
  const life = instrument([string('a', readings('a', 20))]);
  const ageMin = (askedMin: number) => fitLives(life.strings, START + askedMin * MINUTE)[0]!.fit.nowMin;
  expect([150, 179.9, 180].map(ageMin)).toEqual([180, 180, 180]);
  for (const asked of [181.3, 190, 241, 700, 5000]) {
    const since = asked - 180;
    expect(Math.abs(ageMin(asked) - asked)).toBeLessThanOrEqual(Math.max(0.125, 0.01 * since) + 1e-9);
  }
  // Asked again soon after it is the same, and its figures are known.
  expect(fitLives(life.strings, START + 700 * MINUTE)[0]!.fit).toBe(
    fitLives(life.strings, START + 700.2 * MINUTE)[0]!.fit,
  );
});
