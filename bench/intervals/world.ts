import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { readWav } from '../../src/core/exchange';
import type { Random } from '../../src/core/simulate';

export const KITS_RATE = 44100;
/** Two strings in one recording, with the truth. */
export interface Pair {
  name: string;
  samples: Float32Array;
  aHz: number;
  bHz: number;
  ratio: [number, number];
  cents: number;
  delayS: number;
  beatsHz: number;
}

export const RATIOS: [number, number][] = [
  [1, 1],
  [2, 1],
  [4, 1],
  [3, 1],
  [3, 2],
  [4, 3],
  [5, 4],
  [6, 5],
  [5, 3],
  [8, 5],
  [1, 2],
  [2, 3],
  [3, 4],
];

interface StringLaw {
  /** First partial, Hz. */
  hz: number;
  b: number;
  decayS: number;
  bright: number;
  at: number;
  level: number;
}
const partial = ({ hz, b }: StringLaw, n: number) => n * hz * Math.sqrt((1 + b * n * n) / (1 + b));

/** A stiff string as a sum of partials that die at their own rates, phases by chance: no polarisations, no sharp start. */
function sound(out: Float32Array, s: StringLaw, fromS: number, random: Random): void {
  const from = Math.round(fromS * KITS_RATE);
  for (let n = 1; n <= 40; n++) {
    const f = partial(s, n);
    if (f > 9000) break;
    const a = (s.level * Math.abs(Math.sin(n * Math.PI * s.at)) * (0.6 + 0.8 * random.uniform())) / n ** s.bright;
    const w = (2 * Math.PI * f) / KITS_RATE;
    const phase = 2 * Math.PI * random.uniform();
    const fall = Math.exp(-(0.7 + 0.3 * n ** 0.9 * (0.7 + 0.6 * random.uniform())) / s.decayS / KITS_RATE);
    let size = a;
    for (let i = from; i < out.length; i++) {
      out[i]! += size * Math.min(1, (i - from) / 40) * Math.sin(w * (i - from) + phase);
      size *= fall;
    }
  }
}
function addNoise(out: Float32Array, level: number, random: Random): void {
  for (let i = 0; i < out.length; i++) out[i]! += level * random.normal();
}

/** Deviation up to 40 cents, the second string up to 0.4 s later and 12 dB softer. */
export function drawPair(random: Random, ratio = RATIOS[Math.floor(random.uniform() * RATIOS.length)]!): Pair {
  const [p, q] = ratio;
  const low = 60 * 6 ** random.uniform();
  const target = low * (1 + 0.01 * (random.uniform() - 0.5));
  const aHz = p >= q ? target : (target * q) / p;
  const bHz = (aHz * p) / q;
  const off = random.between(-40, 40);
  const moved = random.between(-15, 15);
  const a: StringLaw = {
    hz: aHz * 2 ** (moved / 1200),
    b: 10 ** random.between(-5, -3.4),
    decayS: random.between(0.8, 3.5),
    bright: random.between(0.8, 1.7),
    at: random.between(0.08, 0.3),
    level: 0.25,
  };
  const b: StringLaw = {
    ...a,
    hz: ((a.hz * p) / q) * 2 ** (off / 1200),
    b: 10 ** random.between(-5, -3.4),
    decayS: random.between(0.8, 3.5),
    at: random.between(0.08, 0.3),
    level: 0.25 * 10 ** (random.between(-12, 0) / 20),
  };
  const delayS = random.between(0, 0.4);
  const samples = new Float32Array(Math.round(4.2 * KITS_RATE));
  sound(samples, a, 0.3, random);
  sound(samples, b, 0.3 + delayS, random);
  addNoise(samples, 10 ** (random.between(-72, -55) / 20), random);
  return {
    name: `${p}:${q}`,
    samples,
    aHz,
    bHz,
    ratio,
    cents: off,
    delayS,
    beatsHz: Math.abs(partial(b, q) - partial(a, p)),
  };
}

