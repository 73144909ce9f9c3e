import type { NarrowBand } from './bands';

/** A decaying tone in a band: how far from its centre, Hz, and how fast it dies, 1/s. */
export interface Tone {
  hz: number;
  decay: number;
}

/** What is left of a band when tones are taken out of it by least squares, and how loud each was at the band's first sample. */
export interface Fit {
  /** Energy left, and what there was. */
  left: number;
  energy: number;
  amplitude: number[];
  /** The same with their phases. */
  re: Float64Array;
  im: Float64Array;
}

/** Tones more alike than this, share of their energies, are one: a second is not solved for. */
const SAME = 1e-7;

/**
 * Fits up to two decaying tones to a band (variable projection: amplitudes and phases by linear least squares, Golub & Pereyra
 * 1973). The sums over the samples are geometric series where the tones meet, so only the products with the band are summed.
 */
export function fitTones(
  { re, im, rate }: NarrowBand,
  tones: readonly Tone[],
  residual?: { re: Float64Array; im: Float64Array },
): Fit {
  const n = re.length;
  const k = tones.length;
  // Right-hand sides: sum conj(basis) z, by turning a phasor.
  const rightRe = new Float64Array(k);
  const rightIm = new Float64Array(k);
  const stepRe = new Float64Array(k);
  const stepIm = new Float64Array(k);
  for (let t = 0; t < k; t++) {
    const w = (2 * Math.PI * tones[t]!.hz) / rate;
    const d = Math.exp(-tones[t]!.decay / rate);
    stepRe[t] = d * Math.cos(w);
    stepIm[t] = d * Math.sin(w);
  }
  let energy = 0;
  for (let i = 0; i < n; i++) energy += re[i]! ** 2 + im[i]! ** 2;
  for (let t = 0; t < k; t++) {
    let br = 1;
    let bi = 0;
    let sr = 0;
    let si = 0;
    const cr = stepRe[t]!;
    const ci = stepIm[t]!;
    for (let i = 0; i < n; i++) {
      const zr = re[i]!;
      const zi = im[i]!;
      sr += br * zr + bi * zi;
      si += br * zi - bi * zr;
      const r = br * cr - bi * ci;
      bi = br * ci + bi * cr;
      br = r;
    }
    rightRe[t] = sr;
    rightIm[t] = si;
  }
  /** Sum of conj(basis a) basis b: a geometric series. */
  const gram = (a: number, b: number): [number, number] => {
    const qr = stepRe[a]! * stepRe[b]! + stepIm[a]! * stepIm[b]!;
    const qi = stepRe[a]! * stepIm[b]! - stepIm[a]! * stepRe[b]!;
    const ar = 1 - qr;
    const ai = -qi;
    const below = ar * ar + ai * ai;
    if (below < 1e-18) return [n, 0];
    // q^n in polar form.
    const size = Math.hypot(qr, qi) ** n;
    const angle = n * Math.atan2(qi, qr);
    const tr = 1 - size * Math.cos(angle);
    const ti = -size * Math.sin(angle);
    return [(tr * ar + ti * ai) / below, (ti * ar - tr * ai) / below];
  };
  const g0 = gram(0, 0)[0];
  const amplitudeRe = new Float64Array(k);
  const amplitudeIm = new Float64Array(k);
  const one = k === 1;
  const g1 = one ? 0 : gram(1, 1)[0];
  const [cr, ci] = one ? [0, 0] : gram(0, 1);
  const det = one ? 0 : g0 * g1 - cr * cr - ci * ci;
  if (one || det < SAME * g0 * g1) {
    amplitudeRe[0] = rightRe[0]! / g0;
    amplitudeIm[0] = rightIm[0]! / g0;
  } else {
    // [g0 c; conj(c) g1] x = right
    amplitudeRe[0] = (g1 * rightRe[0]! - (cr * rightRe[1]! - ci * rightIm[1]!)) / det;
    amplitudeIm[0] = (g1 * rightIm[0]! - (cr * rightIm[1]! + ci * rightRe[1]!)) / det;
    amplitudeRe[1] = (g0 * rightRe[1]! - (cr * rightRe[0]! + ci * rightIm[0]!)) / det;
    amplitudeIm[1] = (g0 * rightIm[1]! - (cr * rightIm[0]! - ci * rightRe[0]!)) / det;
  }
  let explained = 0;
  for (let t = 0; t < k; t++) explained += amplitudeRe[t]! * rightRe[t]! + amplitudeIm[t]! * rightIm[t]!;
  if (residual) {
    residual.re.set(re);
    residual.im.set(im);
    for (let t = 0; t < k; t++) {
      let ar = amplitudeRe[t]!;
      let ai = amplitudeIm[t]!;
      for (let i = 0; i < n; i++) {
        residual.re[i]! -= ar;
        residual.im[i]! -= ai;
        const r = ar * stepRe[t]! - ai * stepIm[t]!;
        ai = ar * stepIm[t]! + ai * stepRe[t]!;
        ar = r;
      }
    }
  }
  return {
    left: Math.max(1e-30, energy - explained),
    energy,
    amplitude: tones.map((_, t) => Math.hypot(amplitudeRe[t]!, amplitudeIm[t]!)),
    re: amplitudeRe,
    im: amplitudeIm,
  };
}

/** How fast a band dies, 1/s: from the energies of its halves, never growing. */
export function decayOf({ re, im, rate }: NarrowBand): number {
  const half = re.length >> 1;
  let first = 0;
  let second = 0;
  for (let i = 0; i < half; i++) {
    first += re[i]! ** 2 + im[i]! ** 2;
    second += re[i + half]! ** 2 + im[i + half]! ** 2;
  }
  return Math.max(0.05, (0.5 * Math.log(first / Math.max(1e-30, second))) / (half / rate));
}
