import { FRAME_OVERLAP, type PartialTrack } from './demodulate';
import type { MeasuredPartial } from './law';

/** A partial with the course of its phase taken out. */
export interface PartialFit extends MeasuredPartial {
  /** Rms of the phase about the fitted course, rad. */
  residualRad: number;
}

/** How the pitch went through a stretch of sound. */
export interface Course {
  partials: PartialFit[];
  /** How much sharper the stretch began than the string is at rest, cents. */
  sharpCents: number;
  /** Standard error that the sharp start leaves in every partial alike, cents. */
  sigmaCents: number;
  /** Rms movement about that course, cents: vibrato, a finger, a turned tuner. */
  unsteadyCents: number;
  /** From the first third of the stretch to the last, what the sharp start does not explain, cents. */
  driftCents: number;
  /** How fast the note dies, 1 / s. */
  decayPerS: number;
}

/** Spread of sharp starts, cents (house estimate). */
const SHARP_SD = 5;
/** Partials agree on the sharp start no better than this, cents; a faint one counts for less, by its amplitude to this power (house estimates, by strings on bodies and sampled instruments). */
const BETWEEN_CENTS = 0.3;
const LEAD_POWER = 2;
/** Degrees of freedom of what partials say of the sharp start: one that beats does not drag it (Student's t, Lange et al. 1989). */
const NU = 4;
/** Phase wander that is in every real partial (polarisations, body), rad (house estimate). */
const WANDER_RAD = 0.03;
/** A frame of a partial counts while it stands so far above the noise. */
const ABOVE_NOISE = 2.5;
/** The movement is seen over this time, s (house estimate). */
const REACH_S = 0.04;

const CENTS = 1200 / Math.LN2;
/** Phase that one cent makes in a second, rad/s. */
const phasePerCent = (frequencyHz: number): number => (2 * Math.PI * frequencyHz) / CENTS;

interface Line {
  slope: number;
  mean: number;
  meanX: number;
  sxx: number;
}

