/** What must hold of every reading, whatever the string. */
import fc from 'fast-check';
import { cents } from '../../music';
import { addNoise, plainPluck, pluck, randomFrom } from '../../simulate';
import { changeBetween, measure, type MeasureOutcome, type Reading } from '..';

const RATE = 22050;

function note(frequencyHz: number, seed: number, seconds = 1.1): Float32Array {
  const random = randomFrom(seed);
  const out = new Float32Array(Math.round(seconds * RATE));
  pluck(plainPluck(frequencyHz, { inharmonicity: 6e-5, pluckAt: 0.1 + 0.15 * random.uniform() }), RATE, random).render(
    out,
    Math.round(0.15 * RATE),
    out.length,
    1,
  );
  addNoise(out, 0.0003, random);
  return out;
}
const read = (samples: ArrayLike<number>, targetHz: number, rate = RATE): Reading => {
  const outcome: MeasureOutcome = measure(samples, rate, { targetHz });
  if (!outcome.ok) throw new Error(outcome.reason);
  return outcome;
};
const string = fc.record({ midi: fc.integer({ min: 40, max: 76 }), seed: fc.integer({ min: 1, max: 1e6 }) });
const hzOf = (midi: number) => 440 * Math.pow(2, (midi - 69) / 12);
/** The same notes each time: which one failed is told, and it fails again. */
const RUNS = { numRuns: 12, seed: 42 };

test('louder or softer, upside down, or with a converter’s offset: the same reading', () => {
  fc.assert(
    fc.property(string, ({ midi, seed }) => {
      const hz = hzOf(midi);
      const x = note(hz, seed);
      const plain = read(x, hz);
      for (const other of [x.map((v) => 0.3 * v), x.map((v) => -v), x.map((v) => v + 0.05)])
        expect(Math.abs(cents(read(other, hz).frequencyHz, plain.frequencyHz))).toBeLessThan(0.03);
    }),
    RUNS,
  );
});

test('more silence before the pluck changes nothing but the time', () => {
  fc.assert(
    fc.property(string, fc.integer({ min: 100, max: 9000 }), ({ midi, seed }, more) => {
      const hz = hzOf(midi);
      const x = note(hz, seed);
      const later = new Float32Array(x.length + more);
      addNoise(later.subarray(0, more), 0.0003, randomFrom(seed + 1));
      later.set(x, more);
      const [a, b] = [read(x, hz), read(later, hz)];
      expect(Math.abs(cents(b.frequencyHz, a.frequencyHz))).toBeLessThan(0.1);
      expect(b.fromS - a.fromS).toBeCloseTo(more / RATE, 1);
    }),
    RUNS,
  );
});

test('played back faster it is sharper by just that: the reading follows the clock', () => {
  fc.assert(
    fc.property(string, fc.double({ min: -30, max: 30, noNaN: true }), ({ midi, seed }, shift) => {
      const hz = hzOf(midi);
      const x = note(hz, seed);
      const ratio = Math.pow(2, shift / 1200);
      expect(cents(read(x, hz, RATE * ratio).frequencyHz, read(x, hz).frequencyHz)).toBeCloseTo(shift, 1);
    }),
    RUNS,
  );
});

test('the target names the string, it does not pull the reading', () => {
  fc.assert(
    fc.property(string, fc.double({ min: -80, max: 80, noNaN: true }), ({ midi, seed }, off) => {
      const hz = hzOf(midi);
      const x = note(hz, seed);
      const named = read(x, hz * Math.pow(2, off / 1200));
      expect(Math.abs(cents(named.frequencyHz, read(x, hz).frequencyHz))).toBeLessThan(0.05);
      expect(named.cents).toBeCloseTo(cents(named.frequencyHz, hz) - off, 6);
    }),
    RUNS,
  );
});

test('a change there and back is none; two changes add up', () => {
  fc.assert(
    fc.property(string, ({ midi, seed }) => {
      const hz = hzOf(midi);
      const [a, b, c] = [0, -4, -11].map((down, i) => read(note(hz * Math.pow(2, down / 1200), seed + i), hz));
      const there = changeBetween(a!, b!);
      expect(there.partials).toBeGreaterThan(2);
      expect(changeBetween(b!, a!).cents).toBeCloseTo(-there.cents, 3);
      expect(changeBetween(a!, a!).cents).toBeCloseTo(0, 9);
      const sum = there.cents + changeBetween(b!, c!).cents;
      expect(Math.abs(changeBetween(a!, c!).cents - sum)).toBeLessThan(0.15);
      expect(there.cents).toBeCloseTo(-4, 0);
    }),
    RUNS,
  );
});

test('whatever comes in, no figure that is no number and no crash', () => {
  fc.assert(
    fc.property(
      fc.array(fc.double({ min: -1, max: 1, noNaN: true }), { minLength: 0, maxLength: 3000 }),
      fc.integer({ min: 23, max: 90 }),
      (few, midi) => {
        const x = Float32Array.from({ length: 4 * few.length }, (_, i) => few[i % Math.max(1, few.length)]!);
        const outcome = measure(x, 8000, { targetHz: hzOf(midi) });
        if (outcome.ok) {
          expect(Number.isFinite(outcome.cents)).toBe(true);
          expect(outcome.sigmaCents).toBeGreaterThan(0);
        } else expect(outcome.message.length).toBeGreaterThan(10);
      },
    ),
    { numRuns: 25, seed: 7 },
  );
});
