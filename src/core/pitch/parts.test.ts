/** The estimator's parts, each against a law that it must keep. */
import fc from 'fast-check';
import { randomFrom } from '../simulate';
import { searchComb } from './partials/comb';
import { decimate } from './signal/decimate';
import { demodulate } from './signal/demodulate';
import { findGap, lastClippedSample } from './recording/faults';
import { amplitudeSpectrum, powerOfTwo } from './signal/fft';
import { findPeaks, type Peaks } from './signal/peaks';
import { findSections } from './recording/section';
import { fading, withoutOld } from './second-string/old-tones';
import { fitCourse } from './partials/course';
import { fitStiffString, type MeasuredPartial } from './partials/law';
import { clamp } from '../base';

const sine = (hz: number, rate: number, seconds: number, amplitude = 1) =>
  Float64Array.from(
    { length: Math.round(rate * seconds) },
    (_, i) => amplitude * Math.sin((2 * Math.PI * hz * i) / rate),
  );
const partialHz = (n: number, f0: number, b: number) => n * f0 * Math.sqrt(1 + b * n * n);
const fit = (n: number, frequencyHz: number, more: Partial<MeasuredPartial> = {}): MeasuredPartial => ({
  n,
  frequencyHz,
  sigmaHz: 0.002,
  amplitude: 1 / n,
  residualRad: 0.01,
  ...more,
});
const peaksAt = (list: [hz: number, amplitude: number][]): Peaks => {
  const sorted = [...list].sort((a, b) => a[0] - b[0]);
  return {
    frequencyHz: sorted.map((p) => p[0]),
    amplitude: sorted.map((p) => p[1]),
    floor: sorted.map(() => 1e-5),
  };
};
const RANGE = { lowCents: -1250, highCents: 560, maxPartials: 28 };

describe('the stiff-string fit', () => {
  const string = fc.record({
    f0: fc.double({ min: 30, max: 1200, noNaN: true }),
    b: fc.double({ min: 0, max: 3e-4, noNaN: true }),
    count: fc.integer({ min: 4, max: 14 }),
  });

  test('finds the pitch of an exact string, within what a stiffness unlike the usual leaves where few partials tell', () => {
    fc.assert(
      fc.property(string, ({ f0, b, count }) => {
        const partials = Array.from({ length: count }, (_, i) => fit(i + 1, partialHz(i + 1, f0, b)));
        const r = fitStiffString(partials);
        const off = Math.abs(1200 * Math.log2(r.firstPartialHz / partialHz(1, f0, b)));
        expect(off).toBeLessThan(0.8);
        expect(r.b).toBeGreaterThanOrEqual(0);
      }),
      { numRuns: 60 },
    );
  });

  test('one partial pulled far off by the body drags it by no more than a tenth, where it is not one of the two that lead', () => {
    fc.assert(
      fc.property(string, fc.integer({ min: 3, max: 4 }), fc.boolean(), ({ f0, b, count }, which, up) => {
        const partials = Array.from({ length: count + 4 }, (_, i) => {
          const hz = partialHz(i + 1, f0, b);
          return fit(i + 1, i + 1 === which ? hz * Math.pow(2, (up ? 15 : -15) / 1200) : hz);
        });
        const r = fitStiffString(partials);
        const whole = Array.from({ length: count + 4 }, (_, i) => fit(i + 1, partialHz(i + 1, f0, b)));
        const unpulled = fitStiffString(whole).firstPartialHz;
        expect(Math.abs(1200 * Math.log2(r.firstPartialHz / unpulled))).toBeLessThan(1.6);
      }),
      { numRuns: 60 },
    );
  });

  test('faint partials off the law, or fewer of them, hardly move it: every room reads the same', () => {
    for (let seed = 1; seed <= 30; seed++) {
      const random = randomFrom(seed);
      const partials = Array.from({ length: 14 }, (_, i) =>
        fit(i + 1, partialHz(i + 1, 196, 9e-5) * 2 ** ((i < 4 ? 0 : 3 * random.normal()) / 1200), {
          amplitude: i < 4 ? 1 : 0.03,
        }),
      );
      const all = fitStiffString(partials).firstPartialHz;
      const heard = fitStiffString(partials.slice(0, 5)).firstPartialHz;
      expect(Math.abs(1200 * Math.log2(all / heard))).toBeLessThan(0.4);
    }
  });

  test('a partial that beats, or is heard in a part of the stretch only, counts for less', () => {
    const partials = (more: Partial<MeasuredPartial>) =>
      [1, 2, 3].map((n) =>
        fit(n, n * 220 * (n === 2 ? 2 ** (8 / 1200) : 1), { amplitude: 1, ...(n === 2 ? more : {}) }),
      );
    const off = (more: Partial<MeasuredPartial>) =>
      Math.abs(1200 * Math.log2(fitStiffString(partials(more)).firstPartialHz / 220));
    expect(off({ residualRad: 1 })).toBeLessThan(0.6 * off({}));
    expect(off({ cover: 0.4 })).toBeLessThan(0.6 * off({}));
  });

  test('its standard error grows with the scatter of the partials', () => {
    const random = randomFrom(8);
    const scattered = (cents: number) =>
      fitStiffString(
        Array.from({ length: 10 }, (_, i) =>
          fit(i + 1, partialHz(i + 1, 110, 5e-5) * Math.pow(2, (cents * random.normal()) / 1200)),
        ),
      ).sigmaCents;
    expect(scattered(8)).toBeGreaterThan(1.5 * scattered(0.05));
  });
});

