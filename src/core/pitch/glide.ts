import { FRAME_OVERLAP, type PartialTrack } from './demodulate';

/** Frequency of one partial after the common glide is taken out. */
export interface PartialFit {
  n: number;
  frequencyHz: number;
  sigmaHz: number;
  amplitude: number;
  /** Rms of the phase about the fitted line, rad. */
  residualRad: number;
  /** Misfit a frame of two decaying tones, where they were tried. */
  misfit?: number | undefined;
  /** Residual phase of every frame, rad (zero weight where the partial has sunk into the noise). */
  residual: Float64Array;
  weight: Float64Array;
}

export interface GlideFit {
  partials: PartialFit[];
  /** How much sharper the note was at its onset than settled, cents. */
  glideCents: number;
  /** Standard error that the unknown glide adds to every partial alike, cents. */
  sigmaCents: number;
  /** How badly the law of two polarisations describes the note (`refineBySharedGlide`); infinite where that was not tried. */
  misfit: number;
  /** Size of the sharp start at every time constant tried. */
  starts: { tauS: number; glideCents: number }[];
}

/** Time constants tried for the sharp start, s; their results are averaged by likelihood (house estimates). */
const TAUS = [0.04, 0.06, 0.085, 0.12, 0.16, 0.21, 0.28, 0.37, 0.5, 0.7];
/** Prior spread of the sharp start, cents (house estimate). */
const GLIDE_SD = 6;
/** Phase wander that is in every real string (polarisations, body), rad (house estimate). */
const WANDER_RAD = 0.02;
/** The evidence between time constants is worth this share: frames and partials err together (house estimate). */
const TEMPER = 0.08;

/** Phase that one cent makes in a second, rad/s. */
export const phasePerCent = (frequencyHz: number): number => (2 * Math.PI * frequencyHz * Math.LN2) / 1200;

/** Seconds that a sharp start of time constant tau has run ahead at its full size, t s after the onset. */
export const glideS = (t: number, tau: number): number => tau * (1 - Math.exp(-t / tau));

export interface Line {
  slope: number;
  mean: number;
  meanX: number;
  sxx: number;
}

/** Weighted least squares: y = mean + slope (x - meanX). */
export function weightedLine(x: Float64Array, y: Float64Array, w: Float64Array): Line {
  let sw = 0;
  let sx = 0;
  let sy = 0;
  for (let k = 0; k < x.length; k++) {
    sw += w[k]!;
    sx += w[k]! * x[k]!;
    sy += w[k]! * y[k]!;
  }
  const meanX = sx / sw;
  const mean = sy / sw;
  let sxx = 0;
  let sxy = 0;
  for (let k = 0; k < x.length; k++) {
    const d = x[k]! - meanX;
    sxx += w[k]! * d * d;
    sxy += w[k]! * d * (y[k]! - mean);
  }
  return { slope: sxx > 0 ? sxy / sxx : 0, mean, meanX, sxx };
}

/**
 * Frame weights: inverse phase variance for additive noise (variance noise^2 / 2A^2, Rife & Boorstyn 1974) plus wander;
 * nothing after the partial has first sunk into the noise, where its phase can slip a turn.
 */
function frameWeights(track: PartialTrack, noise: number): Float64Array {
  const w = new Float64Array(track.amplitude.length);
  const top = Math.max(...track.amplitude);
  for (let k = 0; k < w.length; k++) {
    const a = track.amplitude[k]!;
    if (a < 2.5 * noise || a < 0.1 * top) break;
    w[k] = 1 / (noise ** 2 / (2 * a * a) + WANDER_RAD ** 2 * (1 + (0.25 * top) / a));
  }
  return w;
}

interface Base {
  track: PartialTrack;
  w: Float64Array;
  line: Line;
  /** Phase per cent of pitch and second, rad. */
  perCent: number;
  used: number;
  /** Phase less its line, rad. */
  residual: Float64Array;
}

/** What one assumed time constant does to every partial: its pull on the slope, and the curve it leaves. */
interface Shape {
  tau: number;
  /** Slope of the glide's phase per cent, s of course per s, one a partial. */
  beta: number[];
  /** What is left of the glide's phase per cent after its line is taken out, one array a partial. */
  curve: Float64Array[];
}

interface Posterior {
  glide: number[];
  variance: number[];
  share: number[];
  best: number;
}

function shapeOf(tau: number, base: Base[], onsetS: number): Shape {
  const beta: number[] = [];
  // All tracks have the same frames.
  const course = Float64Array.from(base[0]?.track.timeS ?? [], (t) => glideS(t - onsetS, tau));
  const curve = base.map(({ track, w, line }) => {
    const h = course.slice();
    const fit = weightedLine(track.timeS, h, w);
    beta.push(fit.slope);
    for (let k = 0; k < h.length; k++) h[k]! -= fit.mean + fit.slope * (track.timeS[k]! - line.meanX);
    return h;
  });
  return { tau, beta, curve };
}

