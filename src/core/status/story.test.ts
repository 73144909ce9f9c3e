import type { InstrumentLife, PastLife, ReadingRecord, StringLife } from '../log';
import { SETTLING_PRIORS } from '../settling';
import { instrumentStory, learnedPriors, setsTaughtBy, type StoryWish } from './index';
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
  toleranceCents: 3,
  holdMin: 90,
  curtainMs: START + 400 * MINUTE,
  untilMs: START + 500 * MINUTE,
  priors: {},
  zone: 0,
};

test('a string’s story: fallen so far, falling now, by the curtain, ready when', () => {
  const { strings } = instrumentStory(instrument([string('a', readings('a', 20)), string('b', [])]), wish);
  const [a, b] = strings;
  expect(a!.fallenCents!).toBeCloseTo(20 * (Math.log1p(180 / 1.5) - Math.log1p(2 / 1.5)), 1);
  expect(a!.perHour!).toBeGreaterThan(4);
  expect(a!.perHour!).toBeLessThan(8);
  expect(a!.byCurtain!.q05).toBeLessThan(a!.byCurtain!.q50);
  expect(a!.chance!).toBeLessThan(0.3);
  // One hand after days would have too much to bring up.
  expect(a!.readyMs).toBeNull();
  // Five minutes have gone since the last reading.
  expect(a!.ahead[0]!.q50 - a!.fallenCents!).toBeCloseTo(20 * Math.log(186.5 / 181.5), 0);
  const widths = a!.ahead.map((p) => p.q95 - p.q05);
  expect(widths[widths.length - 1]!).toBeGreaterThan(widths[5]!);
  expect(a!.why).toMatch(/^It falls about 1\d cents each time its age doubles, as plain nylon does/);
  expect(b!.why).toBe('Not read yet.');
  // A wider tolerance is ready sooner.
  const readyMs = (toleranceCents: number) =>
    instrumentStory(instrument([string('a', readings('a', 3))]), { ...wish, toleranceCents }).strings[0]!.readyMs!;
  expect(readyMs(3)).toBeGreaterThan(readyMs(10));
  expect(readyMs(10)).toBeGreaterThanOrEqual(wish.nowMs);
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
  expect(instrumentStory(instrument([string('a', slipped)]), wish).strings[0]!.why).toMatch(
    /^It dropped suddenly by \d+ cents at 13:00/,
  );
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
  const bare = instrumentStory(instrument(steel(false)), wish).strings[0]!;
  expect(bare.temperature!.from).toBe('other strings');
  expect(bare.temperature!.centsPerC).toBeLessThan(-1);
  expect(instrumentStory(instrument(steel(true)), wish).strings[0]!.temperature!.from).toBe('thermometer');
  expect(instrumentStory(instrument(steel(false).slice(0, 2)), wish).strings[0]!.temperature!.from).toBe('assumed');
});