/** One string, three, hum or silence: what is no pair. */
export function drawOther(random: Random, kind: 'one' | 'three' | 'hum' | 'silence'): Pair {
  const pair = drawPair(random);
  const samples = new Float32Array(pair.samples.length);
  const s = (hz: number): StringLaw => ({
    hz,
    b: 10 ** random.between(-5, -3.5),
    decayS: random.between(1, 3),
    bright: random.between(0.8, 1.7),
    at: random.between(0.08, 0.3),
    level: 0.25,
  });
  if (kind === 'one') sound(samples, s(pair.aHz * 2 ** (random.between(-20, 20) / 1200)), 0.3, random);
  if (kind === 'three')
    for (const hz of [pair.aHz, pair.bHz, pair.aHz * 2 ** (random.between(1.6, 10.4) / 12)])
      sound(samples, s(hz), 0.3 + 0.2 * random.uniform(), random);
  if (kind === 'hum')
    for (let i = 0; i < samples.length; i++)
      for (const k of [1, 2, 3, 5]) samples[i]! += (0.05 / k) * Math.sin((2 * Math.PI * 50 * k * i) / KITS_RATE + k);
  addNoise(samples, 10 ** (random.between(-72, -55) / 20), random);
  return { ...pair, name: kind, samples };
}

interface Note {
  file: string;
  kit: string;
  note: string;
  nominalHz: number;
}
/** Sampled notes of real instruments, where they were made. */
export function kitNotes(dir: string): (Note & { samples: Float32Array; rate: number })[] {
  const { notes } = JSON.parse(readFileSync(join(dir, 'rooms.json'), 'utf8')) as { notes: Note[] };
  return notes.flatMap((n) => {
    const wav = readWav(readFileSync(join(dir, n.file)));
    return wav.ok ? [{ ...n, samples: Float32Array.from(wav.sound.samples), rate: wav.sound.sampleRate }] : [];
  });
}
export type SampledNote = ReturnType<typeof kitNotes>[number];

/** A note read at another speed, by cubic interpolation, into a recording. */
export function playInto(
  out: Float32Array,
  rate: number,
  note: SampledNote,
  centsUp: number,
  fromS: number,
  level: number,
): void {
  const step = (2 ** (centsUp / 1200) * note.rate) / rate;
  const from = Math.round(fromS * rate);
  const x = note.samples;
  for (let i = from; i < out.length; i++) {
    const at = (i - from) * step;
    const k = Math.floor(at);
    if (k + 2 >= x.length) break;
    if (k < 1) continue;
    const t = at - k;
    const [y0, y1, y2, y3] = [x[k - 1]!, x[k]!, x[k + 1]!, x[k + 2]!];
    const c1 = 0.5 * (y2 - y0);
    const c2 = y0 - 2.5 * y1 + 2 * y2 - 0.5 * y3;
    const c3 = 0.5 * (y3 - y0) + 1.5 * (y1 - y2);
    out[i]! += level * (((c3 * t + c2) * t + c1) * t + y1);
  }
}

/** Six seconds of a fork with its clang, a reed, a key or a string; the truth is its first partial. */
export function drawSteady(random: Random, kind: 'fork' | 'reed' | 'keyboard' | 'string') {
  const nominalHz = kind === 'string' ? random.between(80, 400) : 440;
  const hz = nominalHz * 2 ** (random.between(-20, 20) / 1200);
  const samples = new Float32Array(6 * KITS_RATE);
  const from = Math.round(0.3 * KITS_RATE);
  const partials = kind === 'fork' ? [1, 6.27] : [1, 2, 3, 4, 5, 6, 7, 8];
  for (const n of partials) {
    const stiff = kind === 'string' ? Math.sqrt((1 + 5e-5 * n * n) / (1 + 5e-5)) : 1;
    const w = (2 * Math.PI * n * hz * stiff) / KITS_RATE;
    const size = (0.2 / n) * random.between(0.5, 1.5);
    const phase = random.between(0, 2 * Math.PI);
    const decay = kind === 'fork' ? (n === 1 ? 0.4 : 4) : kind === 'string' ? 0.8 * n ** 0.7 : 0;
    for (let i = from; i < samples.length; i++) {
      const t = (i - from) / KITS_RATE;
      samples[i]! += size * Math.exp(-decay * t) * Math.min(1, t / 0.01) * Math.sin(w * (i - from) + phase);
    }
  }
  addNoise(samples, 10 ** (random.between(-60, -45) / 20), random);
  return { samples, nominalHz, hz };
}
