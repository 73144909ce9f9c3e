import { addNoise, plainPluck, pluck, randomFrom } from '../../core/simulate';

/** One note that is played: a plucked string, or a tone; a room's noise so many dB under it. */
export interface PlayedNote {
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
/** A string has little above 11 kHz, and what is made is made at once: a quarter of the work, Hz. */
const RATE = 22050;
const BLOCK = 512;

/** One after another, or all at once; how long each lasts, s. */
interface Playing {
  together: boolean;
  lastsS: number;
}
const IN_TURN: Playing = { together: false, lastsS: NOTE_S };

/** Notes as samples. The same for the same seed. */
function renderNotes(
  notes: readonly PlayedNote[],
  sampleRate: number,
  seed: number,
  { together, lastsS }: Playing = IN_TURN,
): Float32Array {
  const each = Math.round(lastsS * sampleRate);
  const step = together ? 0 : each + Math.round(GAP_S * sampleRate);
  const out = new Float32Array(step * (notes.length - 1) + each);
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
    for (let i = 0; i < each; i++) out[k * step + i]! += own[i]! * Math.min(1, i / ramp, (each - i) / ramp);
  });
  return out;
}

let sounding: AudioContext | undefined;
/** Plays notes; what still sounds stops. Silent where the browser has no sound. */
export function playNotes(notes: readonly PlayedNote[], seed: number, playing: Playing = IN_TURN): void {
  if (typeof AudioContext === 'undefined') return;
  if (sounding && sounding.state !== 'closed') void sounding.close();
  const context = (sounding = new AudioContext());
  const samples = renderNotes(notes, RATE, seed, playing);
  const buffer = context.createBuffer(1, samples.length, RATE);
  buffer.getChannelData(0).set(samples);
  const node = context.createBufferSource();
  node.buffer = buffer;
  node.connect(context.destination);
  node.onended = () => {
    if (context.state !== 'closed') void context.close();
  };
  node.start();
}
