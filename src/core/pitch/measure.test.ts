import { cents } from '../music';
import { addHum, addNoise, plainPluck, pluck, randomFrom, type PluckSpec } from '../simulate';
import { measure } from '.';

const RATE = 44100;

/** A clean pluck: stiff, two polarisations, a sharp start, a little noise. */
function spec(frequencyHz: number, change: Partial<PluckSpec> = {}): PluckSpec {
  return plainPluck(frequencyHz, {
    inharmonicity: 8e-5,
    decayS: 1.6,
    secondShare: 0.2,
    secondCents: 0.15,
    glideCents: 2,
    glideTauS: 0.12,
    ...change,
  });
}

function sound(specs: PluckSpec[], seed: number, { seconds = 1.8, rate = RATE, noise = 0.0004 } = {}): Float32Array {
  const random = randomFrom(seed);
  const out = new Float32Array(Math.round(seconds * rate));
  for (const s of specs) pluck(s, rate, random).render(out, Math.round(0.2 * rate), out.length, 1);
  addNoise(out, noise, random);
  return out;
}

test.each([30.9, 61.7, 110, 196, 329.6, 659.3, 1318.5])('a clean pluck at %p Hz is read within half a cent', (hz) => {
  for (const offset of [-37, 21]) {
    const truth = hz * Math.pow(2, offset / 1200);
    const r = measure(sound([spec(truth)], Math.round(hz) + offset), RATE, { targetHz: hz });
    expect(r).toMatchObject({ ok: true });
    if (r.ok) {
      expect(Math.abs(cents(r.frequencyHz, truth))).toBeLessThan(0.5);
      expect(r.sigmaCents).toBeLessThan(1);
    }
  }
});

test.each([8000, 22050, 48000, 96000, 192000])('the sample rate %p Hz does not matter', (rate) => {
  const r = measure(sound([spec(147)], 5, { rate }), rate, { targetHz: 146.83 });
  expect(r.ok && Math.abs(cents(r.frequencyHz, 147))).toBeLessThan(0.5);
});

test('a slack string is followed up to an octave down, not taken for another octave', () => {
  for (const semitones of [-11, -7, -3, 4]) {
    const truth = 196 * Math.pow(2, semitones / 12);
    const r = measure(sound([spec(truth)], 40 + semitones), RATE, { targetHz: 196 });
    expect(r.ok && Math.abs(cents(r.frequencyHz, truth))).toBeLessThan(0.5);
  }
});

test('stiffness is found, and the reading is the first partial', () => {
  const r = measure(sound([spec(98, { inharmonicity: 4e-4 })], 3), RATE, { targetHz: 98 });
  expect(r.ok && r.inharmonicity).toBeCloseTo(4e-4, 4);
  expect(r.ok && r.frequencyHz).toBeCloseTo(98, 1);
});

test('a hard pluck is read where it settles, and its sharp start is told', () => {
  const r = measure(sound([spec(220, { glideCents: 10, secondShare: 0 })], 4), RATE, { targetHz: 220 });
  // The simulator's sharp start dies by a law of its own, not with the energy: what differs is left.
  expect(r.ok && Math.abs(r.cents)).toBeLessThan(1);
  expect(r.ok && r.glideCents).toBeGreaterThan(1.5);
});

test.each([73.4, 110, 246.9])('an attack that wavers at %p Hz does not pull the reading', (hz) => {
  const out = new Float32Array(1.8 * RATE);
  const voice = pluck(spec(hz, { secondShare: 0, decayS: 2 }), RATE, randomFrom(12));
  const onset = 0.2 * RATE;
  for (let i = onset; i < out.length; i += 64) {
    const t = (i - onset) / RATE;
    const wavers = t < 0.25 ? 12 * Math.sin((2 * Math.PI * t) / 0.125) : 0;
    voice.render(out, i, Math.min(out.length, i + 64), Math.pow(2, wavers / 1200));
  }
  addNoise(out, 0.0004, randomFrom(13));
  const r = measure(out, RATE, { targetHz: hz });
  expect(r).toMatchObject({ ok: true });
  expect(r.ok && Math.abs(r.cents)).toBeLessThan(0.3);
});

test('hum under a string does not pull it', () => {
  const x = sound([spec(123.5)], 6);
  addHum(x, RATE, 60, 0.02, randomFrom(9));
  const r = measure(x, RATE, { targetHz: 123.47 });
  expect(r.ok && Math.abs(cents(r.frequencyHz, 123.5))).toBeLessThan(0.5);
});

describe('what is no single steady string is refused with its reason', () => {
  const reasonOf = (x: Float32Array, targetHz = 196) => {
    const r = measure(x, RATE, { targetHz });
    return r.ok ? `read ${r.cents}` : r.reason;
  };
  const silent = () => new Float32Array(RATE);

  test('silence', () => expect(reasonOf(silent())).toBe('too-quiet'));
  test('too short', () => expect(reasonOf(new Float32Array(1000).fill(0.1))).toBe('too-short'));
  test('noise', () => {
    const x = silent();
    addNoise(x, 0.1, randomFrom(2));
    expect(reasonOf(x)).toBe('no-pitch');
  });
  test('mains hum alone', () => {
    const x = silent();
    addHum(x, RATE, 50, 0.1, randomFrom(3));
    expect(reasonOf(x, 98)).toBe('hum');
  });
  test('two strings', () => expect(reasonOf(sound([spec(196), spec(196 * 1.335)], 7))).toBe('two-strings'));
  test('a near unison', () =>
    expect(reasonOf(sound([spec(196), spec(196 * Math.pow(2, 18 / 1200))], 8))).toMatch(/two-strings|unsteady/));
  test.each([82, 196, 392])('vibrato at %p Hz: the pitch moved, and not that nothing was heard', (hz) =>
    expect(reasonOf(sound([spec(hz, { vibratoCents: 20, vibratoHz: 5 })], 9), hz)).toBe('unsteady'),
  );
  test('lost samples in the middle', () => {
    const x = sound([spec(196)], 10);
    x.fill(0, 26000, 27000);
    expect(reasonOf(x)).toBe('gap');
  });
  test.each([41.2, 82.4, 196])('%p Hz clipped to the end: too loud, and not two strings', (hz) => {
    const x = sound([spec(hz, { decayS: 30, damping: 0.01 })], 11).map((v) => Math.max(-0.08, Math.min(0.08, v)));
    expect(reasonOf(x, hz)).toBe('clipped');
  });
  test('a knock', () => {
    const x = silent();
    for (let i = 5000; i < x.length; i++) {
      const t = (i - 5000) / RATE;
      for (const [f, tau] of [
        [131, 0.03],
        [287, 0.02],
        [518, 0.015],
      ] as const)
        x[i]! += 0.2 * Math.exp(-t / tau) * Math.sin(2 * Math.PI * f * t);
    }
    addNoise(x, 0.0004, randomFrom(4));
    expect(reasonOf(x, 131)).not.toMatch(/^read/);
  });
  test.each([
    [155.3, [1, 4, 6]],
    [217.1, [1, 2]],
    [294.4, [1, 2, 5]],
  ])('a knock at %p Hz whose modes happen to lie on the comb', (hz, modes) => {
    const x = silent();
    modes.forEach((n, k) => {
      for (let i = 5000; i < x.length; i++) {
        const t = (i - 5000) / RATE;
        x[i]! += (0.15 / (k + 1)) * Math.exp(-t / 0.045) * Math.sin(2 * Math.PI * n * hz * t + k);
      }
    });
    addNoise(x, 0.0004, randomFrom(5));
    expect(reasonOf(x, hz)).toBe('no-pitch');
  });
});
