import { addNoise, plainPluck, pluck, randomFrom } from '../../core/simulate';

/** One note that is played: a plucked string, or a tone; a room's noise so many dB under it. */
export interface Note {
  hz: number;
  tone: boolean;
  noiseDb: number | null;
}

/** A note sounds so long, and so much silence lies between two, s. */
const NOTE_S = 1;
const GAP_S = 0.25;
/** No louder than this, of full scale, and it comes and goes in so long, s: practice does not startle. */
const LEVEL = 0.2;
const RAMP_S = 0.02;
const BLOCK = 512;

/** Notes one after another, as samples. The same for the same seed. */
export function renderNotes(notes: readonly Note[], sampleRate: number, seed: number): Float32Array {
  const each = Math.round(NOTE_S * sampleRate);
  const step = each + Math.round(GAP_S * sampleRate);
  const out = new Float32Array(step * notes.length);
  const ramp = RAMP_S * sampleRate;
  notes.forEach(({ hz, tone, noiseDb }, k) => {
    const random = randomFrom(seed + 17 * k);
    const own = new Float32Array(each);
    if (tone) for (let i = 0; i < each; i++) own[i] = LEVEL * Math.sin((2 * Math.PI * hz * i) / sampleRate);
    else {
      const voice = pluck(
        plainPluck(hz, { level: LEVEL, inharmonicity: 0, secondCents: 0, glideCents: 0 }),
        sampleRate,
        random,
      );
      for (let i = 0; i < each; i += BLOCK) voice.render(own, i, Math.min(each, i + BLOCK), 1);
    }
    if (noiseDb !== null) addNoise(own, 0.25 * LEVEL * 10 ** (-(noiseDb - 12) / 20), random);
    for (let i = 0; i < each; i++) out[k * step + i] = own[i]! * Math.min(1, i / ramp, (each - i) / ramp);
  });
  return out;
}

/** Plays notes one after another; silent where the browser has no sound. */
export function playNotes(notes: readonly Note[], seed: number): void {
  if (typeof AudioContext === 'undefined') return;
  const context = new AudioContext();
  const samples = renderNotes(notes, context.sampleRate, seed);
  const buffer = context.createBuffer(1, samples.length, context.sampleRate);
  buffer.getChannelData(0).set(samples);
  const node = context.createBufferSource();
  node.buffer = buffer;
  node.connect(context.destination);
  node.onended = () => void context.close();
  node.start();
}
