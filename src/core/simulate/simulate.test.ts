import { pluck, pluckOf, randomFrom, restring, roomTempC, stretchString, trueCents, type StringTruth } from '.';
import { HOUR } from '../base';

const START = Date.UTC(2026, 5, 12, 10, 0);
const string: StringTruth = {
  stringId: 's1',
  targetHz: 220,
  strungMs: START,
  creepCents: 20,
  renewal: 0.4,
  tempCoefficient: 0,
  inharmonicity: 5e-5,
  decayS: 1.5,
  rolloff: 1.1,
  seed: 5,
  startCents: 0,
  turns: [],
  slips: [],
};

test('a string only falls when it is left alone, ever more slowly', () => {
  const at = [0, 0.1, 0.5, 2, 8, 24].map((h) => trueCents(string, START + h * HOUR));
  for (let i = 1; i < at.length; i++) expect(at[i]!).toBeLessThan(at[i - 1]!);
  const firstHour = trueCents(string, START) - trueCents(string, START + HOUR);
  const later = trueCents(string, START + 23 * HOUR) - trueCents(string, START + 24 * HOUR);
  expect(later).toBeLessThan(0.1 * firstHour);
});

test('a turn raises it and renews some creep; a slip lets it down at once; the room moves it back and forth', () => {
  const turned = { ...string, turns: [{ atMs: START + HOUR, cents: 60 }] };
  const gain = (h: number) => trueCents(turned, START + h * HOUR) - trueCents(string, START + h * HOUR);
  expect(gain(1.0001)).toBeGreaterThan(58);
  expect(gain(10)).toBeLessThan(gain(1.0001));
  const slipped = { ...string, slips: [{ atMs: START + HOUR, cents: 12 }] };
  expect(trueCents(string, START + 2 * HOUR) - trueCents(slipped, START + 2 * HOUR)).toBeCloseTo(12, 9);
  const warm = { ...string, tempCoefficient: -2 };
  const degrees = roomTempC(START + 5 * HOUR) - roomTempC(START);
  expect(trueCents(warm, START + 5 * HOUR) - trueCents(string, START + 5 * HOUR)).toBeCloseTo(-2 * degrees, 9);
});

test('the same seed sounds the same, another one does not, and a damped string dies', () => {
  const sound = (seed: number, damped = false) => {
    const out = new Float32Array(8000);
    const voice = pluck(pluckOf(string, 0.5, seed), 8000, randomFrom(seed));
    voice.render(out, 0, 4000, 1);
    if (damped) voice.damp();
    voice.render(out, 4000, 8000, 1);
    return { out, loudness: voice.loudness() };
  };
  expect(sound(1).out).toEqual(sound(1).out);
  expect(sound(1).out).not.toEqual(sound(2).out);
  expect(sound(1).out.every((v) => Math.abs(v) < 1)).toBe(true);
  expect(sound(1, true).loudness).toBeLessThan(1e-3);
  expect(sound(1).loudness).toBeGreaterThan(0.3);
});

test('random numbers have the spread they promise', () => {
  const random = randomFrom(77);
  const list = Array.from({ length: 4000 }, () => random.normal());
  const mean = list.reduce((a, b) => a + b, 0) / list.length;
  const sd = Math.sqrt(list.reduce((s, v) => s + (v - mean) ** 2, 0) / list.length);
  expect(Math.abs(mean)).toBeLessThan(0.06);
  expect(sd).toBeCloseTo(1, 1);
  expect(Array.from({ length: 500 }, () => random.between(3, 5)).every((v) => v >= 3 && v < 5)).toBe(true);
});

test('each stretch drops it less and leaves less creep to come; a fresh string starts slack and whole', () => {
  const t = START + HOUR;
  const drop = (s: StringTruth) => trueCents(s, t) - trueCents(stretchString(s, t), t);
  const once = stretchString(string, t);
  expect(drop(string)).toBeGreaterThan(10);
  expect(drop(once)).toBeCloseTo(0.5 * drop(string), 6);
  const fall = (s: StringTruth) => trueCents(s, t + 1) - trueCents(s, t + 10 * HOUR);
  expect(fall(once)).toBeCloseTo(0.8 * fall(string), 1);
  const fresh = restring({ ...once, brokenMs: t, turns: [{ atMs: t, cents: 9 }] }, t + HOUR, -700);
  expect(trueCents(fresh, t + HOUR)).toBeCloseTo(-700, 6);
  expect(fresh.brokenMs).toBeUndefined();
});
