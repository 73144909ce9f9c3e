import { existsSync, readFileSync } from 'node:fs';
import { targetFrequencyHz } from '../../src/core/music';
import { measure } from '../../src/core/pitch';
import { readWav } from '../../src/core/exchange';
import type { Random } from '../../src/core/simulate';
import type { KitNote } from './hand';

export const ROOM_RATE = 48000;
export type Kit = { name: string; notes: KitNote[]; damps: boolean };

const UNDAMPED = new Set(['harp', 'koto']);

/** The kits of a folder that the rooms' script has made; the reading of a clean note is its zero. */
export function loadKits(folder: string, names: string[]): Kit[] {
  const list = `${folder}/rooms.json`;
  if (!existsSync(list)) throw new Error(`${folder} holds no rooms.json: make it with the rooms' script first.`);
  const { notes } = JSON.parse(readFileSync(list, 'utf8')) as { notes: { file: string; kit: string; note: string }[] };
  return names.map((name) => ({
    name,
    damps: !UNDAMPED.has(name),
    notes: notes
      .filter((n) => n.kit === name)
      .map(({ file, note }): KitNote => {
        const { samples } = kitSound(`${folder}/${file}`);
        const targetHz = targetFrequencyHz(note, 440)!;
        const clean = measure(samples, ROOM_RATE, { targetHz });
        if (!clean.ok) process.stderr.write(`${file}: the clean note is refused (${clean.reason})\n`);
        let peak = 0;
        for (const v of samples) peak = Math.max(peak, Math.abs(v));
        return { name: note, targetHz, samples, zeroCents: clean.ok ? clean.cents : 0, peak };
      }),
  }));
}

export function kitSound(file: string): { samples: Float64Array } {
  const wav = readWav(readFileSync(file));
  if (!wav.ok) throw new Error(`${file}: ${wav.message}`);
  return wav.sound;
}

/** Pink noise of rms 1: white noise through six first-order filters (Kellet's economy filter, within 0.5 dB). */
export function pinkNoise(count: number, random: Random): Float64Array {
  const poles = [0.99886, 0.99332, 0.969, 0.8665, 0.55, -0.7616];
  const gains = [0.0555179, 0.0750759, 0.153852, 0.3104856, 0.5329522, -0.016898];
  const state = poles.map(() => 0);
  let last = 0;
  const out = new Float64Array(count);
  let power = 0;
  for (let i = 0; i < count; i++) {
    const white = random.normal();
    let sum = last + 0.5362 * white;
    poles.forEach((p, k) => (sum += state[k] = p * state[k]! + gains[k]! * white));
    last = 0.115926 * white;
    out[i] = sum;
    power += sum * sum;
  }
  const scale = 1 / Math.sqrt(power / count);
  return out.map((v) => v * scale);
}
