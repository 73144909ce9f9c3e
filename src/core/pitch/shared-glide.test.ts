/** Two decaying tones a partial under one sharp start: what was put in comes out, and nothing else is believed. */
import { median } from 'simple-statistics';
import { cents } from '../music';
import { addNoise, plainPluck, pluck, randomFrom, type PluckSpec } from '../simulate';
import type { PartialTrack } from './demodulate';
import { fitGlide } from './glide';
import { refineBySharedGlide } from './shared-glide';
import { measure } from '.';

const LN_CENT = Math.LN2 / 1200;
const ONSET_S = 0.1;

interface Tone {
  n: number;
  hz: number;
  decay: number;
  /** Second tone: complex share, cents off, share of the decay. */
  second: [re: number, im: number];
  apartCents: number;
  slower: number;
}

/** A track as `demodulate` would give it, against a carrier a little off. */
function track(tone: Tone, glideCents: number, tauS: number, wobbleRad = 0): PartialTrack {
  const count = 120;
  const carrierHz = tone.hz + 0.2;
  const timeS = Float64Array.from({ length: count }, (_, k) => ONSET_S + 0.08 + 0.005 * k);
  const amplitude = new Float64Array(count);
  const phase = new Float64Array(count);
  let last = 0;
  for (let k = 0; k < count; k++) {
    const t = timeS[k]! - ONSET_S;
    const bent = 2 * Math.PI * tone.hz * LN_CENT * glideCents * tauS * (1 - Math.exp(-t / tauS));
    const turn = 2 * Math.PI * tone.hz * LN_CENT * tone.apartCents * t;
    const [a, b] = [Math.exp(-tone.decay * t), Math.exp(-tone.decay * tone.slower * t)];
    const re = a + b * (tone.second[0] * Math.cos(turn) - tone.second[1] * Math.sin(turn));
    const im = b * (tone.second[0] * Math.sin(turn) + tone.second[1] * Math.cos(turn));
    amplitude[k] = Math.hypot(re, im) / tone.n;
    let p = Math.atan2(im, re) + bent - 2 * Math.PI * 0.2 * timeS[k]! + wobbleRad * Math.sin(90 * t + tone.n);
    p += 2 * Math.PI * Math.round((last - p) / (2 * Math.PI));
    phase[k] = last = p;
  }
  return { n: tone.n, carrierHz, timeS, amplitude, phase };
}

function tones(seed: number): Tone[] {
  const r = randomFrom(seed);
  return [1, 2, 3, 4, 5, 6].map((n) => ({
    n,
    hz: 196 * n,
    decay: r.between(3, 5) + n,
    second: [0.25 * r.normal(), 0.25 * r.normal()],
    apartCents: 0.3 * r.normal(),
    slower: r.between(0.35, 0.55),
  }));
}

describe.each([1, 2, 3])('six partials that die within half a second (%p)', (seed) => {
  const list = tones(seed);
  const noise = list.map(() => 1e-5);
  const read = (wobbleRad: number) => {
    const tracks = list.map((t) => track(t, 6, 0.13, wobbleRad));
    const first = fitGlide(tracks, noise, ONSET_S, true);
    return { first, refined: refineBySharedGlide(tracks, noise, ONSET_S, first) };
  };
  const rms = (fits: { n: number; frequencyHz: number }[]) =>
    Math.sqrt(fits.reduce((s, p) => s + cents(p.frequencyHz, 196 * p.n) ** 2, 0) / fits.length);

  test('are read as their first polarisation, with the sharp start they had', () => {
    const { first, refined } = read(0);
    expect(rms(refined.partials)).toBeLessThan(0.25);
    expect(rms(refined.partials)).toBeLessThan(0.25 * rms(first.partials));
    expect(refined.glideCents).toBeCloseTo(6, 0);
    expect(refined.sigmaCents).toBeLessThan(0.5);
  });

  test('are left to the plain fit when they wobble as no two tones do', () => {
    const { first, refined } = read(0.5);
    expect(refined.partials.map((p) => p.frequencyHz)).toEqual(first.partials.map((p) => p.frequencyHz));
    expect(refined.glideCents).toBe(first.glideCents);
  });
});

test.each([0.3, 0.6, 1.2])('a start %p cents sharp is not taken for none', (glideCents) => {
  const errors = [61, 62, 63, 64, 65, 66].map((seed) => {
    const list = tones(seed);
    const tracks = list.map((t) => track(t, glideCents, 0.3));
    const first = fitGlide(tracks, list.map(() => 1e-4), ONSET_S, true); // prettier-ignore
    const { partials } = refineBySharedGlide(tracks, list.map(() => 1e-4), ONSET_S, first); // prettier-ignore
    return partials.reduce((s, p) => s + cents(p.frequencyHz, 196 * p.n), 0) / partials.length;
  });
  expect(Math.sqrt(errors.reduce((s, e) => s + e * e, 0) / errors.length)).toBeLessThan(0.2);
});

test.each([-0.8, 0.8])('a second polarisation %p cents off is sought on both sides', (apartCents) => {
  for (const seed of [71, 72, 73, 74]) {
    const list = tones(seed).map((t) => ({ ...t, apartCents: apartCents * (0.8 + 0.1 * (t.n % 3)) }));
    const tracks = list.map((t) => track(t, 2, 0.15));
    const noise = list.map(() => 1e-4);
    const first = fitGlide(tracks, noise, ONSET_S, true);
    const { partials } = refineBySharedGlide(tracks, noise, ONSET_S, first);
    for (const p of partials) expect(Math.abs(cents(p.frequencyHz, 196 * p.n))).toBeLessThan(0.4);
  }
});

