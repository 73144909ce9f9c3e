import { addNoise, pluck, pluckOf, randomFrom, trueCents, type StringTruth, type Voice } from '../../core/simulate';
import { openSpeaker } from './speaker';
import type { SoundSource } from './messages';
import { streamSamples, type StreamMeans } from './sources';

/** The simulated instrument's sound: plucked strings ring on while their tuners are turned. */
export interface SimulatedSound {
  source: SoundSource;
  /** `stand` tells the string's truth at every moment: its tuner may be turned while it rings. `beside`: what rings is left ringing. */
  pluck(stand: () => StringTruth, hardness: number, beside?: boolean): void;
}

const SAMPLE_RATE = 24000;
/** A finger lies on the string this long before it lets go, s. */
const FINGER_S = 0.1;
/** A second string is plucked so much after the first, s. */
const BESIDE_S = 0.35;

/** @param nowMs the world's time, at which strings stand where they stand. @param seed the same gives the same voice */
export function openSimulated(means: StreamMeans, nowMs: () => number, seed: number): SimulatedSound {
  const random = randomFrom(seed);
  let ringing: { stand: () => StringTruth; voice: Voice; startsIn: number }[] = [];
  let plucks = 0;
  const speaker = openSpeaker(SAMPLE_RATE, means.clock.pace);
  const source = streamSamples(means, SAMPLE_RATE, (frames) => {
    const out = new Float32Array(frames);
    const atMs = nowMs();
    for (const r of ringing) {
      const { stand, voice } = r;
      if (stand().brokenMs !== undefined) voice.damp();
      const from = Math.min(frames, r.startsIn);
      r.startsIn -= from;
      voice.render(out, from, frames, Math.pow(2, trueCents(stand(), atMs) / 1200));
    }
    ringing = ringing.filter(({ voice }) => voice.loudness() > 0.002);
    speaker.play(out);
    addNoise(out, 0.0004, random);
    return out;
  });
  const stop = () => {
    source.stop();
    speaker.close();
  };
  return {
    source: { ...source, stop },
    pluck(stand, hardness, beside = false) {
      // The hand damps what rang before it plucks.
      if (!beside) for (const r of ringing) r.voice.damp();
      if (stand().brokenMs !== undefined) return;
      ringing.push({
        stand,
        voice: pluck(pluckOf(stand(), hardness, ++plucks), SAMPLE_RATE, random),
        startsIn: Math.round((beside ? BESIDE_S : FINGER_S) * SAMPLE_RATE),
      });
    },
  };
}