test('the noise around a peak is the standard deviation of one part of it', () => {
  const n = 4096;
  const size = powerOfTwo(2 * n);
  const sd = 0.01;
  const ratios = [1, 2, 3, 4, 5, 6, 7, 8].map((seed) => {
    const random = randomFrom(seed);
    const x = Float64Array.from({ length: n }, (_, i) => Math.sin(0.5 * i) + sd * random.normal());
    const spectrum = amplitudeSpectrum(x, 0, n, size, new Float64Array(size / 2));
    const peaks = findPeaks(spectrum, size / 2 - 2, 44100 / size, (2 * size) / n, 20, 62, 4);
    const top = peaks.amplitude.indexOf(Math.max(...peaks.amplitude));
    // A Hann window's amplitude estimate: variance 6 sd^2 / n of the complex noise, half of it in each part.
    return peaks.floor[top]! / Math.sqrt((3 * sd ** 2) / n);
  });
  const mean = ratios.reduce((a, b) => a + b, 0) / ratios.length;
  expect(mean).toBeGreaterThan(0.85);
  // The sine itself reaches a little into its neighbourhood.
  expect(mean).toBeLessThan(1.25);
});

describe('the comb', () => {
  const comb = (f0: number, b: number, numbers: number[]) =>
    peaksAt(numbers.map((n) => [partialHz(n, f0, b), 1 / Math.sqrt(n)]));

  test.each([
    ['all partials', [1, 2, 3, 4, 5, 6, 7, 8]],
    ['no fundamental', [2, 3, 4, 5, 6, 7, 8]],
    ['plucked at a third', [1, 2, 4, 5, 7, 8, 10, 11]],
  ])('%s: no octave error', (_, numbers) => {
    for (const cents of [-1100, -400, 0, 300]) {
      const f0 = 196 * Math.pow(2, cents / 1200);
      const found = searchComb(comb(f0, 1e-4, numbers), { targetHz: 196, ...RANGE })!;
      expect(Math.abs(1200 * Math.log2(found.f0Hz / f0))).toBeLessThan(15);
    }
  });

  test('faint peaks beside the teeth do not lead it astray', () => {
    const random = randomFrom(4);
    const junk = Array.from({ length: 60 }, (): [number, number] => [random.between(60, 3000), 3e-4]);
    const teeth = Array.from({ length: 9 }, (_, i): [number, number] => [partialHz(i + 1, 196, 5e-5), 1 / (i + 1)]);
    const found = searchComb(peaksAt([...teeth, ...junk]), { targetHz: 196, ...RANGE })!;
    expect(Math.abs(1200 * Math.log2(found.f0Hz / 196))).toBeLessThan(10);
    expect(found.score).toBeGreaterThan(0.6);
  });

  test('nothing is found where there are no peaks', () => {
    expect(searchComb(peaksAt([]), { targetHz: 196, ...RANGE })).toBeUndefined();
  });
});

