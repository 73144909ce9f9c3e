import { FRAME_OVERLAP, type PartialTrack } from './demodulate';
import { glideS, phasePerCent, weightedLine } from './glide';
import { predictTwoTones, type Tone } from './linear-prediction';
import {
  ALL,
  APART,
  APART_SD_CENTS,
  DECAY,
  evaluate,
  OMEGA,
  OWN,
  RHO,
  RHO_MEAN,
  U_IM,
  U_RE,
  V_IM,
  V_RE,
  type TwoTone,
} from './two-tone-law';

/** What the law leaves out (body, neighbours), as a share of the partial. */
const LAW_ERROR = 0.02;
/** Frames below this share of the loudest are left out. */
const FAINTEST = 0.03;
const MOST_FRAMES = 32;
const LEAST_FRAMES = 5;
/** The start's linear prediction reaches over these shares of the frames: long for accuracy, short against a lost turn. */
const REACHES = [1 / 3, 1 / 6, 1 / 12];

/**
 * Takes the usable frames of a track.
 * @param noise amplitude of the noise in the track's band, same units as the track
 * @param omega first estimate of the angular frequency against the carrier, rad/s
 * @returns undefined where too few frames stand above the noise
 */
export function twoToneOf(track: PartialTrack, noise: number, onsetS: number, omega: number): TwoTone | undefined {
  const top = Math.max(...track.amplitude);
  const least = Math.max(3 * noise, FAINTEST * top);
  let used = 0;
  while (used < track.amplitude.length && track.amplitude[used]! > least) used++;
  const stride = Math.max(2, Math.ceil(used / MOST_FRAMES));
  const count = Math.ceil(used / stride);
  if (count < LEAST_FRAMES || used < 6) return undefined;
  // Neighbouring frames share samples; a Hann window's worth is longer than its overlap tells.
  const worth = Math.min(1, (1.6 * stride) / FRAME_OVERLAP);
  const array = () => new Float64Array(count);
  const [timeS, re, im, phase, weight] = [array(), array(), array(), array(), array()];
  const norm = 1 / track.amplitude[0]!;
  for (let k = 0; k < count; k++) {
    const i = k * stride;
    const a = track.amplitude[i]! * norm;
    timeS[k] = track.timeS[i]! - onsetS;
    phase[k] = track.phase[i]!;
    re[k] = a * Math.cos(phase[k]!);
    im[k] = a * Math.sin(phase[k]!);
    weight[k] = worth / (0.5 * (noise * norm) ** 2 + (LAW_ERROR * a) ** 2);
  }
  const half = count >> 1;
  const fall = Math.log(track.amplitude[0]! / track.amplitude[half * stride]!) / (timeS[half]! - timeS[0]!);
  return {
    n: track.n,
    carrierHz: track.carrierHz,
    count,
    timeS,
    re,
    im,
    phase,
    weight,
    perCent: phasePerCent(track.carrierHz),
    firstDecay: Math.max(0.05, fall),
    firstOmega: omega,
    own: new Float64Array(OWN),
    trial: new Float64Array(OWN),
    saved: new Float64Array(OWN),
    cost: 0,
    factor: new Float64Array(ALL * ALL),
    right: new Float64Array(ALL),
  };
}

/** Starts afresh at a sharp start: from one tone, or from two by linear prediction where those fit better. */
export function start(p: TwoTone, g: number, tau: number): void {
  const { count, timeS, phase, perCent, own, trial } = p;
  const fr = new Float64Array(count);
  const fi = new Float64Array(count);
  const level = new Float64Array(count);
  const log = new Float64Array(count);
  const power = new Float64Array(count);
  for (let k = 0; k < count; k++) {
    const t = timeS[k]!;
    const a = Math.hypot(p.re[k]!, p.im[k]!);
    level[k] = phase[k]! - perCent * g * glideS(t, tau) - p.firstOmega * t;
    log[k] = Math.log(a);
    power[k] = a * a;
    fr[k] = a * Math.cos(level[k]!);
    fi[k] = a * Math.sin(level[k]!);
  }
  const turn = weightedLine(timeS, level, power);
  const fall = weightedLine(timeS, log, power);
  const size = Math.exp(fall.mean - fall.slope * fall.meanX);
  const angle = turn.mean - turn.slope * turn.meanX;
  own[U_RE] = size * Math.cos(angle);
  own[U_IM] = size * Math.sin(angle);
  own[V_RE] = 0.02 * own[U_RE]!;
  own[V_IM] = 0.02 * own[U_IM]!;
  own[DECAY] = Math.max(0.05, -fall.slope);
  own[RHO] = RHO_MEAN;
  own[APART] = 0;
  own[OMEGA] = p.firstOmega + turn.slope;
  let best = evaluate(p, own, g, tau, false);
  const plausible = (fast: Tone, slow: Tone) =>
    fast.decay > 0.05 &&
    fast.decay < 100 &&
    slow.decay < 0.85 * fast.decay &&
    slow.decay > 0.05 * fast.decay &&
    Math.abs(slow.omega - fast.omega) < 6 * APART_SD_CENTS * perCent;
  for (const reach of REACHES) {
    const tones = predictTwoTones(fr, fi, timeS, Math.max(1, Math.floor(count * reach)), plausible);
    if (!tones) continue;
    const { fast, slow, sizes } = tones;
    trial.set(sizes);
    trial[DECAY] = fast.decay;
    trial[RHO] = Math.min(0.9, 1 - slow.decay / fast.decay);
    trial[APART] = slow.omega - fast.omega;
    trial[OMEGA] = p.firstOmega + fast.omega;
    const cost = evaluate(p, trial, g, tau, false);
    if (cost < best) {
      best = cost;
      own.set(trial);
    }
  }
}
