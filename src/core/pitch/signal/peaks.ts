import { quickselect } from 'simple-statistics';
/** Tonal peaks of an amplitude spectrum, strongest information first kept in plain arrays. */
export interface Peaks {
  frequencyHz: number[];
  amplitude: number[];
  /** Noise around the peak: standard deviation of its real and of its imaginary part. */
  floor: number[];
}

/**
 * Local noise of a spectrum, standard deviation of real or imaginary part: from a low quantile over a neighbourhood of bins,
 * on a coarse grid, interpolated by step.
 * @param binsPerCell width of a grid cell in bins
 */
function noiseFloor(spectrum: Float64Array, bins: number, binsPerCell: number): Float64Array {
  const cells = Math.max(1, Math.ceil(bins / binsPerCell));
  const floor = new Float64Array(cells);
  for (let c = 0; c < cells; c++) {
    const a = Math.max(0, Math.floor((c - 0.5) * binsPerCell));
    const b = Math.min(bins, Math.ceil((c + 1.5) * binsPerCell));
    const part = spectrum.slice(a, b);
    const at = Math.floor(part.length * 0.3);
    quickselect(part as unknown as number[], at, 0, part.length - 1);
    // Rayleigh-distributed amplitudes: three tenths lie below 0.845 standard deviations.
    floor[c] = part[at]! / 0.845;
  }
  return floor;
}

/**
 * Finds spectral peaks: local maxima that stand above the noise and within a range of the strongest.
 * Frequencies by a parabola through the logarithms of three bins (exact for a Gaussian lobe, close for a padded Hann).
 * @param lobeBins half-width in bins of the window's main lobe; a maximum must be the largest in half of it
 * @param hzPerBin width of a bin, Hz
 * @param aboveFloor how many times the local noise a peak must be
 */
export function findPeaks(
  spectrum: Float64Array,
  bins: number,
  hzPerBin: number,
  lobeBins: number,
  minHz: number,
  rangeDb: number,
  aboveFloor: number,
): Peaks {
  const cellBins = Math.max(32, Math.round(lobeBins * 16));
  const floor = noiseFloor(spectrum, bins, cellBins);
  let top = 0;
  const first = Math.max(2, Math.ceil(minHz / hzPerBin));
  for (let k = first; k < bins; k++) top = Math.max(top, spectrum[k]!);
  const least = top * 10 ** (-rangeDb / 20);
  const reach = Math.max(1, Math.round(lobeBins / 2));
  const peaks: Peaks = { frequencyHz: [], amplitude: [], floor: [] };
  for (let k = first; k < bins - 2; k++) {
    const a = spectrum[k]!;
    if (a < least || a <= spectrum[k - 1]! || a < spectrum[k + 1]!) continue;
    const local = floor[Math.floor(k / cellBins)]!;
    if (a < aboveFloor * local) continue;
    let largest = true;
    for (let j = Math.max(0, k - reach); j <= Math.min(bins - 1, k + reach); j++) {
      if (spectrum[j]! > a) largest = false;
    }
    if (!largest) continue;
    const l = Math.log(spectrum[k - 1]! + 1e-300);
    const m = Math.log(a);
    const r = Math.log(spectrum[k + 1]! + 1e-300);
    const d = l - 2 * m + r;
    const shift = d < 0 ? (0.5 * (l - r)) / d : 0;
    peaks.frequencyHz.push((k + shift) * hzPerBin);
    peaks.amplitude.push(Math.exp(m - 0.25 * (l - r) * shift));
    peaks.floor.push(local);
  }
  return peaks;
}
