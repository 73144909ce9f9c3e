import { realClock } from '../world/clock';
import { clamp } from '../../core/base';

/** A steady tone out of the loudspeaker until it is stopped. */
export interface Drone {
  level(level: number): void;
  stop(): void;
}

/** Levels of the partials of a tone: enough overtones to be heard beside a string. */
const OVERTONES = [1, 0.5, 0.33, 0.22, 0.15, 0.1];
const FADE_S = 0.05;
/** Small loudspeakers give little below this, Hz (house estimate). */
const SMALL_SPEAKER_HZ = 90;

/** How many octaves up a tone is heard well from a small loudspeaker: none, one or two. */
export const octavesUp = (frequencyHz: number): number =>
  clamp(Math.ceil(Math.log2(SMALL_SPEAKER_HZ / frequencyHz)), 0, 2);

/** Sounds a tone at a level from 0 to 1. */
export function openDrone(frequencyHz: number, level: number): Drone {
  const context = new AudioContext();
  const gain = context.createGain();
  const loudness = (l: number) => gain.gain.setTargetAtTime(0.3 * l, context.currentTime, FADE_S);
  gain.gain.setValueAtTime(0, context.currentTime);
  loudness(level);
  gain.connect(context.destination);
  for (const [i, share] of OVERTONES.entries()) {
    const tone = context.createOscillator();
    const part = context.createGain();
    tone.frequency.value = frequencyHz * (i + 1);
    part.gain.value = share;
    tone.connect(part).connect(gain);
    tone.start();
  }
  return {
    level: loudness,
    stop: () => {
      loudness(0);
      realClock.after(6000 * FADE_S, () => void context.close());
    },
  };
}
