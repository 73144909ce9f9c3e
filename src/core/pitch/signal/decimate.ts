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

const filters = new Map<string, Float64Array>();

/**
 * Low-pass for decimation by `factor`: Kaiser-windowed sinc, beta 8 (about -80 dB), cut at half of the new rate.
 * @param lobes half its length in new samples: 13 pass up to 0.4 of the new rate, 5 up to 0.2
 */
function lowPass(factor: number, lobes: number): Float64Array {
  const key = `${factor} ${lobes}`;
  let h = filters.get(key);
  if (!h) {
    const half = lobes * factor;
    h = new Float64Array(2 * half + 1);
    let sum = 0;
    for (let i = -half; i <= half; i++) {
      const x = i / factor;
      const sinc = i === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x);
      const kaiser = besselI0(8 * Math.sqrt(1 - (i / half) ** 2)) / besselI0(8);
      sum += h[i + half] = sinc * kaiser;
    }
    for (let i = 0; i < h.length; i++) h[i]! /= sum;
    filters.set(key, h);
  }
  return h;
}

function filtered(samples: Float64Array, factor: number, lobes: number): Float64Array {
  const h = lowPass(factor, lobes);
  const half = (h.length - 1) / 2;
  // Halving, every second coefficient is nothing.
  const step = factor === 2 ? 2 : 1;
  const out = new Float64Array(Math.floor((samples.length - 1) / factor) + 1);
  for (let i = 0; i < out.length; i++) {
    const c = i * factor;
    const before = Math.min(half, c);
    const after = Math.min(half, samples.length - 1 - c);
    const within = Math.min(before, after);
    let sum = samples[c]! * h[half]!;
    for (let j = 1; j <= within; j += step) sum += (samples[c - j]! + samples[c + j]!) * h[half + j]!;
    // At either end only one side has samples.
    for (let j = within + 1; j <= before; j++) sum += samples[c - j]! * h[half + j]!;
    for (let j = within + 1; j <= after; j++) sum += samples[c + j]! * h[half + j]!;
    out[i] = sum;
  }
  return out;
}

/** The largest factor that leaves room for topHz (0.4 of the new rate) and parts in two. */
export function decimationFor(sampleRate: number, topHz: number): number {
  const most = Math.max(1, Math.floor(sampleRate / (2.5 * topHz)));
  return most > 4 && most % 2 === 1 ? most - 1 : most;
}

/**
 * Lowers the sample rate by a whole factor without aliasing into the lower 0.8 of the new band (linear phase, no delay). Even factors
 * go in two stages: the first one's filter may be short, since the second takes what it lets through.
 * @returns samples at rate / factor; sample i of the result stands at sample i * factor of the input
 */
export function decimate(samples: Float64Array, factor: number): Float64Array {
  if (factor <= 1) return samples;
  if (factor < 4 || factor % 2 === 1) return filtered(samples, factor, 13);
  return filtered(filtered(samples, factor / 2, 5), 2, 13);
}
