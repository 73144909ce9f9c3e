/** Tones of sampled keyboards and wind: rendered by Debian's fluidsynth from a General MIDI bank, with their first partial measured here. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readWav } from '../../src/core/exchange';

export const TONE_RATE = 48000;
/** General MIDI programmes, by what a player would say they are. */
export const PROGRAMMES = {
  keyboard: [0, 1, 2, 3, 4, 5, 6, 7, 8, 11, 12, 15],
  wind: [19, 20, 21, 22, 65, 68, 71, 73, 75, 79],
};
export type Programme = keyof typeof PROGRAMMES;
const LEAD_S = 0.5;
const GAP_S = 3.5;

export interface BenchTone {
  programme: number;
  midi: number;
  nominalHz: number;
  /** Of its first partial while it sounds, Hz; undefined where it has none that stands out. */
  hz: number | undefined;
  /** From 0.5 s before it sounds until it has died. */
  samples: Float32Array;
}

const length = (n: number): number[] => {
  const bytes = [n & 127];
  for (let left = n >> 7; left > 0; left >>= 7) bytes.unshift((left & 127) | 128);
  return bytes;
};

/** A standard MIDI file of one programme: notes one after another. 1000 ticks are a second. */
function midiFile(programme: number, notes: readonly number[], holdS: number): Buffer {
  const ticks = (s: number) => Math.round(1000 * s);
  const track = [0, 0xff, 0x51, 3, 0x0f, 0x42, 0x40, 0, 0xc0, programme];
  notes.forEach((n, i) => {
    track.push(...length(ticks(i === 0 ? LEAD_S : GAP_S)), 0x90, n, 84, ...length(ticks(holdS)), 0x80, n, 0);
  });
  track.push(...length(ticks(GAP_S)), 0xff, 0x2f, 0);
  const head = Buffer.from([0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 0, 0, 1, 0x03, 0xe8]);
  const size = Buffer.alloc(4);
  size.writeUInt32BE(track.length);
  return Buffer.concat([head, Buffer.from('MTrk'), size, Buffer.from(track)]);
}

/** The first partial's frequency, by the phase of a narrow band weighed by its power: nothing of the product. */
export function firstPartial(samples: Float32Array, aroundHz: number, fromS: number, toS: number): number | undefined {
  let centre = aroundHz;
  let last = Infinity;
  for (const halfHz of [0.03 * aroundHz, 0.012 * aroundHz, Math.min(6, 0.008 * aroundHz)]) {
    const width = Math.round(TONE_RATE / (2 * halfHz));
    const hop = Math.max(1, Math.round(width / 8));
    const phases: { t: number; phase: number; power: number }[] = [];
    for (let at = Math.round(fromS * TONE_RATE); at + width < toS * TONE_RATE; at += hop) {
      let re = 0;
      let im = 0;
      for (let i = 0; i < width; i++) {
        const w = 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / width);
        const turn = (2 * Math.PI * centre * (at + i)) / TONE_RATE;
        re += w * samples[at + i]! * Math.cos(turn);
        im -= w * samples[at + i]! * Math.sin(turn);
      }
      const before = phases.at(-1)?.phase ?? 0;
      const raw = Math.atan2(im, re);
      phases.push({
        t: at / TONE_RATE,
        phase: raw + 2 * Math.PI * Math.round((before - raw) / (2 * Math.PI)),
        power: re * re + im * im,
      });
    }
    if (phases.length < 4) return undefined;
    const sum = phases.reduce((s, p) => s + p.power, 0);
    const t0 = phases.reduce((s, p) => s + p.power * p.t, 0) / sum;
    const p0 = phases.reduce((s, p) => s + p.power * p.phase, 0) / sum;
    const slope =
      phases.reduce((s, p) => s + p.power * (p.t - t0) * (p.phase - p0), 0) /
      phases.reduce((s, p) => s + p.power * (p.t - t0) ** 2, 0);
    last = slope / (2 * Math.PI);
    centre += last;
  }
  return Math.abs(last) < 3 && Math.abs(1200 * Math.log2(centre / aroundHz)) < 60 ? centre : undefined;
}

/** The same by the highest point of a finely padded spectrum (Blackman window). */
export function peakOf(samples: Float32Array, aroundHz: number, fromS: number, toS: number): number | undefined {
  const [from, to] = [Math.round(fromS * TONE_RATE), Math.min(samples.length, Math.round(toS * TONE_RATE))];
  const n = to - from;
  const power = (hz: number) => {
    let [re, im] = [0, 0];
    for (let i = 0; i < n; i += 4) {
      const w = 0.42 - 0.5 * Math.cos((2 * Math.PI * i) / n) + 0.08 * Math.cos((4 * Math.PI * i) / n);
      re += w * samples[from + i]! * Math.cos((2 * Math.PI * hz * i) / TONE_RATE);
      im += w * samples[from + i]! * Math.sin((2 * Math.PI * hz * i) / TONE_RATE);
    }
    return re * re + im * im;
  };
  let best = aroundHz;
  for (let reach = 0.035 * aroundHz, step = 0.25 * (TONE_RATE / n); step > 1e-4; reach = 2 * step, step /= 4) {
    const around = best;
    let most = -1;
    for (let hz = around - reach; hz <= around + reach; hz += step) {
      const p = power(hz);
      if (p > most) [best, most] = [hz, p];
    }
  }
  return best;
}

/** Where the two agree within a cent: a tone that beats with itself has no one pitch. */
function agreed(samples: Float32Array, aroundHz: number, fromS: number, toS: number): number | undefined {
  const [a, b] = [firstPartial(samples, aroundHz, fromS, toS), peakOf(samples, aroundHz, fromS, toS)];
  return a && b && Math.abs(1200 * Math.log2(a / b)) < 1 ? (a + b) / 2 : undefined;
}

/** Renders notes of a programme. @param sharpCents exact: it is rendered at another rate and relabelled */
export function renderTones(
  bank: string,
  programme: number,
  midis: readonly number[],
  holdS: number,
  sharpCents: number,
): BenchTone[] {
  const dir = mkdtempSync(join(tmpdir(), 'tones-'));
  try {
    const [mid, wav] = [join(dir, 'a.mid'), join(dir, 'a.wav')];
    writeFileSync(mid, midiFile(programme, midis, holdS));
    const rate = Math.round(TONE_RATE / 2 ** (sharpCents / 1200));
    execFileSync(
      'fluidsynth',
      ['-ni', '-q', '-R', '0', '-C', '0', '-g', '0.6', '-r', String(rate), '-F', wav, bank, mid],
      {
        stdio: 'ignore',
      },
    );
    const read = readWav(readFileSync(wav));
    if (!read.ok) throw new Error(read.message);
    const seconds = (s: number) => Math.round(s * rate);
    return midis.map((midi, i) => {
      const fromS = i * (holdS + GAP_S);
      const samples = Float32Array.from(
        read.sound.samples.subarray(seconds(fromS), seconds(fromS + LEAD_S + holdS + 1)),
      );
      const nominalHz = 440 * 2 ** ((midi - 69) / 12);
      const expected = (nominalHz * TONE_RATE) / rate;
      return {
        programme,
        midi,
        nominalHz,
        samples,
        hz: agreed(samples, expected, LEAD_S + 0.2, LEAD_S + Math.min(holdS, 2)),
      };
    });
  } finally {
    rmSync(dir, { recursive: true, force: true });
  }
}
