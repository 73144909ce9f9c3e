import type { PartialTrack } from './demodulate';
import type { GlideFit, PartialFit } from './glide';
import { start, twoToneOf } from './two-tone';
import {
  addCommon,
  follow,
  linearise,
  logRootDeterminant,
  omegaOf,
  omegaPull,
  omegaVariance,
  settle,
  type TwoTone,
} from './two-tone-law';

/** Prior of the sharp start: size in cents, time constant in s (log-normal); house estimates. */
const GLIDE_SD = 5;
const TAU_MIDDLE = 0.16;
const LN_TAU_MIDDLE = Math.log(TAU_MIDDLE);
const LN_TAU_SD = 0.6;
/** Time constants the search starts from, s, and the bounds it keeps. */
const TAUS = [0.05, 0.09, 0.16, 0.28, 0.5];
const TAU_BOUNDS = [0.025, 1] as const;
/** The search for the sharp start uses this many of the lowest partials: the higher ones lose count of their turns. */
const SEARCH_PARTIALS = 4;
const SEARCH_ROUNDS = 6;
const ROUNDS = 8;
const START_ROUNDS = 6;
const FOLLOW_ROUNDS = 5;
/** Below this size the note is also tried without a sharp start, cents. */
const SMALL_GLIDE = 1;
/**
 * Misfit a frame (see `softened`) up to which two decaying tones are believed, and from which they are not: a simulated
 * string's partials stay below 1, sampled instruments with loops or several strings lie above 1.4 (house estimates).
 */
const BELIEVED_BELOW = 1;
const NOT_BELIEVED_ABOVE = 1.6;
/** With this misfit the lowest partials alone settle it. */
const HOPELESS = 3;

/** The cost with bounded influence: a partial that the law does not describe counts for less (Cauchy's likelihood). */
const softened = (p: TwoTone): number => p.count * Math.log(1 + p.cost / p.count);
const trust = (p: TwoTone): number => 1 / (1 + p.cost / p.count);

interface SharedFit {
  glideCents: number;
  tauS: number;
  /** Log evidence by Laplace's approximation, up to a constant. */
  evidence: number;
  /** One a partial: angular frequency against the carrier, its variance at this glide, and what the glide's doubt adds. */
  omega: number[];
  variance: number[];
  doubt: number[];
  /** Softened cost a frame. */
  misfit: number;
}

/** Curvature gg, g tau, tau tau and gradient g, tau of the common parameters. */
const common = new Float64Array(5);
const priorCost = (g: number, lnTau: number): number =>
  0.5 * (g / GLIDE_SD) ** 2 + 0.5 * ((lnTau - LN_TAU_MIDDLE) / LN_TAU_SD) ** 2;

/** Linearises all partials and gathers `common`; returns the cost. */
function gather(partials: TwoTone[], g: number, lnTau: number): number {
  common.fill(0);
  common[0] = 1 / GLIDE_SD ** 2;
  common[2] = 1 / LN_TAU_SD ** 2;
  common[3] = -g / GLIDE_SD ** 2;
  common[4] = -(lnTau - LN_TAU_MIDDLE) / LN_TAU_SD ** 2;
  let cost = priorCost(g, lnTau);
  for (const p of partials) {
    linearise(p, g, Math.exp(lnTau));
    cost += softened(p);
    addCommon(p, common, trust(p));
  }
  return cost;
}

/** From a start: Gauss-Newton over the common sharp start, every partial's own parameters following. */
function fitShared(partials: TwoTone[], startCents: number, startTauS: number, rounds: number): SharedFit {
  let g = startCents;
  let lnTau = Math.log(startTauS);
  for (const p of partials) {
    start(p, g, startTauS);
    settle(p, g, startTauS, START_ROUNDS);
  }
  let damping = 1e-3;
  for (let i = 0; i < rounds && damping < 100; i++) {
    const cost = gather(partials, g, lnTau);
    for (const p of partials) p.saved.set(p.own);
    const gg = common[0]! * (1 + damping);
    const tt = common[2]! * (1 + damping);
    const det = gg * tt - common[1]! ** 2;
    const moveG = Math.max(-g, (tt * common[3]! - common[1]! * common[4]!) / det);
    const free = lnTau + Math.max(-0.4, Math.min(0.4, (gg * common[4]! - common[1]! * common[3]!) / det));
    const nextLnTau = Math.max(Math.log(TAU_BOUNDS[0]), Math.min(Math.log(TAU_BOUNDS[1]), free));
    let next = priorCost(g + moveG, nextLnTau);
    for (const p of partials) {
      follow(p, g + moveG, Math.exp(nextLnTau), moveG, nextLnTau - lnTau, FOLLOW_ROUNDS);
      next += softened(p);
    }
    if (next < cost) {
      g += moveG;
      lnTau = nextLnTau;
      damping = Math.max(1e-4, damping * 0.1);
      if (cost - next < 0.1) break;
    } else {
      for (const p of partials) p.own.set(p.saved);
      damping = Math.max(0.3, damping * 8);
    }
  }
  const cost = gather(partials, g, lnTau);
  const [gg, gt, tt] = [common[0]!, common[1]!, common[2]!];
  const det = Math.max(1e-9, gg * tt - gt * gt);
  return {
    glideCents: g,
    tauS: Math.exp(lnTau),
    evidence: -cost - sum(partials, logRootDeterminant) - Math.log(GLIDE_SD * LN_TAU_SD) - 0.5 * Math.log(det),
    misfit: misfitOf(partials),
    omega: partials.map(omegaOf),
    variance: partials.map(omegaVariance),
    doubt: partials.map((p) => {
      const [byG, byTau] = [omegaPull(p, 0), omegaPull(p, 1)];
      return Math.max(0, (byG * byG * tt - 2 * byG * byTau * gt + byTau * byTau * gg) / det);
    }),
  };
}

