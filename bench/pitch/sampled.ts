/** Real sampled instruments, rendered by Debian's fluidsynth where it is installed. */
import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readWav } from '../../src/core/exchange';

const SOUNDFONT = '/usr/share/sounds/sf2/FluidR3_GM.sf2';
export const sampledInstrumentsInstalled = (): boolean => existsSync('/usr/bin/fluidsynth') && existsSync(SOUNDFONT);

/** General MIDI programs of single strings and a few of their notes (its pizzicato is a section of several players). */
export const SAMPLED: { name: string; program: number; midi: number[] }[] = [
  { name: 'nylon guitar', program: 24, midi: [40, 45, 50, 55, 59, 64] },
  { name: 'steel guitar', program: 25, midi: [40, 45, 50, 55, 59, 64] },
  { name: 'electric guitar', program: 27, midi: [40, 45, 50, 55, 59, 64] },
  { name: 'acoustic bass', program: 32, midi: [28, 33, 38, 43] },
  { name: 'electric bass', program: 33, midi: [28, 33, 38, 43] },
  { name: 'harp', program: 46, midi: [48, 55, 62, 69, 76] },
  { name: 'banjo', program: 105, midi: [50, 55, 59, 62] },
];

/** A standard MIDI file with one note of two seconds. */
function midiFile(program: number, note: number, velocity: number): Buffer {
  const track = Buffer.from([
    ...[0, 0xc0, program],
    ...[0x60, 0x90, note, velocity],
    ...[0x83, 0x60, 0x80, note, 0],
    ...[0x60, 0xff, 0x2f, 0],
  ]);
  const head = Buffer.from('4d546864000000060000000100784d54726b', 'hex');
  const length = Buffer.alloc(4);
  length.writeUInt32BE(track.length);
  return Buffer.concat([head, length, track]);
}

/**
 * Renders a note. Its pitch is moved by rendering at a shifted sample rate and relabelling: fluidsynth itself truncates
 * tunings to whole cents. Returns samples that count as 44100 a second and stand `cents` above the sample's own pitch.
 */
export function renderSampled(program: number, note: number, velocity: number, cents: number): Float32Array {
  const folder = mkdtempSync(join(tmpdir(), 'sampled-'));
  try {
    const midi = join(folder, 'a.mid');
    const wav = join(folder, 'a.wav');
    writeFileSync(midi, midiFile(program, note, velocity));
    const rate = 44100 * Math.pow(2, -cents / 1200);
    const settings = ['-R', '0', '-C', '0', '-g', '0.6', '-r', rate.toFixed(4), '-O', 'float'];
    const { status, stderr } = spawnSync('fluidsynth', ['-ni', '-q', ...settings, '-F', wav, SOUNDFONT, midi]);
    if (status !== 0) throw new Error(`fluidsynth failed: ${stderr.toString()}`);
    const read = readWav(readFileSync(wav));
    if (!read.ok) throw new Error(read.message);
    return Float32Array.from(read.sound.samples);
  } finally {
    rmSync(folder, { recursive: true });
  }
}