/** Likelihood of every time constant, the glide's size at each, and their shares; `scale` inflates each partial's noise. */
function weighShapes(shapes: Shape[], base: Base[], scale: number[]): Posterior {
  const glide: number[] = [];
  const variance: number[] = [];
  const evidence = shapes.map((shape) => {
    let num = 0;
    let den = 0;
    base.forEach((b, p) => {
      const curve = shape.curve[p]!;
      // Neighbouring frames share samples; neighbouring partials share the bridge: half the information again.
      const worth = 1 / (2 * FRAME_OVERLAP * scale[p]!);
      for (let k = 0; k < b.used; k++) {
        const u = b.w[k]! * worth * b.perCent;
        num += u * curve[k]! * b.residual[k]!;
        den += u * b.perCent * curve[k]! * curve[k]!;
      }
    });
    const precision = den + 1 / GLIDE_SD ** 2;
    const g = Math.max(0, num / precision);
    glide.push(g);
    variance.push(1 / precision);
    return (g > 0 ? (0.5 * num * num) / precision : 0) - 0.5 * Math.log(precision * GLIDE_SD ** 2);
  });
  const peak = Math.max(0, ...evidence);
  const weights = evidence.map((e) => Math.exp(TEMPER * (e - peak)) / shapes.length);
  const total = weights.reduce((a, c) => a + c, 0) + 1.5 * Math.exp(-TEMPER * peak);
  return { glide, variance, share: weights.map((w) => w / total), best: evidence.indexOf(Math.max(...evidence)) };
}

/** Mean square of a partial's phase about its line and the given glide, in units of its expected variance. */
function misfit(b: Base, curve: Float64Array | undefined, g: number): number {
  let sum = 0;
  for (let k = 0; k < b.used; k++) {
    const r = b.residual[k]! - (curve ? g * b.perCent * curve[k]! : 0);
    sum += b.w[k]! * r * r;
  }
  return sum / b.used;
}

/**
 * Fits every partial's phase with a straight line plus one sharp start g e^(-t/tau) common to all partials; g by least
 * squares under its prior, averaged over tau. With phase phi_n(t) = c_n + 2 pi f_n (t + g tau (1 - e^(-t/tau))) the
 * problem is linear for each tau.
 * @param noise amplitude of the noise in each track's band, same units as the track
 * @param onsetS start of the note, s, from which the sharp start is counted
 */
export function fitGlide(tracks: PartialTrack[], noise: number[], onsetS: number, withGlide: boolean): GlideFit {
  const base: Base[] = [];
  tracks.forEach((track, i) => {
    const w = frameWeights(track, noise[i]!);
    const used = w.findIndex((v) => v === 0);
    const count = used < 0 ? w.length : used;
    if (count < 4) return;
    const perCent = phasePerCent(track.carrierHz);
    const line = weightedLine(track.timeS, track.phase, w);
    const residual = new Float64Array(w.length);
    for (let k = 0; k < count; k++) {
      residual[k] = track.phase[k]! - line.mean - line.slope * (track.timeS[k]! - line.meanX);
    }
    base.push({ track, w, used: count, perCent, line, residual });
  });
  const shapes = withGlide ? TAUS.map((tau) => shapeOf(tau, base, onsetS)) : [];
  let post: Posterior = { glide: [], variance: [], share: [], best: -1 };
  let scale = base.map((b) => Math.max(1, misfit(b, undefined, 0)));
  for (let pass = 0; pass < 3 && withGlide; pass++) {
    post = weighShapes(shapes, base, scale);
    const { best } = post;
    scale = base.map((b, p) =>
      Math.max(1, Math.min(misfit(b, shapes[best]!.curve[p], post.glide[best]!), misfit(b, undefined, 0))),
    );
  }
  const mean = (pick: (s: number) => number) => post.share.reduce((sum, share, s) => sum + share * pick(s), 0);
  let spread = 0;
  const partials = base.map((b, p): PartialFit => {
    const pull = mean((s) => post.glide[s]! * shapes[s]!.beta[p]!);
    spread += mean((s) => shapes[s]!.beta[p]! ** 2 * (post.glide[s]! ** 2 + post.variance[s]!)) - pull * pull;
    const { residual } = b;
    shapes.forEach((shape, s) => {
      const g = post.share[s]! * post.glide[s]! * b.perCent;
      const curve = shape.curve[p]!;
      if (g > 1e-6) for (let k = 0; k < b.used; k++) residual[k]! -= g * curve[k]!;
    });
    let sum = 0;
    let sw = 0;
    for (let k = 0; k < b.used; k++) {
      const r = residual[k]!;
      sum += b.w[k]! * r * r;
      sw += b.w[k]!;
    }
    const variance = Math.max(1, sum / Math.max(1, b.used - 2)) * FRAME_OVERLAP;
    return {
      n: b.track.n,
      frequencyHz: b.track.carrierHz + (b.line.slope - b.perCent * pull) / (2 * Math.PI),
      sigmaHz: Math.sqrt(variance / b.line.sxx) / (2 * Math.PI),
      amplitude: Math.max(...b.track.amplitude),
      residualRad: Math.sqrt(sum / sw),
      residual,
      weight: b.w,
    };
  });
  return {
    partials,
    glideCents: mean((s) => post.glide[s]!),
    sigmaCents: Math.sqrt(Math.max(0, spread) / Math.max(1, base.length)),
    misfit: Infinity,
    starts: shapes.map((x, s) => ({ tauS: x.tau, glideCents: post.glide[s]! })),
  };
}
