import { addNoise, pluck, pluckOf, randomFrom, trueCents, type StringTruth, type Voice } from '../../core/simulate';
import { streamSamples, type SoundSource } from './sources';

/** The simulated instrument's sound: plucked strings ring on while their tuners are turned. */
export interface SimulatedSound {
  source: SoundSource;
  pluck(string: StringTruth, hardness: number): void;
}

const SAMPLE_RATE = 24000;

export function openSimulated(nowMs: () => number): SimulatedSound {
  const random = randomFrom(Math.floor(performance.now()) + 1);
  let ringing: { string: StringTruth; voice: Voice }[] = [];
  let plucks = 0;
  const source = streamSamples(SAMPLE_RATE, (frames) => {
    const out = new Float32Array(frames);
    const atMs = nowMs();
    for (const { string, voice } of ringing) {
      voice.render(out, 0, frames, Math.pow(2, trueCents(string, atMs) / 1200));
    }
    ringing = ringing.filter(({ voice }) => voice.loudness() > 0.002);
    addNoise(out, 0.0004, random);
    return out;
  });
  return {
    source,
    pluck(string, hardness) {
      // The hand damps what rang before it plucks.
      for (const r of ringing) r.voice.damp();
      ringing.push({ string, voice: pluck(pluckOf(string, hardness, ++plucks), SAMPLE_RATE, random) });
    },
  };
}
