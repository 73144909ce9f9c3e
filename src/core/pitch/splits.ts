import { median, medianAbsoluteDeviation } from 'simple-statistics';
import type { PartialTrack } from './demodulate';
import type { PartialFit } from './glide';

/** A second component this strong beside a partial's main one counts as split. */
const SPLIT_SHARE = 0.2;
/** A few faint partials cannot tell for the string: this share must (house estimate). */
const LEAST_TOLD = 0.4;
/** Two polarisations of one string lie closer than this; two strings that beat lie further apart (house estimate), cents. */
export const APART_CENTS = 3.5;

/**
 * Strongest second component near a partial, as a share of the main one: the track is freed of its decay and fitted
 * phase, so the main component stands at zero, and searched beyond the Hann main lobe.
 * @returns undefined where the track is too short to tell
 */
function secondShare(track: PartialTrack, fit: PartialFit, widestHz: number): number | undefined {
  let used = 0;
  while (used < fit.weight.length && fit.weight[used]! > 0) used++;
  const stepS = track.timeS[1]! - track.timeS[0]!;
  const lengthS = used * stepS;
  const reachHz = Math.min(widestHz, 0.3 / stepS);
  const nearestHz = Math.max((APART_CENTS * track.carrierHz) / 1731, 2.2 / lengthS);
  if (nearestHz > reachHz || used < 8) return undefined;
  // Straight line through the logarithm of the amplitude: the decay.
  let sx = 0;
  let sy = 0;
  let sxx = 0;
  let sxy = 0;
  for (let k = 0; k < used; k++) {
    const l = Math.log(track.amplitude[k]!);
    sx += k;
    sy += l;
    sxx += k * k;
    sxy += k * l;
  }
  const slope = (used * sxy - sx * sy) / (used * sxx - sx * sx);
  const level = (sy - slope * sx) / used;
  const re = new Float64Array(used);
  const im = new Float64Array(used);
  for (let k = 0; k < used; k++) {
    const flat = track.amplitude[k]! * Math.exp(-level - slope * k);
    const a = flat * (0.5 - 0.5 * Math.cos((2 * Math.PI * (k + 0.5)) / used));
    re[k] = a * Math.cos(fit.residual[k]!);
    im[k] = a * Math.sin(fit.residual[k]!);
  }
  /** Amplitudes at +hz and -hz together: one turning phasor serves both. */
  const share = (hz: number): number => {
    const stepRe = Math.cos(2 * Math.PI * hz * stepS);
    const stepIm = Math.sin(2 * Math.PI * hz * stepS);
    let c = 1;
    let s = 0;
    let rc = 0;
    let rs = 0;
    let ic = 0;
    let is = 0;
    for (let k = 0; k < used; k++) {
      rc += re[k]! * c;
      rs += re[k]! * s;
      ic += im[k]! * c;
      is += im[k]! * s;
      const t = c * stepRe - s * stepIm;
      s = c * stepIm + s * stepRe;
      c = t;
    }
    return Math.max(Math.hypot(rc + is, ic - rs), Math.hypot(rc - is, ic + rs));
  };
  const main = share(0);
  let best = 0;
  for (let hz = nearestHz; hz <= reachHz; hz += 0.5 / lengthS) best = Math.max(best, share(hz));
  return best / main;
}

/**
 * Share of the partials (weighted by the root of their amplitude) that are split in two by more than one string's
 * polarisations are: high for a near unison or an octave pair. House design.
 * @returns 0 when too few partials can tell
 */
export function splitShare(tracks: PartialTrack[], fits: PartialFit[]): number {
  let split = 0;
  let told = 0;
  let count = 0;
  let all = 0;
  for (const fit of fits) {
    all += Math.sqrt(fit.amplitude);
    const track = tracks.find((t) => t.n === fit.n)!;
    const widestHz = Math.min(0.2 * (track.carrierHz / track.n), (60 * track.carrierHz) / 1731);
    const second = secondShare(track, fit, widestHz);
    if (second === undefined) continue;
    const w = Math.sqrt(fit.amplitude);
    told += w;
    if (second > SPLIT_SHARE) {
      split += w;
      count++;
    }
  }
  return count < 2 || told < LEAST_TOLD * all ? 0 : split / told;
}

/** A comb held up only by multiples of 2 and of 3 (no 1, 5, 7 …) is two strings a fifth or a fourth apart. */
export function isFalseCommonPitch(fits: PartialFit[]): boolean {
  let coprime = 0;
  let threes = 0;
  let evens = 0;
  for (const { n, amplitude } of fits) {
    if (n % 2 && n % 3) coprime += amplitude;
    else if (n % 3 === 0 && n % 2) threes += amplitude;
    else if (n % 2 === 0 && n % 3) evens += amplitude;
  }
  return threes > 0 && evens > 0 && coprime < 0.06 * (threes + evens);
}

/** Even partials this far off the odd ones belong to another string an octave up, cents (house estimate). */
const OCTAVE_APART_CENTS = 4.5;
/**
 * Natural logarithm of how much worse the even or the odd partials fit than the others: by the misfit of two tones and by
 * the phase. As shares of these the two may add up to so much, if the phase tells anything; where the misfit is not known
 * the phase may reach its own (house estimates, by the pitch benchmark: single strings reach 1.3, most octave pairs exceed 2).
 */
const UNLIKE_BY_MISFIT = 2.5;
const UNLIKE_BY_PHASE = 2.4;
const BOTH_LIMIT = 1.45;
const LEAST_BY_PHASE = 0.7;
const HIGHEST_COMPARED = 18;
/** So many even and odd partials each are compared by how they fit, and by where they lie. */
const LEAST_FITTED = 4;
const LEAST_PLACED = 3;

/** How far the even partials' median lies from the odd ones', and the wider spread of the two; 0 below so many of each. */
function parity(fits: PartialFit[], least: number, of: (fit: PartialFit, i: number) => number | undefined) {
  const side = (rest: number) =>
    fits.flatMap((fit, i) => (fit.n % 2 === rest && fit.n <= HIGHEST_COMPARED ? (of(fit, i) ?? []) : []));
  const [even, odd] = [side(0), side(1)];
  if (Math.min(even.length, odd.length) < least) return { apart: 0, spread: 0 };
  return {
    apart: Math.abs(median(even) - median(odd)),
    spread: Math.max(medianAbsoluteDeviation(odd), medianAbsoluteDeviation(even)),
  };
}

/**
 * Do the even partials follow another string than the odd ones? By their deviations from the fitted law, which has rested
 * on one of the two, both consistent in themselves; or by how much worse the one side is described by one string's tones.
 */
export function isOctavePair(fits: PartialFit[], deviationCents: number[]): boolean {
  const byPhase = parity(fits, LEAST_FITTED, ({ residualRad }) => Math.log(residualRad)).apart;
  const byMisfit = parity(fits, LEAST_FITTED, ({ misfit }) => misfit && Math.log1p(misfit)).apart;
  const unlike = fits.some(({ misfit }) => misfit !== undefined)
    ? byPhase > LEAST_BY_PHASE && byMisfit / UNLIKE_BY_MISFIT + byPhase / UNLIKE_BY_PHASE > BOTH_LIMIT
    : byPhase > UNLIKE_BY_PHASE;
  if (unlike) return true;
  const { apart, spread } = parity(fits, LEAST_PLACED, (_, i) => deviationCents[i]!);
  return apart > OCTAVE_APART_CENTS && apart > 1.5 * spread;
}
