/** Sound that nobody here wrote, for the pitch benchmark: strings on bodies, sampled instruments, and what rooms, hands and neighbours make of them. */
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readWav } from '../../src/core/exchange';
import { targetFrequencyHz } from '../../src/core/music';
import { randomFrom } from '../../src/core/simulate';
import { renderSampled, SAMPLED, sampledInstrumentsInstalled } from './sampled';

/** One sound whose pitch against others of its group is known. */
export interface BenchSound {
  samples: Float32Array;
  rate: number;
  targetHz: number;
  /** Known change within its group, cents. */
  cents: number;
  onsetS: number;
  /** The group's first partial on its body, where it is known, Hz. */
  bodyHz?: number;
}
export interface SoundGroup {
  kind: string;
  sounds: BenchSound[];
}

const LEVEL = 0.4;
const PRE_ROLL_S = 0.4;
const LASTS_S = 4;
export const loudest = (x: Float32Array) => x.reduce((m, v) => Math.max(m, Math.abs(v)), 1e-9);

/** Silence before, a level, and a room's noise against the loudest sample, dB. */
function placed(raw: Float32Array, rate: number, seed: number, noiseDb: number): Float32Array {
  const r = randomFrom(seed);
  const gain = LEVEL / loudest(raw);
  const before = Math.round(PRE_ROLL_S * rate);
  const noise = LEVEL * 10 ** (noiseDb / 20);
  const out = new Float32Array(before + Math.min(raw.length, LASTS_S * rate));
  for (let i = 0; i < out.length; i++) out[i] = noise * r.normal() + (i < before ? 0 : gain * raw[i - before]!);
  return out;
}

/** Plucks of strings on bodies as their maker writes them: kc.tsv and float32 files. */
export const bodyPlucks = (folder: string) =>
  readFileSync(join(folder, 'kc.tsv'), 'utf8')
    .trim()
    .split('\n')
    .map((line) => {
      const [name = '', rate, source = '', group = '', hz, known, nominal] = line.split('\t');
      const bytes = readFileSync(join(folder, `${name}.f32`));
      const raw = new Float32Array(bytes.buffer, bytes.byteOffset, bytes.byteLength >> 2);
      return {
        raw,
        rate: Number(rate),
        kind: source.replace('kc-', ''),
        group,
        hz: Number(hz),
        known: Number(known),
        nominal: Number(nominal),
      };
    });

/** Strings on bodies, each group the plucks of one. */
export function stringsOnBodies(folder: string): SoundGroup[] {
  const groups = new Map<string, SoundGroup>();
  bodyPlucks(folder).forEach(({ raw, rate, kind, group, hz, known, nominal }, k) => {
    const at = groups.get(group) ?? { kind, sounds: [] };
    groups.set(group, at);
    at.sounds.push({
      samples: placed(raw, rate, 1000 + k, -55),
      rate,
      targetHz: nominal,
      cents: known,
      onsetS: PRE_ROLL_S,
      bodyHz: hz,
    });
  });
  return [...groups.values()];
}

/** A rendering is kept between two runs of the benchmark. */
function rendered(program: number, midi: number, velocity: number, cents: number): Float32Array {
  const folder = join(tmpdir(), 'rendered-notes');
  mkdirSync(folder, { recursive: true });
  const file = join(folder, `${program}_${midi}_${velocity}_${cents}.f32`);
  if (!existsSync(file)) writeFileSync(file, Buffer.from(renderSampled(program, midi, velocity, cents).buffer));
  const bytes = readFileSync(file);
  return new Float32Array(bytes.buffer, bytes.byteOffset, bytes.byteLength >> 2);
}

/** Velocities and offsets in cents at which one sampled note is struck. */
const STRUCK: [number, number][] = [
  [70, 0],
  [110, 0],
  [90, -11],
  [60, -4],
  [100, 6],
];
export const sampledNotes = (): SoundGroup[] =>
  sampledInstrumentsInstalled()
    ? SAMPLED.flatMap(({ name, program, midi }) =>
        midi.map((note) => ({
          kind: name,
          sounds: STRUCK.map(([velocity, cents]) => ({
            samples: rendered(program, note, velocity, cents),
            rate: 44100,
            targetHz: 440 * 2 ** ((note - 69) / 12),
            cents,
            onsetS: 0,
          })),
        })),
      )
    : [];