/** The track's first frames, with complex noise of the given amplitude. */
function noisy(full: PartialTrack, count: number, noise: number, seed: number): PartialTrack {
  const r = randomFrom(seed);
  const [amplitude, phase] = [new Float64Array(count), new Float64Array(count)];
  let last = 0;
  for (let j = 0; j < count; j++) {
    const x = full.amplitude[j]! * Math.cos(full.phase[j]!) + noise * Math.SQRT1_2 * r.normal();
    const y = full.amplitude[j]! * Math.sin(full.phase[j]!) + noise * Math.SQRT1_2 * r.normal();
    amplitude[j] = Math.hypot(x, y);
    const p = Math.atan2(y, x);
    phase[j] = last = p + 2 * Math.PI * Math.round((last - p) / (2 * Math.PI));
  }
  return { ...full, timeS: full.timeS.slice(0, count), amplitude, phase };
}

test('frames in the noise still tell: a longer recording of a dying note errs less', () => {
  const medianError = (count: number) =>
    median(
      Array.from({ length: 24 }, (_, i) => {
        const list = tones(90 + i);
        const noise = list.map((t) => 0.01 / t.n);
        const tracks = list.map((t, k) => noisy(track(t, 4, 0.2), count, noise[k]!, 1000 * i + k));
        const first = fitGlide(tracks, noise, ONSET_S, true);
        const { partials } = refineBySharedGlide(tracks, noise, ONSET_S, first);
        return Math.abs(partials.reduce((s, p) => s + cents(p.frequencyHz, 196 * p.n), 0) / partials.length);
      }),
    );
  expect(medianError(120)).toBeLessThan(0.8 * medianError(60));
});

test('too few frames above the noise: the first fit stands', () => {
  const tracks = [track(tones(4)[0]!, 3, 0.1)];
  const first = fitGlide(tracks, [1e-5], ONSET_S, true);
  expect(refineBySharedGlide(tracks, [0.9], ONSET_S, first)).toBe(first);
});

/** A gut string that is gone in a third of a second, its second polarisation off and ringing three times longer. */
const gut = (change: Partial<PluckSpec> = {}): PluckSpec =>
  plainPluck(220, {
    inharmonicity: 3e-5,
    pluckAt: 0.16,
    rolloff: 1.1,
    decayS: 0.32,
    damping: 0.25,
    secondShare: 0.35,
    secondCents: 0.5,
    secondLonger: 3,
    glideCents: 4,
    level: 0.5,
    ...change,
  });

function recording(spec: PluckSpec, seed: number, stopS = Infinity): Float32Array {
  const random = randomFrom(seed);
  const out = new Float32Array(1.6 * 44100);
  const from = Math.round(0.25 * 44100);
  const stop = Math.min(out.length, from + Math.round(stopS * 44100));
  const voice = pluck(spec, 44100, random);
  voice.render(out, from, stop, 1);
  voice.damp();
  voice.render(out, stop, out.length, 1);
  addNoise(out, 0.0003, random);
  return out;
}

test('the slower polarisation does not pull a short note, pluck after pluck', () => {
  const errors = [11, 12, 13, 14, 15, 16].map((seed) => {
    const r = measure(recording(gut(), seed), 44100, { targetHz: 220 });
    if (!r.ok) throw new Error(r.reason);
    expect(Math.abs(cents(r.frequencyHz, 220))).toBeLessThan(2.5 * r.sigmaCents);
    return cents(r.frequencyHz, 220);
  });
  expect(Math.sqrt(errors.reduce((s, e) => s + e * e, 0) / errors.length)).toBeLessThan(0.3);
});

test('a note that the hand stops is read up to the hand', () => {
  for (const seed of [21, 22, 23]) {
    const spec = gut({ decayS: 1.5, glideCents: 0.5, secondCents: 0.1 });
    const r = measure(recording(spec, seed, 0.35), 44100, { targetHz: 220 });
    if (!r.ok) throw new Error(r.reason);
    expect(r.toS).toBeGreaterThan(0.5);
    expect(r.toS).toBeLessThan(0.66);
    expect(Math.abs(cents(r.frequencyHz, 220))).toBeLessThan(0.3);
  }
});

test('a polarisation that outlives the other in opposite phase is no second string', () => {
  for (const seed of [31, 32, 33, 34, 35, 36, 37, 38]) {
    const spec = gut({ frequencyHz: 346.6, decayS: 0.45, secondShare: 0.45, secondCents: -0.1, glideCents: 0.1 });
    const r = measure(recording(spec, seed), 44100, { targetHz: 349.2 });
    if (!r.ok) throw new Error(`${seed}: ${r.reason}`);
    expect(Math.abs(cents(r.frequencyHz, 346.6))).toBeLessThan(0.4);
  }
});

/** A second string of the same kind, some cents away. */
function withNeighbour(spec: PluckSpec, apartCents: number, seed: number): Float32Array {
  const random = randomFrom(seed);
  const out = recording(spec, seed);
  const other = {
    ...spec,
    frequencyHz: spec.frequencyHz * 2 ** (apartCents / 1200),
    pluckAt: random.between(0.07, 0.25),
  };
  pluck(other, 44100, random).render(out, Math.round(0.25 * 44100), out.length, 1);
  return out;
}

test.each([-1900, -700, -500, -400, 200, 300, 400, 500, 700, 900, 1212, 1188, 15, -20])(
  'a second string %p cents away is refused, however it is plucked',
  (apartCents) => {
    for (const seed of [1, 2, 3]) {
      const outcome = measure(withNeighbour(plainPluck(220), apartCents, seed), 44100, { targetHz: 220 });
      expect(outcome).toMatchObject({ ok: false });
      expect(['two-strings', 'unsteady']).toContain(outcome.ok ? 'read' : outcome.reason);
    }
  },
);
