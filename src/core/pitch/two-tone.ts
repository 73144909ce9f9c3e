import { FRAME_OVERLAP, type PartialTrack } from './demodulate';
import { glideS, phasePerCent, weightedLine } from './glide';
import { predictTwoTones, sizesOf, type Tone } from './linear-prediction';
import { settle } from './two-tone-descent';
import {
  ALL,
  APART_MEAN,
  GLIDE,
  LEAST_RHO,
  LN_TAU,
  MOST_FRAMES,
  MOST_RHO,
  OWN,
  RHO_MEAN,
  type TwoTone,
} from './two-tone-law';

/** What the law leaves out (body, neighbours), as a share of the partial. */
const LAW_ERROR = 0.005;
/** From the first frame below this share of the loudest, or below the noise, the phase may lose a turn: no start rests on it. */
const FAINTEST = 0.015;
const LEAST_FRAMES = 5;
/** One tone's decay and pitch, fitted to two: the faster decays by so much more, and the slower pulls it this share (house estimates). */
const FASTER = 1.25;
const PULLED = 0.3;
/** A start's two tones lie this far apart at most, cents. */
const MOST_APART_CENTS = 2;
/** A new start must better the cost by this much. */
const LEAST_GAIN = 0.5;
/** The start's linear prediction reaches over these shares of the frames: long for accuracy, short against a lost turn. */
const REACHES = [1 / 3, 1 / 6, 1 / 12];

/**
 * Takes every frame of a track, or as many as `mostFrames` allows, and what each is worth.
 * @param noise amplitude of the noise in the track's band, same units as the track
 * @param omega first estimate of the angular frequency against the carrier, rad/s
 * @param mostFrames 48 at most
 * @returns undefined where too few frames stand above the noise
 */
export function twoToneOf(
  track: PartialTrack,
  noise: number,
  onsetS: number,
  omega: number,
  mostFrames = MOST_FRAMES,
): TwoTone | undefined {
  const top = Math.max(...track.amplitude);
  const least = Math.max(noise, FAINTEST * top);
  let heard = 0;
  while (heard < track.amplitude.length && track.amplitude[heard]! > least) heard++;
  const stride = Math.max(2, Math.ceil(track.amplitude.length / mostFrames));
  const count = Math.ceil(track.amplitude.length / stride);
  const sure = Math.ceil(heard / stride);
  if (count < LEAST_FRAMES || heard < 6) return undefined;
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
  const half = Math.max(1, sure >> 1);
  const fall = Math.log(track.amplitude[0]! / track.amplitude[half * stride]!) / (timeS[half]! - timeS[0]!);
  return {
    n: track.n,
    carrierHz: track.carrierHz,
    count,
    sure,
    surplus: worth * (count - sure),
    timeS,
    re,
    im,
    phase,
    weight,
    freedOf: Float64Array.of(NaN, NaN),
    freeRe: array(),
    freeIm: array(),
    perGlide: array(),
    perLnTau: array(),
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

/** Where a partial's own parameters may start at the shared ones: one tone, two by linear prediction, two as the others have them. */
function startsOf(p: TwoTone, shared: Float64Array): Float64Array[] {
  const g = shared[GLIDE]!;
  const tau = Math.exp(shared[LN_TAU]!);
  const apart = shared[APART_MEAN]! * p.perCent;
  const rho = shared[RHO_MEAN]!;
  const { sure: count, phase, perCent } = p;
  const timeS = p.timeS.subarray(0, count);
  const re = new Float64Array(count);
  const im = new Float64Array(count);
  const level = new Float64Array(count);
  const log = new Float64Array(count);
  const power = new Float64Array(count);
  for (let k = 0; k < count; k++) {
    const t = timeS[k]!;
    const a = Math.hypot(p.re[k]!, p.im[k]!);
    level[k] = phase[k]! - perCent * g * glideS(t, tau) - p.firstOmega * t;
    log[k] = Math.log(a);
    power[k] = a * a;
    re[k] = a * Math.cos(level[k]!);
    im[k] = a * Math.sin(level[k]!);
  }
  const turn = weightedLine(timeS, level, power);
  const fall = weightedLine(timeS, log, power);
  const size = Math.exp(fall.mean - fall.slope * fall.meanX);
  const angle = turn.mean - turn.slope * turn.meanX;
  const decay = Math.max(0.05, -fall.slope);
  const [ur, ui] = [size * Math.cos(angle), size * Math.sin(angle)];
  const starts = [Float64Array.of(ur, ui, 0.02 * ur, 0.02 * ui, decay, rho, apart, p.firstOmega + turn.slope)];
  const add = (fast: Tone, slow: Tone, sizes = sizesOf(re, im, timeS, fast, slow)) => {
    if (!sizes) return;
    const spared = Math.max(LEAST_RHO, Math.min(MOST_RHO, 1 - slow.decay / fast.decay));
    starts.push(Float64Array.of(...sizes, fast.decay, spared, slow.omega - fast.omega, p.firstOmega + fast.omega));
  };
  const plausible = (fast: Tone, slow: Tone) =>
    fast.decay > 0.05 &&
    fast.decay < 100 &&
    slow.decay < 0.85 * fast.decay &&
    slow.decay > 0.05 * fast.decay &&
    Math.abs(slow.omega - fast.omega) < MOST_APART_CENTS * perCent;
  for (const reach of REACHES) {
    const tones = predictTwoTones(re, im, timeS, Math.max(1, Math.floor(count * reach)), plausible);
    if (!tones) continue;
    const { fast, slow, sizes } = tones;
    add(fast, slow, sizes);
    // The prediction tells which tones there are better than which of them dies sooner.
    add({ decay: fast.decay, omega: slow.omega }, { decay: slow.decay, omega: fast.omega });
  }
  const early = FASTER * decay;
  const pulled = turn.slope - PULLED * apart;
  add({ decay: early, omega: pulled }, { decay: early * (1 - rho), omega: pulled + apart });
  return starts;
}

/** Places a partial afresh at the shared parameters: settles from several starts, each in `rounds` steps, and keeps the best. */
export function place(p: TwoTone, shared: Float64Array, rounds: number): void {
  let best = Infinity;
  for (const start of startsOf(p, shared)) {
    p.own.set(start);
    settle(p, shared, rounds);
    if (p.cost >= best) continue;
    best = p.cost;
    p.saved.set(p.own);
  }
  p.own.set(p.saved);
  p.cost = best;
}

/**
 * Settles a placed partial from one more start, given its first tone; the second as the others have it.
 * @returns whether that is better; else the partial stays as it was
 */
export function setOutAgain(p: TwoTone, shared: Float64Array, decay: number, omega: number, rounds: number): boolean {
  settle(p, shared, 0);
  const { cost, sure } = p;
  p.saved.set(p.own);
  const rho = shared[RHO_MEAN]!;
  const apart = shared[APART_MEAN]! * p.perCent;
  const sizes = sizesOf(
    p.freeRe.subarray(0, sure),
    p.freeIm.subarray(0, sure),
    p.timeS.subarray(0, sure),
    { decay, omega },
    { decay: decay * (1 - rho), omega: omega + apart },
  );
  if (!sizes) return false;
  p.own.set([...sizes, decay, rho, apart, omega]);
  settle(p, shared, rounds);
  if (p.cost < cost - LEAST_GAIN) return true;
  p.own.set(p.saved);
  p.cost = cost;
  return false;
}