function fitWithoutGlide(partials: TwoTone[]): SharedFit {
  for (const p of partials) {
    start(p, 0, 0);
    settle(p, 0, 0, START_ROUNDS);
    linearise(p, 0, 0);
  }
  return {
    glideCents: 0,
    tauS: TAU_MIDDLE,
    evidence: -sum(partials, softened) - sum(partials, logRootDeterminant),
    misfit: misfitOf(partials),
    omega: partials.map(omegaOf),
    variance: partials.map(omegaVariance),
    doubt: partials.map(() => 0),
  };
}

const sum = (partials: TwoTone[], of: (p: TwoTone) => number): number => partials.reduce((s, p) => s + of(p), 0);
const misfitOf = (partials: TwoTone[]): number => sum(partials, softened) / sum(partials, (p) => p.count);

/**
 * Refines a first fit of a plucked note: every partial as two decaying tones (the string's two polarisations), all under
 * one sharp start. The slower polarisation, which takes over as the note dies, then no longer pulls the pitch. Where the
 * partials are no two decaying tones the first fit stands. House design.
 * @param noise amplitude of the noise in each track's band, same units as the track
 * @param onsetS start of the note, s
 * @param first fit of the same tracks
 */
export function refineBySharedGlide(
  tracks: PartialTrack[],
  noise: number[],
  onsetS: number,
  first: GlideFit,
): GlideFit {
  const partials = first.partials.flatMap(({ n, frequencyHz }) => {
    const i = tracks.findIndex((t) => t.n === n);
    return twoToneOf(tracks[i]!, noise[i]!, onsetS, 2 * Math.PI * (frequencyHz - tracks[i]!.carrierHz)) ?? [];
  });
  if (partials.length === 0) return first;
  const low = [...partials].sort((a, b) => a.n - b.n).slice(0, SEARCH_PARTIALS);
  const nearest = (tau: number) =>
    first.starts.reduce((a, b) => (Math.abs(Math.log(b.tauS / tau)) < Math.abs(Math.log(a.tauS / tau)) ? b : a));
  const found = TAUS.map((tau) => fitShared(low, nearest(tau).glideCents, tau, SEARCH_ROUNDS)).reduce((a, b) =>
    b.evidence > a.evidence ? b : a,
  );
  if (found.misfit > HOPELESS) return first;
  const fits = [fitShared(partials, found.glideCents, found.tauS, ROUNDS)];
  const { misfit } = fits[0]!;
  if (fits[0]!.glideCents < SMALL_GLIDE) fits.push(fitWithoutGlide(partials));
  const believed = Math.max(0, Math.min(1, (NOT_BELIEVED_ABOVE - misfit) / (NOT_BELIEVED_ABOVE - BELIEVED_BELOW)));
  if (believed === 0) return first;

  const best = Math.max(...fits.map((f) => f.evidence));
  const shares = fits.map((f) => Math.exp(f.evidence - best));
  const total = shares.reduce((a, b) => a + b, 0);
  const mean = (of: (f: SharedFit) => number) => shares.reduce((s, w, i) => s + (w / total) * of(fits[i]!), 0);
  const blend = (was: number, now: number) => was + believed * (now - was);
  let doubt = 0;
  const refined = first.partials.map((was): PartialFit => {
    const i = partials.findIndex((p) => p.n === was.n);
    const p = partials[i];
    if (!p) return was;
    const omega = mean((f) => f.omega[i]!);
    doubt += mean((f) => (f.omega[i]! - omega) ** 2 + f.doubt[i]!) / p.perCent ** 2;
    return {
      ...was,
      frequencyHz: blend(was.frequencyHz, p.carrierHz + omega / (2 * Math.PI)),
      sigmaHz: blend(was.sigmaHz, Math.sqrt(mean((f) => f.variance[i]!)) / (2 * Math.PI)),
    };
  });
  return {
    ...first,
    partials: refined,
    glideCents: blend(
      first.glideCents,
      mean((f) => f.glideCents),
    ),
    sigmaCents: blend(first.sigmaCents, Math.sqrt(doubt / partials.length)),
  };
}
