/** Modified Bessel function of the first kind, order 0, by its power series (Abramowitz & Stegun 9.6.12). */
function besselI0(x: number): number {
  let term = 1;
  let sum = 1;
  for (let k = 1; k < 40 && term > 1e-12 * sum; k++) {
    term *= (x / (2 * k)) ** 2;
    sum += term;
  }
  return sum;
}

const filters = new Map<number, Float64Array>();

/** Low-pass for decimation by `factor`: Kaiser-windowed sinc, beta 8 (about -80 dB), passband to 0.4 of the new rate. */
function lowPass(factor: number): Float64Array {
  let h = filters.get(factor);
  if (!h) {
    const half = 13 * factor;
    h = new Float64Array(2 * half + 1);
    let sum = 0;
    for (let i = -half; i <= half; i++) {
      const x = i / factor;
      const sinc = i === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x);
      const kaiser = besselI0(8 * Math.sqrt(1 - (i / half) ** 2)) / besselI0(8);
      sum += h[i + half] = sinc * kaiser;
    }
    for (let i = 0; i < h.length; i++) h[i]! /= sum;
    filters.set(factor, h);
  }
  return h;
}

/**
 * Lowers the sample rate by a whole factor without aliasing into the lower 0.8 of the new band (linear phase, no delay).
 * @returns samples at rate / factor; sample i of the result stands at sample i * factor of the input
 */
export function decimate(samples: Float64Array, factor: number): Float64Array {
  if (factor <= 1) return samples;
  const h = lowPass(factor);
  const half = (h.length - 1) / 2;
  const out = new Float64Array(Math.floor((samples.length - 1) / factor) + 1);
  for (let i = 0; i < out.length; i++) {
    const c = i * factor;
    const within = Math.min(half, c, samples.length - 1 - c);
    let sum = samples[c]! * h[half]!;
    for (let j = 1; j <= within; j++) sum += (samples[c - j]! + samples[c + j]!) * h[half + j]!;
    // At either end only one side has samples.
    for (let j = within + 1; j <= Math.min(half, c); j++) sum += samples[c - j]! * h[half + j]!;
    for (let j = within + 1; j <= Math.min(half, samples.length - 1 - c); j++) sum += samples[c + j]! * h[half + j]!;
    out[i] = sum;
  }
  return out;
}
