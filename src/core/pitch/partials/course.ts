import { FRAME_OVERLAP, type PartialTrack } from '../signal/demodulate';
import type { MeasuredPartial } from './law';
import { leftOver, weightedLine } from '../signal/line';
import { takeSharpStart, type Sharp } from './sharp-start';

/** A partial with the course of its phase taken out. */
export interface PartialFit extends MeasuredPartial {
  /** Rms of the phase about the fitted course, rad. */
  residualRad: number;
}

/** How the pitch went through a stretch of sound. */
export interface PitchCourse {
  partials: PartialFit[];
  /** How much sharper the stretch began than the string is at rest. */
  sharp: Sharp;
  /** Standard error that the sharp start leaves in every partial alike, cents. */
  sigmaCents: number;
  /** Rms movement about that course, cents: vibrato, a finger, a turned tuner. */
  unsteadyCents: number;
  /** Share of what the phases leave over that all partials do together, 0 to 1: vibrato does, beats do not. */
  together: number;
  /** From the first third of the stretch to the last, what the sharp start does not explain, cents. */
  driftCents: number;
  /** How fast the note dies, 1 / s. */
  decayPerS: number;
}

/** Phase wander that is in every real partial (polarisations, body), rad (house estimate). */
const WANDER_RAD = 0.03;
/** A frame of a partial counts while it stands so far above the noise. */
const ABOVE_NOISE = 2.5;
/** So many partials tell the string's own movement from a fault of one of them. */
const MANY = 4;
/** The movement is seen over this time, s (house estimate). */
const REACH_S = 0.04;

const CENTS = 1200 / Math.LN2;
/** Phase that one cent makes in a second, rad/s. */
const phasePerCent = (frequencyHz: number): number => (2 * Math.PI * frequencyHz) / CENTS;

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

/**
 * Fits every partial's phase with a straight line, its frequency at rest, and one sharp start common to all.
 * @param noise amplitude of the noise in each track's band, same units as the track
 * @param sharp whether the stretch begins with the note, so that its sharp start is sought; or what is known of it
 * @returns undefined when no partial stands out for four frames
 */
export function fitCourse(
  tracks: readonly PartialTrack[],
  noise: readonly number[],
  sharp: 'sought' | Sharp,
): PitchCourse | undefined {
  const first = tracks[0];
  if (!first) return undefined;
  const { timeS } = first;
  const stepS = timeS[1]! - timeS[0]!;
  const top = Math.max(...tracks.map((t) => Math.max(...t.amplitude)));
  const base = tracks.flatMap((track, i) => {
    const { w, used } = frameWeights(track, noise[i]!);
    if (used < 4) return [];
    const perCent = phasePerCent(track.carrierHz);
    const line = weightedLine(timeS, track.phase, w);
    return {
      track,
      w,
      used,
      perCent,
      line,
      residual: leftOver(track.phase, timeS, line),
      top: Math.max(...track.amplitude),
      // Faint partials do not tell of the string's energy.
      lead: Math.max(...track.amplitude) / top,
    };
  });
  if (base.length === 0) return undefined;
  const worthOf = ({ w, track, top: amplitude }: (typeof base)[number], k: number) =>
    w[k]! * track.carrierHz ** 2 * amplitude;
  const start = takeSharpStart(tracks, noise, base, sharp === 'sought' ? undefined : sharp);
  const hzOf = ({ track, line, perCent }: (typeof base)[number], i: number) =>
    track.carrierHz + (line.slope - perCent * start.pulls[i]!) / (2 * Math.PI);
  // The whole string's movement: residual phases on one time scale, averaged by information.
  const frames = Math.max(...base.map((b) => b.used));
  const lag = new Float64Array(frames);
  const weight = new Float64Array(frames);
  let decay = 0;
  let strength = 0;
  base.forEach((b, i) => {
    const toSeconds = 1 / (2 * Math.PI * hzOf(b, i));
    const { used, residual } = b;
    for (let k = 0; k < used; k++) {
      lag[k]! += worthOf(b, k) * residual[k]! * toSeconds;
      weight[k]! += worthOf(b, k);
    }
    const { amplitude } = b.track;
    decay += (b.top * Math.log(amplitude[0]! / amplitude[used - 1]!)) / (timeS[used - 1]! - timeS[0]!);
    strength += b.top;
  });
  let own = 0;
  let alone = 0;
  const partials = base.map((b, i): PartialFit => {
    const { track, used, w, line, residual, top: amplitude } = b;
    const rad = 2 * Math.PI * hzOf(b, i);
    let sum = 0;
    let beside = 0;
    let sw = 0;
    for (let k = 0; k < used; k++) {
      const worth = worthOf(b, k);
      const others = (lag[k]! - (worth * residual[k]!) / rad) / Math.max(1e-300, weight[k]! - worth);
      sum += w[k]! * residual[k]! ** 2;
      beside += w[k]! * (residual[k]! - others * rad) ** 2;
      sw += w[k]!;
    }
    own += (amplitude * sum) / sw;
    alone += (amplitude * beside) / sw;
    // What the others do too is the string's movement, vibrato, and no fault of this partial.
    if (base.length >= MANY) sum = Math.min(sum, beside);
    return {
      n: track.n,
      frequencyHz: rad / (2 * Math.PI),
      sigmaHz: Math.sqrt((Math.max(1, sum / used) * FRAME_OVERLAP) / line.sxx) / (2 * Math.PI),
      amplitude,
      residualRad: Math.sqrt(sum / sw),
      cover: used / timeS.length,
    };
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
    sharp: { cents: start.cents, tauS: start.tauS },
    sigmaCents: start.sigmaCents,
    together: base.length >= MANY && own > 0 ? Math.max(0, 1 - alone / own) : 0,
    unsteadyCents: Math.sqrt(mean(moves.map((m) => m * m))),
    driftCents: mean(moves.slice(-third)) - mean(moves.slice(0, third)),
    decayPerS: Math.max(0, decay / strength),
  };
}
