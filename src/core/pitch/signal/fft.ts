import FFT from 'fft.js';

interface Plan {
  size: number;
  fft: FFT;
  input: Float64Array;
  output: Float64Array;
}

const plans = new Map<number, Plan>();

function plan(size: number): Plan {
  let p = plans.get(size);
  if (!p) {
    p = { size, fft: new FFT(size), input: new Float64Array(size), output: new Float64Array(2 * size) };
    plans.set(size, p);
  }
  return p;
}

/** Smallest power of two that is not below n. */
export function powerOfTwo(n: number): number {
  return 2 ** Math.ceil(Math.log2(Math.max(2, n)));
}

const hanns = new Map<number, Float64Array>();

/** Hann window of n points (symmetric about its middle), one table a length. */
function hann(n: number): Float64Array {
  let w = hanns.get(n);
  if (!w) {
    if (hanns.size > 64) hanns.clear();
    w = new Float64Array(n);
    for (let i = 0; i < n; i++) w[i] = 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / n);
    hanns.set(n, w);
  }
  return w;
}

/**
 * Amplitude spectrum of samples[from, to) under a Hann window, zero-padded to `size` (a power of two).
 * Scaled so that a steady sine of amplitude A shows a peak of A.
 * @param out Float64Array of size/2 that receives the amplitudes; bin k is k fs / size Hz
 */
export function amplitudeSpectrum(
  samples: Float64Array,
  from: number,
  to: number,
  size: number,
  out: Float64Array,
): Float64Array {
  const p = plan(size);
  const n = to - from;
  const w = hann(n);
  let mean = 0;
  for (let i = 0; i < n; i++) mean += samples[from + i]!;
  mean /= n;
  for (let i = 0; i < n; i++) p.input[i] = (samples[from + i]! - mean) * w[i]!;
  p.input.fill(0, n);
  p.fft.realTransform(p.output, p.input);
  const scale = 4 / n;
  for (let k = 0; k < size / 2; k++) {
    const re = p.output[2 * k]!;
    const im = p.output[2 * k + 1]!;
    out[k] = scale * Math.sqrt(re * re + im * im);
  }
  return out;
}
