/** Two general-purpose detectors from npm in their customary use: windows of 4096 over the first second, then the median. */
import { PitchDetector } from 'pitchy';
import { YIN } from 'pitchfinder';
import { median } from 'simple-statistics';

const WINDOW = 4096;
const HOP = 2048;

export interface Detector {
  name: string;
  /** Pitch in Hz, or undefined where it finds none. */
  read: (samples: Float32Array, sampleRate: number, onsetS: number) => number | undefined;
}

function overWindows(
  samples: Float32Array,
  sampleRate: number,
  onsetS: number,
  pitch: (window: Float32Array) => number | null,
): number | undefined {
  const found: number[] = [];
  const from = Math.round((onsetS + 0.05) * sampleRate);
  const to = Math.min(samples.length, from + sampleRate);
  for (let at = from; at + WINDOW <= to; at += HOP) {
    const hz = pitch(samples.subarray(at, at + WINDOW));
    if (hz !== null && hz > 0 && Number.isFinite(hz)) found.push(hz);
  }
  return found.length === 0 ? undefined : median(found);
}

export const DETECTORS: Detector[] = [
  {
    name: 'pitchfinder YIN',
    read: (samples, sampleRate, onsetS) => {
      const yin = YIN({ sampleRate });
      return overWindows(samples, sampleRate, onsetS, (w) => yin(w));
    },
  },
  {
    name: 'pitchy (McLeod)',
    read: (samples, sampleRate, onsetS) => {
      const mcleod = PitchDetector.forFloat32Array(WINDOW);
      return overWindows(samples, sampleRate, onsetS, (w) => {
        const [hz, clarity] = mcleod.findPitch(w, sampleRate);
        return clarity > 0.9 ? hz : null;
      });
    },
  },
];
