import { addHum, addNoise, plainPluck, pluck, randomFrom } from '../../simulate';
import { cents } from '../../music';
import { withoutHum } from './hum';
import { measure } from '..';

const RATE = 8000;
const rms = (x: ArrayLike<number>, from: number, to: number) => {
  let s = 0;
  for (let i = from; i < to; i++) s += x[i]! ** 2;
  return Math.sqrt(s / (to - from));
};
const hummed = (mainsHz: number, seconds: number, level = 0.05) => {
  const random = randomFrom(3);
  const x = new Float32Array(seconds * RATE);
  addHum(x, RATE, mainsHz, level, random);
  addNoise(x, 0.0005, random);
  return Float64Array.from(x);
};

test.each([49.96, 50, 59.97, 60.03])('hum at %p Hz goes, its drift found from before and after', (mainsHz) => {
  const x = hummed(mainsHz, 1.5);
  const out = withoutHum(x, RATE, [
    { from: 0, to: 0.25 * RATE },
    { from: 1.2 * RATE, to: x.length },
  ])!;
  expect(rms(out, 0, out.length)).toBeLessThan(0.08 * rms(x, 0, x.length));
});

test.each([49.97, 50.04, 60.03])(
  '%p Hz: a fifth of a second before the note tells the drift of two seconds',
  (mainsHz) => {
    const x = hummed(mainsHz, 2.2);
    const out = withoutHum(x, RATE, [{ from: 0, to: 0.2 * RATE }])!;
    expect(rms(out, 1.5 * RATE, x.length)).toBeLessThan(0.25 * rms(x, 1.5 * RATE, x.length));
  },
);

test('a string on the mains frequency, plucked after a silence, is no hum; hum alone is', () => {
  const rate = 44100;
  const random = randomFrom(5);
  const string = new Float32Array(2.2 * rate);
  pluck(plainPluck(49.99, { decayS: 4.5, glideCents: 0 }), rate, random).render(string, 0.4 * rate, string.length, 1);
  addNoise(string, 0.0005, random);
  const read = measure(string, rate, { targetHz: 49 });
  expect(read.ok && Math.abs(cents(read.frequencyHz, 49.99)) < 0.3).toBe(true);
  const hum = new Float32Array(2.2 * rate);
  addHum(hum, rate, 50, 0.1, random);
  addNoise(hum, 0.0005, random);
  expect(measure(hum, rate, { targetHz: 49 })).toMatchObject({ ok: false, reason: 'hum' });
});

test('silence, noise and too little to listen to are left alone', () => {
  const noise = new Float32Array(RATE);
  addNoise(noise, 0.01, randomFrom(8));
  const before = [{ from: 0, to: 0.25 * RATE }];
  expect(withoutHum(new Float64Array(RATE), RATE, before)).toBeUndefined();
  expect(withoutHum(Float64Array.from(noise), RATE, before)).toBeUndefined();
  expect(withoutHum(hummed(50, 1), RATE, [{ from: 0, to: 0.05 * RATE }])).toBeUndefined();
  expect(withoutHum(hummed(50, 1), RATE, [])).toBeUndefined();
});

test.each([98, 147, 196.5, 247])('a string at %p Hz that still rings is no hum', (hz) => {
  const x = Float64Array.from(
    { length: RATE },
    (_, i) => 0.1 * Math.exp(-i / RATE / 2) * Math.sin((2 * Math.PI * hz * i) / RATE),
  );
  expect(withoutHum(x, RATE, [{ from: 0, to: 0.25 * RATE }])).toBeUndefined();
});

test('a short note in a loud hum that keeps its frequency is read as if there were none', () => {
  const heard = (seed: number, level: number) => {
    const random = randomFrom(seed);
    const x = new Float32Array(1.5 * 44100);
    const note = plainPluck(165, { inharmonicity: 4e-5, decayS: 0.3, damping: 0.2, secondShare: 0.1 });
    pluck(note, 44100, random).render(x, 0.3 * 44100, x.length, 1);
    addNoise(x, 0.0003, random);
    if (level > 0) addHum(x, 44100, 50, level, random);
    const r = measure(x, 44100, { targetHz: 164.81 });
    return r.ok ? r.cents : NaN;
  };
  for (const seed of [1, 2, 3]) {
    expect(Math.abs(heard(seed, 0.02) - heard(seed, 0))).toBeLessThan(0.05);
    expect(Math.abs(heard(seed, 0.02) - cents(165, 164.81))).toBeLessThan(1);
  }
});