/** The notes of a folder of recordings, each with silence before it. */
export function roomNotes(folder: string): { kind: string; raw: Float32Array; rate: number; hz: number }[] {
  return readdirSync(join(folder, 'notes')).map((file) => {
    const read = readWav(readFileSync(join(folder, 'notes', file)));
    if (!read.ok) throw new Error(read.message);
    const [kind = '', note = ''] = file.replace('.wav', '').split('_');
    return {
      kind,
      raw: Float32Array.from(read.sound.samples),
      rate: read.sound.sampleRate,
      hz: targetFrequencyHz(note, 440)!,
    };
  });
}
export type RoomNote = ReturnType<typeof roomNotes>[number];

/** The samples of a note at another pitch, which may waver: read by cubic interpolation at a rate of 2^(cents / 1200). */
export function bent(raw: Float32Array, rate: number, cents: (s: number) => number): Float32Array {
  const out: number[] = [];
  for (let at = 1; at < raw.length - 2; at += 2 ** (cents(out.length / rate) / 1200)) {
    const i = Math.floor(at);
    const t = at - i;
    const [a, b, c, d] = [raw[i - 1]!, raw[i]!, raw[i + 1]!, raw[i + 2]!];
    out.push(b + 0.5 * t * (c - a + t * (2 * a - 5 * b + 4 * c - d + t * (3 * (b - c) + d - a))));
  }
  return Float32Array.from(out);
}

const group = (
  note: RoomNote,
  cents: number[],
  make: (of: number, k: number) => Float32Array,
  noiseDb = -60,
): SoundGroup => ({
  kind: note.kind,
  sounds: cents.map((c, k) => ({
    samples: placed(make(c, k), note.rate, 7 + k, noiseDb),
    rate: note.rate,
    targetHz: note.hz,
    cents: c,
    onsetS: PRE_ROLL_S,
  })),
});

/** One recording at known other pitches. */
export const resampled = (notes: RoomNote[]): SoundGroup[] =>
  notes.map((n) => group(n, [0, -23.7, 11.3], (c) => bent(n.raw, n.rate, () => c)));

/** The same note in a room that rings for so long (RT60, s): dry, and with a tail of noise that dies so. */
export const inRooms = (notes: RoomNote[], rt60S: number, wet = 0.5): SoundGroup[] =>
  notes.map((n, seed) =>
    group(n, [0, -8.5], (c) => {
      const x = bent(n.raw, n.rate, () => c);
      const r = randomFrom(77 + 10 * seed);
      // A sparse tail: so many echoes a second, at random.
      const echoes = Array.from({ length: 250 }, () => {
        const s = -Math.log(1 - r.uniform() * 0.999) * (rt60S / 6.9);
        return { lag: Math.round((0.004 + s) * n.rate), gain: (r.uniform() < 0.5 ? -1 : 1) * (wet / Math.sqrt(250)) };
      });
      const out = Float32Array.from(x);
      for (const { lag, gain } of echoes) for (let i = lag; i < out.length; i++) out[i]! += 1.4 * gain * x[i - lag]!;
      return out;
    }),
  );

/** With another string of the same instrument that rang before, and rings on so much softer. */
export const withNeighbour = (notes: RoomNote[], db: number): SoundGroup[] =>
  notes.flatMap((n, i) => {
    const own = notes.filter((m) => m.kind === n.kind && m !== n);
    const other = own[i % Math.max(1, own.length)];
    if (!other) return [];
    const tail = other.raw.subarray(Math.round(0.3 * other.rate));
    const gain = 10 ** (db / 20) * (loudest(n.raw) / loudest(tail.subarray(0, other.rate)));
    const lead = Math.round(PRE_ROLL_S * n.rate);
    const made = group(n, [0, -8.5], (c) => {
      const x = bent(n.raw, n.rate, () => c);
      return Float32Array.from({ length: lead + x.length }, (_, k) => (x[k - lead] ?? 0) + gain * (tail[k] ?? 0));
    });
    return { ...made, sounds: made.sounds.map((s) => ({ ...s, onsetS: 2 * PRE_ROLL_S })) };
  });

