import { cents } from '../../music';
import { addHum, addNoise, plainPluck, pluck, randomFrom, type PluckSpec } from '../../simulate';
import { measure, sharpAfter } from '..';
import { clamp } from '../../base';

const RATE = 44100;

/** A clean pluck: stiff, two polarisations, a sharp start, a little noise. */
function spec(frequencyHz: number, change: Partial<PluckSpec> = {}): PluckSpec {
  return plainPluck(frequencyHz, {
    inharmonicity: 8e-5,
    decayS: 1.6,
    secondShare: 0.2,
    secondCents: 0.15,
    glideCents: 2,
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
  expect(r.ok && Math.abs(r.cents)).toBeLessThan(1);
  expect(r.ok && r.glideCents).toBeGreaterThan(1.5);
});

test.each([110, 196, 330])('however sharp a %p Hz note starts, the reading does not jump', (hz) => {
  let before: number | undefined;
  for (const glideCents of [8, 12, 16, 20, 22, 24, 25, 26, 28]) {
    const r = measure(sound([spec(hz, { glideCents, secondShare: 0 })], 3), RATE, { targetHz: hz });
    if (!r.ok) throw new Error(`${glideCents}: ${r.reason}`);
    expect(Math.abs(r.cents - (before ?? r.cents))).toBeLessThan(0.4);
    before = r.cents;
  }
});

test('a late stretch of a note that began sharp is read at rest, by what its own pluck told', () => {
  const x = sound([spec(110, { glideCents: 12, secondShare: 0, decayS: 3 })], 6, { seconds: 3 });
  const whole = measure(x, RATE, { targetHz: 110 });
  if (!whole.ok) throw new Error(whole.reason);
  const late = x.subarray(RATE, Math.round(1.8 * RATE));
  const left = sharpAfter({ cents: whole.glideCents, tauS: whole.sharpTauS }, 1 - whole.fromS);
  const [as, at] = [undefined, left].map((sharp) =>
    measure(late, RATE, { targetHz: 110, sustained: true, ...(sharp ? { sharp } : {}) }),
  );
  expect(as!.ok && as!.cents).toBeGreaterThan(2);
  expect(at!.ok && Math.abs(at!.cents - whole.cents)).toBeLessThan(1);
});

test('a steady tone beside a multiple of the mains, with hardly a moment before it, is no hum', () => {
  const x = Float32Array.from({ length: 2 * RATE }, (_, i) =>
    i < 0.05 * RATE
      ? 0
      : 0.2 * Math.sin((2 * Math.PI * 659.6 * i) / RATE) + 0.05 * Math.sin((4 * Math.PI * 659.6 * i) / RATE),
  );
  const r = measure(x, RATE, { targetHz: 659.26 });
  expect(r.ok && Math.abs(cents(r.frequencyHz, 659.6))).toBeLessThan(0.1);
});

test('a string that rang before the note is left out of it in a file, too', () => {
  const random = randomFrom(21);
  const x = new Float32Array(2.4 * RATE);
  pluck(spec(247, { level: 0.08, decayS: 6, glideCents: 0 }), RATE, random).render(x, 0, x.length, 1);
  pluck(spec(196, { decayS: 0.6 }), RATE, random).render(x, 0.6 * RATE, x.length, 1);
  const r = measure(x, RATE, { targetHz: 196 });
  expect(r.ok && Math.abs(cents(r.frequencyHz, 196))).toBeLessThan(0.6);
});

test.each([110, 196])('light vibrato under a bow at %p Hz is read, with its doubt', (hz) => {
  const bowed = spec(hz, {
    bowRiseS: 0.1,
    glideCents: 0,
    secondShare: 0,
    vibratoCents: 6,
    vibratoHz: 5.5,
    attack: 0.01,
  });
  const r = measure(sound([bowed], 17, { seconds: 2.4 }), RATE, { targetHz: hz });
  expect(r.ok && Math.abs(r.cents)).toBeLessThan(1.5);
  expect(r.ok && r.sigmaCents).toBeGreaterThan(0.5);
});

test.each([73.4, 110, 246.9])('an attack that wavers at %p Hz does not pull the reading', (hz) => {
  const out = new Float32Array(1.8 * RATE);
  const voice = pluck(spec(hz, { secondShare: 0, decayS: 2, glideCents: 0 }), RATE, randomFrom(12));
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
  /** What a busy machine leaves out of a microphone: 10 ms, from so many seconds after the pluck. */
  const without = (fromS: number, hz: number) => {
    const x = [...sound([spec(hz)], 10)];
    x.splice(Math.round((0.2 + fromS) * RATE), 441);
    return Float32Array.from(x);
  };
  test.each([82, 147, 196])('samples left out of a %p Hz note', (hz) =>
    expect(reasonOf(without(0.4, hz), hz)).toBe('gap'),
  );
  test.each([82, 147, 196])('a %p Hz note is read as far as it is whole', (hz) => {
    const r = measure(without(0.8, hz), RATE, { targetHz: hz });
    expect(r.ok && Math.abs(cents(r.frequencyHz, hz))).toBeLessThan(0.5);
  });
  test.each([41.2, 82.4, 196])('%p Hz clipped to the end: too loud, and not two strings', (hz) => {
    const x = sound([spec(hz, { decayS: 30, damping: 0.01 })], 11).map((v) => clamp(v, -0.08, 0.08));
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

test.each([
  [523.3, [2, 3]],
  [392, [2]],
  [587.3, [2]],
])('with neighbours ringing softly under it %p Hz is never read an octave or a twelfth low', (hz, under) => {
  // Few partials of its own, as a harp's or a banjo's high string; theirs lie beside and under them.
  const own = spec(hz, { rolloff: 2.2 });
  const low = under.map((k) => spec((hz / k) * 2 ** (-0.6 / 1200), { level: 0.05, rolloff: 1.2, inharmonicity: 2e-5 }));
  const r = measure(sound([own, ...low], 3), RATE, { targetHz: hz });
  if (r.ok) expect(Math.abs(r.cents)).toBeLessThan(5);
  else expect(r.reason).toBe('two-strings');
});

test('a string let down by an octave is read where it is', () => {
  const r = measure(sound([spec(164.8)], 4), RATE, { targetHz: 329.6 });
  expect(r.ok && Math.abs(cents(r.frequencyHz, 164.8))).toBeLessThan(0.5);
});