test('a sine’s peak shows its frequency and amplitude', () => {
  for (const hz of [97.3, 440.61, 1318.1]) {
    const rate = 8000;
    const x = sine(hz, rate, 0.5, 0.3);
    const size = powerOfTwo(2 * x.length);
    const spectrum = amplitudeSpectrum(x, 0, x.length, size, new Float64Array(size / 2));
    const peaks = findPeaks(spectrum, size / 2 - 2, rate / size, (2 * size) / x.length, 20, 50, 4);
    expect(Math.abs(peaks.frequencyHz[0]! - hz)).toBeLessThan(0.05);
    expect(peaks.amplitude[0]!).toBeCloseTo(0.3, 2);
  }
});

test('decimation keeps what is below and takes away what is above', () => {
  const rms = (x: Float64Array) => Math.sqrt(x.slice(200, -200).reduce((s, v) => s + v * v, 0) / (x.length - 400));
  const rate = 48000;
  expect(rms(decimate(sine(1000, rate, 0.5), 8))).toBeCloseTo(Math.SQRT1_2, 2);
  expect(rms(decimate(sine(4400, rate, 0.5), 8))).toBeLessThan(1e-3);
});

test('demodulation turns an offset from the carrier into a phase slope', () => {
  const rate = 8000;
  const track = demodulate(sine(221.5, rate, 1), rate, 0, rate, 1, 220, 0.05)!;
  const last = track.timeS.length - 1;
  const slope = (track.phase[last]! - track.phase[0]!) / (track.timeS[last]! - track.timeS[0]!);
  expect(slope / (2 * Math.PI)).toBeCloseTo(1.5, 3);
  expect(track.amplitude[5]!).toBeCloseTo(1, 2);
  expect(demodulate(sine(220, rate, 0.05), rate, 0, 400, 1, 220, 0.05)).toBeUndefined();
});

test.each([8000, 11025, 22050, 44100, 48000])(
  'at %p Hz a neighbour four periods of the window away does not leak in',
  (rate) => {
    for (const f0 of [61.3, 110.7, 196.1, 329.9]) {
      const neighbour = sine(2 * f0, rate, 0.5);
      const track = demodulate(neighbour, rate, 0, neighbour.length, 1, f0, 4 / f0)!;
      expect(Math.max(...track.amplitude)).toBeLessThan(5e-4);
    }
  },
);

test('sections begin at their plucks', () => {
  const rate = 4000;
  const x = new Float64Array(3 * rate);
  for (const fromS of [0.5, 1.6])
    for (let i = fromS * rate; i < x.length; i++)
      x[i]! += Math.exp(-(i / rate - fromS) / 0.3) * Math.sin((2 * Math.PI * 200 * i) / rate);
  const random = randomFrom(2);
  for (let i = 0; i < x.length; i++) x[i]! += 0.0005 * random.normal();
  const sections = findSections(x, rate, 0.01);
  expect(sections.map((s) => Math.round(s.onsetS * 10) / 10)).toEqual([0.5, 1.6]);
  expect(sections[0]!.endS).toBeLessThan(1.6);
  expect(sections.every((s) => !s.cutIn)).toBe(true);
});

