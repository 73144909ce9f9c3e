import { SAMPLES } from '../../../testing/samples';
import { createLogIndex, type LogRecord, type ReadingRecord } from '../log';
import { instrumentStatus, telling, tellingReadings } from './index';
import { MINUTE } from '../base';

const START = SAMPLES.reading.atMs;
const at = (minute: number, more: Partial<ReadingRecord> = {}): ReadingRecord => ({
  id: `r${minute}`,
  version: 2,
  zoneMin: 0,
  type: 'reading',
  instrumentId: 'x',
  stringId: 's1',
  purpose: 'as-found',
  source: 'microphone',
  frequencyHz: 329,
  cents: -6 * Math.log1p(minute / 20),
  sigmaCents: 0.3,
  targetHz: 329.63,
  a4Hz: 440,
  partials: [],
  atMs: START + minute * MINUTE,
  ...more,
});
const minutes = (n: number) => Array.from({ length: n }, (_, i) => at(i + 1));
const places = (readings: ReadingRecord[], moments: number[] = []): number[] => {
  const all = new Map(readings.map((r, i) => [r, i]));
  return telling(readings, START, moments).map((r) => all.get(r)!);
};

test('of few readings all tell; of many some hundreds, the denser the younger the string', () => {
  expect(places(minutes(150))).toHaveLength(150);
  const many = minutes(100_000);
  const told = places(many);
  expect(told.length).toBeGreaterThan(200);
  expect(told.length).toBeLessThan(400);
  // The first hour's minutes, the newest, and never a gap of more than a tenth of its age.
  expect(told.filter((i) => i < 20)).toHaveLength(20);
  expect(told.slice(-24)).toEqual([...many.keys()].slice(-24));
  for (const [k, i] of told.entries()) expect((told[k + 1] ?? i) - i).toBeLessThanOrEqual(Math.max(1, 0.1 * i));
});

test('what hands did, moved or left is told with the readings round it', () => {
  const many = minutes(5000);
  const marks = { 3001: { purpose: 'as-left' }, 3101: { slip: true }, 3201: { stretched: true } } as const;
  for (const [i, more] of Object.entries(marks)) many[Number(i)] = at(Number(i) + 1, more);
  const bare = new Set(places(minutes(5000)));
  const told = new Set(places(many, [START + 3301 * MINUTE]));
  for (const i of [3001, 3101, 3201, 3300]) {
    expect([i - 1, i, i + 1].map((k) => told.has(k))).toEqual([true, true, true]);
    expect([i - 1, i, i + 1].some((k) => !bare.has(k))).toBe(true);
  }
});

const logOf = (readings: readonly ReadingRecord[]): LogRecord[] => [
  { ...SAMPLES.instrument, instrumentId: 'x', atMs: START },
  { ...SAMPLES.fitted, id: 'f', instrumentId: 'x', stringId: 's1', atMs: START },
  ...readings,
];
const wish = (nowMs: number) => ({
  nowMs,
  toleranceCents: 3,
  holdMin: 90,
  curtainMs: null,
  confidence: 0.9,
  lane: true,
});

test('a string that was read every minute is told as one that was read now and then: where it stands, where it goes', () => {
  const dense = minutes(4000);
  const sparse = dense.filter((_, i) => Number.isInteger(Math.log2(i + 1)) || i % 397 === 0 || i === 3999);
  const [a, b] = [dense, sparse].map((readings) => {
    const index = createLogIndex();
    index.add(logOf(readings));
    return instrumentStatus(index.bench().instruments[0]!, wish(START + 4090 * MINUTE))[0]!;
  });
  expect(Math.abs(a!.byNow!.cents - b!.byNow!.cents)).toBeLessThan(0.5);
  expect(Math.abs(a!.ahead.at(-1)!.cents - b!.ahead.at(-1)!.cents)).toBeLessThan(0.7);
  expect(a!.totalFallCents).toBeCloseTo(b!.totalFallCents! + dense[0]!.cents - sparse[0]!.cents, 6);
});

test('what comes later than all that is there costs nothing but itself, and says the same as all of it at once', () => {
  const readings = minutes(1200);
  const whole = createLogIndex();
  whole.add(logOf(readings));
  const grown = createLogIndex();
  grown.add(logOf(readings.slice(0, 1000)));
  for (const r of readings.slice(1000)) {
    grown.add([r]);
    grown.bench();
  }
  // One that comes late, and one that takes its place in the middle.
  const late = at(500.5, { id: 'late' });
  const instead = at(700, { id: 'instead', cents: 9, supersedes: 'r700' });
  for (const index of [whole, grown]) {
    index.add([late]);
    expect(index.bench().instruments[0]!.strings[0]!.readings[500]!.id).toBe('late');
    index.add([instead]);
  }
  const shown = (index: typeof whole) => index.bench().instruments[0]!.strings[0]!.readings;
  expect(shown(grown)).toEqual(shown(whole));
  expect(shown(grown)).toHaveLength(1201);
  expect(shown(grown).map((r) => r.atMs)).toEqual(
    shown(grown)
      .map((r) => r.atMs)
      .sort((p, q) => p - q),
  );
  expect(tellingReadings(grown.bench().instruments[0]!.strings[0]!).length).toBeLessThan(400);
});
