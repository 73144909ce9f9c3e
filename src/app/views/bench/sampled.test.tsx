import { screen, within } from '@testing-library/react';
import { readFileSync } from 'node:fs';
import { readWav } from '../../../core/exchange';
import { cents as centsOf, targetFrequencyHz } from '../../../core/music';
import { measure } from '../../../core/pitch';
import { addNoise, randomFrom } from '../../../core/simulate';
import { figure } from '../../../../testing/hand';
import { addInstrument, openApp, playFile } from '../../../../testing/player';

const RATE = 16000;
const NOTES = ['E4', 'B3', 'G3', 'D3', 'A2', 'E2'];
/** Where each string is made to stand, cents: none needs tuning. */
const STANDS = [-1.6, 0.9, -0.4, 1.7, -1.1, 0.5];
/** What was read of each may differ from that by so much, cents. */
const NEAR = 0.8;
const SECONDS = 40;

function sound(name: string): Float64Array {
  const wav = readWav(new Uint8Array(readFileSync(`testing/sounds/${name}.wav`)));
  if (!wav.ok) throw new Error(wav.message);
  return Float64Array.from(wav.sound.samples);
}

/** A sampled note played at another rate, by cubic interpolation, so that it stands at so many cents. */
function at(note: string, cents: number): Float64Array {
  const raw = sound(`steel-${note}`);
  const read = measure(raw, RATE, { targetHz: targetFrequencyHz(note, 440)! });
  if (!read.ok) throw new Error(`${note}: ${read.message}`);
  const step = Math.pow(2, (cents - centsOf(read.frequencyHz, targetFrequencyHz(note, 440)!)) / 1200);
  return Float64Array.from({ length: Math.floor((raw.length - 3) / step) }, (_, i) => {
    const k = Math.floor(i * step);
    const t = i * step - k;
    const [a, b, c, d] = [raw[k - 1] ?? 0, raw[k]!, raw[k + 1]!, raw[k + 2]!];
    return b + 0.5 * t * (c - a + t * (2 * a - 5 * b + 4 * c - d + t * (3 * (b - c) + d - a)));
  });
}

/** A whole pass as a microphone hears it: six strings, a cough, a wrong string, a string plucked twice. */
function session(): Float32Array {
  const out = new Float32Array(SECONDS * RATE);
  let rings: { from: number; samples: Float64Array } | undefined;
  const play = (seconds: number, samples: Float64Array, damps = true) => {
    const from = Math.round(seconds * RATE);
    // A new pluck damps the string before it within 60 ms.
    if (damps && rings) for (let i = 0; i < out.length - from; i++) out[from + i]! *= Math.exp(-i / (0.02 * RATE));
    samples.forEach((v, i) => from + i < out.length && (out[from + i]! += v));
    rings = { from, samples };
  };
  const plucked = NOTES.map((note, i) => at(note, STANDS[i]!));
  let t = 3;
  NOTES.forEach((note, i) => {
    if (note === 'B3') {
      play(t, plucked[i]!);
      t += 0.5;
    }
    if (note === 'G3') {
      play(t, sound('cough'), false);
      play(t + 1.2, plucked[4]!);
      t += 4.2;
    }
    play(t, plucked[i]!);
    t += 3.4;
  });
  addNoise(out, 0.0006, randomFrom(5));
  return out;
}

test('a check pass of six sampled strings that need no tuning, hands free: six strings, a cough, a wrong string, one plucked twice', async () => {
  const player = await openApp('/add');
  await addInstrument(player, 'Six-string guitar, steel', 'long ago');
  await player.press('Enter');
  await playFile(player, session(), RATE);
  const panel = () => within(screen.getByRole('complementary', { name: 'What to do now' }));
  await player.until(() => panel().queryByText('Check done') !== null, 25_000, 'the pass is done');
  await player.go('/log');
  const kept = screen
    .getAllByRole('listitem')
    .flatMap((i) => (/as found/.test(i.textContent!) ? [i.textContent!] : []));
  expect(kept).toHaveLength(6);
  NOTES.forEach((note, i) => {
    const line = kept.find((k) => k.includes(`, ${note}: `))!;
    const read = figure(/as found (\S+)/.exec(line)![1]!);
    expect(`${note} ${Math.abs(read - STANDS[i]!) < NEAR}`).toBe(`${note} true`);
  });
});
