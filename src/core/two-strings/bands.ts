import FFT from 'fft.js';
import { powerOfTwo } from '../pitch';

/** A stretch of a narrow band, shifted to zero: complex samples. */
export interface NarrowBand {
  centreHz: number;
  rate: number;
  /** Time of the first sample, s. */
  fromS: number;
  re: Float64Array;
  im: Float64Array;
}

/** Takes narrow bands out of a whole recording by its spectrum. */
export interface Bands {
  /** @param halfHz half its width; a raised cosine leads to nothing at its edge */
  band(centreHz: number, halfHz: number, fromS: number, toS: number): NarrowBand;
}

/** One transform of everything, and an inverse one a band. */
export function bandsOf(x: Float64Array, rate: number): Bands {
  const size = powerOfTwo(x.length + Math.round(0.25 * rate));
  const fft = new FFT(size);
  const padded = new Float64Array(size);
  padded.set(x);
  const spectrum = new Float64Array(2 * size);
  fft.realTransform(spectrum, padded);
  const perBin = rate / size;
  return {
    band(centreHz, halfHz, fromS, toS) {
      const reach = Math.max(2, Math.ceil(halfHz / perBin));
      const centre = Math.round(centreHz / perBin);
      const points = powerOfTwo(2 * reach + 2);
      const small = new FFT(points);
      const taken = new Float64Array(2 * points);
      for (let k = -reach; k <= reach; k++) {
        const bin = centre + k;
        if (bin <= 0 || bin >= size / 2) continue;
        // Flat in the middle half, then down to nothing.
        const off = Math.abs(k) / reach;
        const taper = off < 0.5 ? 1 : 0.5 + 0.5 * Math.cos(2 * Math.PI * (off - 0.5));
        const at = 2 * ((k + points) % points);
        taken[at] = spectrum[2 * bin]! * taper;
        taken[at + 1] = spectrum[2 * bin + 1]! * taper;
      }
      const time = new Float64Array(2 * points);
      small.inverseTransform(time, taken);
      const step = size / points / rate;
      const first = Math.max(0, Math.ceil(fromS / step));
      const last = Math.min(points - 1, Math.floor(toS / step));
      const n = Math.max(0, last - first + 1);
      const re = new Float64Array(n);
      const im = new Float64Array(n);
      const scale = (2 * points) / size;
      for (let i = 0; i < n; i++) {
        re[i] = scale * time[2 * (first + i)]!;
        im[i] = scale * time[2 * (first + i) + 1]!;
      }
      return { centreHz: centre * perBin, rate: 1 / step, fromS: first * step, re, im };
    },
  };
}