/** Light vibrato, cents either way, 5.6 a second. */
export const wavering = (notes: RoomNote[], cents: number): SoundGroup[] =>
  notes.map((n) =>
    group(n, [0, -8.5], (c, k) => bent(n.raw, n.rate, (s) => c + cents * Math.sin(2 * Math.PI * 5.6 * s + 2 * k))),
  );

/** The harmonic over half of the string: what is common to the note and itself half a period later. */
export const harmonics = (notes: RoomNote[]): SoundGroup[] =>
  notes.map((n) =>
    group(n, [0, -8.5], (c) => {
      const x = bent(n.raw, n.rate, () => c);
      const lag = n.rate / (2 * n.hz * 2 ** (c / 1200));
      const i = Math.floor(lag);
      const t = lag - i;
      return x.map((v, k) => (k > i ? 0.5 * (v + (1 - t) * x[k - i]! + t * x[k - i - 1]!) : 0));
    }),
  );

/** A note, and the same as a busy machine's microphone gives it: 10 ms left out, or silent, somewhere in the first second. */
export const torn = (notes: RoomNote[], how: 'left out' | 'silent'): SoundGroup[] =>
  notes.map((n, seed) => {
    const random = randomFrom(500 + seed);
    const made = group(n, [0, 0], () => n.raw);
    const tear = (x: Float32Array): Float32Array => {
      const at = Math.round((PRE_ROLL_S + random.between(0.05, 1)) * n.rate);
      const lost = Math.round(0.01 * n.rate);
      if (how === 'silent') return x.slice().fill(0, at, at + lost);
      const out = new Float32Array(x.length - lost);
      out.set(x.subarray(0, at));
      out.set(x.subarray(at + lost), at);
      return out;
    };
    return { ...made, sounds: made.sounds.map((s, k) => (k === 0 ? s : { ...s, samples: tear(s.samples) })) };
  });

/** What must not be read: two strings at once, talk, coughs and knocks, with the pitch that is asked for. */
export function badSounds(folder: string, notes: RoomNote[]): { what: string; sound: BenchSound }[] {
  const asked = notes.filter((_, i) => i % 4 === 0);
  const noises = readdirSync(join(folder, 'noises')).flatMap((file) => {
    const read = readWav(readFileSync(join(folder, 'noises', file)));
    if (!read.ok) throw new Error(read.message);
    const { samples, sampleRate: rate } = read.sound;
    return [0, 1.1, 2.3].flatMap((fromS, k) => {
      const raw = Float32Array.from(samples.subarray(Math.round(fromS * rate), Math.round((fromS + 2.5) * rate)));
      if (raw.length < 0.3 * rate) return [];
      const { hz } = asked[k % asked.length]!;
      const samplesIn = placed(raw, rate, 31 + k, -60);
      return {
        what: file.replace('.wav', ''),
        sound: { samples: samplesIn, rate, targetHz: hz, cents: 0, onsetS: PRE_ROLL_S },
      };
    });
  });
  const pairs = notes.flatMap((n, i) => {
    const own = notes.filter((m) => m.kind === n.kind && m !== n);
    const other = own[(i + 1) % Math.max(1, own.length)];
    if (!other) return [];
    const [one, two] = [1 / loudest(n.raw), 0.8 / loudest(other.raw)];
    const raw = n.raw.map((v, k) => one * v + two * (other.raw[k] ?? 0));
    const samples = placed(raw, n.rate, 41 + i, -60);
    return { what: 'two strings', sound: { samples, rate: n.rate, targetHz: n.hz, cents: 0, onsetS: PRE_ROLL_S } };
  });
  return [...noises, ...pairs];
}