/** Weighted least squares: y = mean + slope (x - meanX). */
function weightedLine(x: Float64Array, y: Float64Array, w: Float64Array): Line {
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

const leftOver = (y: Float64Array, x: Float64Array, { slope, mean, meanX }: Line): Float64Array =>
  y.map((v, k) => v - mean - slope * (x[k]! - meanX));

/** Inverse phase variance of every frame: noise^2 / 2A^2 (Rife & Boorstyn 1974) plus wander; nothing once it has sunk into the noise. */
function frameWeights({ amplitude }: PartialTrack, noise: number): { w: Float64Array; used: number } {
  const w = new Float64Array(amplitude.length);
  let used = 0;
  for (; used < w.length; used++) {
    const a = amplitude[used]!;
    if (a < ABOVE_NOISE * noise) break;
    w[used] = 1 / (noise ** 2 / (2 * a * a) + WANDER_RAD ** 2);
  }
  return { w, used };
}

/** Energy of the note over time, as a share of that of its loudest first frames. */
function energyOf(tracks: readonly PartialTrack[], noise: readonly number[]): Float64Array {
  const energy = new Float64Array(tracks[0]!.timeS.length);
  tracks.forEach(({ amplitude }, i) => {
    for (let k = 0; k < energy.length; k++) energy[k]! += Math.max(0, amplitude[k]! ** 2 - noise[i]! ** 2);
  });
  const first = Math.max(energy[0]!, energy[1]!, energy[2]!, 1e-300);
  return energy.map((e) => e / first);
}

/** What one partial says of the sharp start. */
interface Told {
  w: Float64Array;
  used: number;
  perCent: number;
  residual: Float64Array;
  curve: Float64Array;
  lead: number;
}

/**
 * The sharp start by all partials: each says its own, with what its phase leaves over; the string's is where they agree (Student-t
 * weights), under its prior. Beats of polarisations are each partial's own and scatter; tension moves all alike.
 */
function sharpOf(base: readonly Told[]): { cents: number; sd: number } {
  const each = base.flatMap(({ w, used, perCent, residual, curve, lead }) => {
    let num = 0;
    let den = 0;
    for (let k = 0; k < used; k++) {
      num += w[k]! * perCent * curve[k]! * residual[k]!;
      den += w[k]! * (perCent * curve[k]!) ** 2;
    }
    if (den <= 0) return [];
    const s = num / den;
    let left = 0;
    for (let k = 0; k < used; k++) left += w[k]! * (residual[k]! - s * perCent * curve[k]!) ** 2;
    const scale = Math.max(1, left / used);
    return [{ s, variance: (FRAME_OVERLAP * scale) / den / lead ** LEAD_POWER }];
  });
  if (each.length === 0) return { cents: 0, sd: SHARP_SD };
  let at = 0;
  let precision = 1 / SHARP_SD ** 2;
  let between = BETWEEN_CENTS ** 2;
  for (let round = 0; round < 12; round++) {
    let sum = 0;
    let weight = 0;
    let spread = 0;
    for (const { s, variance } of each) {
      const v = variance + between;
      const t = (NU + 1) / (NU + (s - at) ** 2 / v) / v;
      sum += t * s;
      weight += t;
      spread += t * (s - at) ** 2;
    }
    // How far they disagree, beyond what each leaves over.
    between = Math.max(BETWEEN_CENTS ** 2, spread / weight);
    precision = weight + 1 / SHARP_SD ** 2;
    at = sum / precision;
  }
  return { cents: Math.max(0, at), sd: 1 / Math.sqrt(precision) };
}

/**
 * Fits every partial's phase with a straight line (its frequency at rest) and one sharp start common to all: a plucked
 * string's tension, and so its pitch, rises with the square of its amplitude (Carrier 1945; Valette 1995), and falls with the
 * measured energy of the note. One coefficient, never negative.
 * @param noise amplitude of the noise in each track's band, same units as the track
 * @param plucked the stretch begins with the note
 * @returns undefined when no partial stands out for four frames
 */
export function fitCourse(
  tracks: readonly PartialTrack[],
  noise: readonly number[],
  plucked: boolean,
): Course | undefined {
  const first = tracks[0];
  if (!first) return undefined;
  const { timeS } = first;
  const stepS = timeS[1]! - timeS[0]!;
  const energy = energyOf(tracks, noise);
  // Seconds that a sharp start of one cent has run ahead.
  const ahead = new Float64Array(timeS.length);
  for (let k = 1; k < ahead.length; k++) ahead[k] = ahead[k - 1]! + 0.5 * (energy[k]! + energy[k - 1]!) * stepS;
  const top = Math.max(...tracks.map((t) => Math.max(...t.amplitude)));
  const base = tracks.flatMap((track, i) => {
    const { w, used } = frameWeights(track, noise[i]!);
    if (used < 4) return [];
    const perCent = phasePerCent(track.carrierHz);
    const line = weightedLine(timeS, track.phase, w);
    const aheadLine = weightedLine(timeS, ahead, w);
    return {
      track,
      w,
      used,
      perCent,
      line,
      pull: aheadLine.slope,
      residual: leftOver(track.phase, timeS, line),
      curve: leftOver(ahead, timeS, aheadLine),
      // Faint partials do not tell of the string's energy.
      lead: Math.max(...track.amplitude) / top,
    };
  });
  if (base.length === 0) return undefined;
  const { cents: sharp, sd: sharpSd } = plucked ? sharpOf(base) : { cents: 0, sd: 0 };
  for (const b of base) for (let k = 0; k < b.used; k++) b.residual[k]! -= sharp * b.perCent * b.curve[k]!;
  const partials = base.map(({ track, used, w, perCent, line, pull, residual }): PartialFit => {
    let sum = 0;
    let sw = 0;
    for (let k = 0; k < used; k++) {
      sum += w[k]! * residual[k]! ** 2;
      sw += w[k]!;
    }
    return {
      n: track.n,
      frequencyHz: track.carrierHz + (line.slope - perCent * sharp * pull) / (2 * Math.PI),
      sigmaHz: Math.sqrt((Math.max(1, sum / used) * FRAME_OVERLAP) / line.sxx) / (2 * Math.PI),
      amplitude: Math.max(...track.amplitude),
      residualRad: Math.sqrt(sum / sw),
      cover: used / timeS.length,
    };
  });
  // The whole string's movement: residual phases on one time scale, averaged by information and differentiated.
  const frames = Math.max(...base.map((b) => b.used));
  const lag = new Float64Array(frames);
  const weight = new Float64Array(frames);
  let decay = 0;
  let strength = 0;
  base.forEach(({ track, used, w, residual }, i) => {
    const toSeconds = 1 / (2 * Math.PI * partials[i]!.frequencyHz);
    const { amplitude } = partials[i]!;
    for (let k = 0; k < used; k++) {
      const worth = (w[k]! / toSeconds ** 2) * amplitude;
      lag[k]! += worth * residual[k]! * toSeconds;
      weight[k]! += worth;
    }
    const overS = timeS[used - 1]! - timeS[0]!;
    decay += (amplitude * Math.log(track.amplitude[0]! / track.amplitude[used - 1]!)) / overS;
    strength += amplitude;
  });
  for (let k = 0; k < frames; k++) lag[k]! /= weight[k]!;
  const reach = Math.max(2, Math.round(REACH_S / stepS));
  const moves: number[] = [];
  for (let k = reach; k < frames - reach; k++)
    moves.push((CENTS * (lag[k + reach]! - lag[k - reach]!)) / (2 * reach * stepS));
  const mean = (list: number[]) => list.reduce((a, c) => a + c, 0) / Math.max(1, list.length);
  const third = Math.ceil(moves.length / 3);
  return {
    partials,
    sharpCents: sharp,
    sigmaCents: sharpSd * mean(base.map((b) => Math.abs(b.pull))),
    unsteadyCents: Math.sqrt(mean(moves.map((m) => m * m))),
    driftCents: mean(moves.slice(-third)) - mean(moves.slice(0, third)),
    decayPerS: Math.max(0, decay / strength),
  };
}