test('a bow swells; a pluck that beats is loudest late, and yet no bow', () => {
  const rate = 11025;
  const note = (levelAt: (t: number) => number) => {
    const random = randomFrom(3);
    return Float64Array.from({ length: 2 * rate }, (_, i) => {
      const t = i / rate - 0.3;
      return (t < 0 ? 0 : levelAt(t) * Math.sin(2 * Math.PI * 110 * t)) + 0.0005 * random.normal();
    });
  };
  const slowAttack = (levelAt: (t: number) => number) => findSections(note(levelAt), rate, 0.02)[0]!.slowAttack;
  for (const riseS of [0.06, 0.1, 0.2]) expect(slowAttack((t) => 1 - Math.exp(-t / riseS))).toBe(true);
  for (const beatHz of [1, 1.5, 2])
    expect(slowAttack((t) => Math.exp(-t / 2) * (1 + 0.25 * Math.sin(2 * Math.PI * beatHz * t)))).toBe(false);
});

test('clipping and gaps are seen, a clean note has neither', () => {
  const rate = 44100;
  const clean = sine(110, rate, 0.3, 0.5);
  expect(lastClippedSample(clean, rate, 0.5)).toBe(-1);
  expect(findGap(clean, rate, 0.5)).toBe(-1);
  const clipped = clean.map((v) => clamp(v, -0.3, 0.3));
  expect(lastClippedSample(clipped, rate, 0.3)).toBeGreaterThan(0.25 * rate);
  const torn = clean.slice();
  torn.fill(0, 5000, 5400);
  expect(Math.abs(findGap(torn, rate, 0.5) - 5000)).toBeLessThan(3);
});

describe('the course of a note', () => {
  const RATE = 8000;
  /** Two partials whose pitch stands centsAt(t) from 200 Hz and whose amplitude dies by half each `halfS`. */
  const tracksOf = (centsAt: (t: number) => number, halfS: number) => {
    const x = new Float64Array(1.2 * RATE);
    let phase = 0;
    for (let i = 0; i < x.length; i++) {
      phase += (2 * Math.PI * 200 * 2 ** (centsAt(i / RATE) / 1200)) / RATE;
      x[i] = 0.5 ** (i / RATE / halfS) * (Math.sin(phase) + 0.5 * Math.sin(2 * phase));
    }
    return [1, 2].map((n) => demodulate(x, RATE, 0, x.length, n, 200 * n, 0.02)!);
  };
  const at = (centsAt: (t: number) => number, plucked = true) =>
    fitCourse(tracksOf(centsAt, 0.3), [1e-6, 1e-6], plucked ? 'sought' : { cents: 0, tauS: 1 })!;

  test('a sharp start that goes with the energy is told, and the pitch at rest is read', () => {
    const c = at((t) => 5 * 0.25 ** (t / 0.3));
    expect(c.sharp.cents).toBeGreaterThan(4);
    expect(c.partials.map((p) => Math.abs(1200 * Math.log2(p.frequencyHz / (200 * p.n)))).every((e) => e < 0.4)).toBe(
      true,
    );
  });

  test('a hand that turns up is no sharp start but a drift; so is one that turns down long after the pluck', () => {
    const up = at((t) => 6 * t);
    expect(up.sharp.cents).toBeLessThan(0.5);
    expect(up.driftCents).toBeGreaterThan(2.5);
    expect(at((t) => -6 * t, false).driftCents).toBeLessThan(-2.5);
    expect(Math.abs(at(() => 3).driftCents)).toBeLessThan(0.1);
  });
});

test('a tone that was there before is passed over until it has grown', () => {
  const peaks = peaksAt([
    [196, 0.1],
    [247, 0.3],
    [392, 0.2],
  ]);
  const left = withoutOld(peaks, [
    { frequencyHz: 195, amplitude: 0.09 },
    { frequencyHz: 391, amplitude: 0.05 },
  ]);
  expect(left.frequencyHz).toEqual([247, 392]);
  expect(left.floor).toHaveLength(2);
  // Damped, it hides nothing any more; ringing on under a louder note it still does.
  const tone = (amplitude: number) => [{ frequencyHz: 196, amplitude }];
  let old = tone(0.1);
  for (let k = 0; k < 30; k++) old = fading(old, []);
  expect(old).toEqual([]);
  expect(fading(tone(0.1), tone(0.3))).toEqual(tone(0.1));
  expect(fading(tone(0.1), tone(0.02))).toEqual(tone(0.02));
});
