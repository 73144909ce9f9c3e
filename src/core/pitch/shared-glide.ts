import { Matrix, type CholeskyDecomposition } from 'ml-matrix';
import { choleskyOf } from './cholesky';
import type { PartialTrack } from './demodulate';
import type { GlideFit, PartialFit } from './glide';
import { place, twoToneOf } from './two-tone';
import {
  addShared,
  follow,
  linearise,
  logRootDeterminant,
  omegaOf,
  omegaPull,
  omegaVariance,
} from './two-tone-descent';
import {
  APART_MEAN,
  GLIDE,
  LEAST_RHO,
  LN_TAU,
  MOST_FRAMES,
  MOST_RHO,
  RHO_MEAN,
  SHARED,
  type TwoTone,
} from './two-tone-law';

/** Prior of the shared parameters: mean and standard deviation (normal; house estimates). */
const MEAN = Float64Array.of(0, Math.log(0.16), 0, 0.55);
const SD = Float64Array.of(5, 0.6, 0.35, 0.2);
/** Many notes start hardly sharp at all: a second prior, tried beside the first. */
const SD_SMALL = Float64Array.of(1, SD[LN_TAU]!, SD[APART_MEAN]!, SD[RHO_MEAN]!);
/** The search keeps within these bounds, and moves by so much a round at most. */
const LEAST = Float64Array.of(0, Math.log(0.025), -3, LEAST_RHO);
const MOST = Float64Array.of(100, 0, 3, MOST_RHO);
const STEP = Float64Array.of(100, 0.4, 1, 0.3);
/** Time constants of the sharp start from which the search sets out, s. */
const TAUS = [0.05, 0.09, 0.16, 0.28, 0.5];
/** From the best of them it sets out again with the second polarisation on either side, cents. */
const SIDES = [-0.6, 0.6];
/** The search uses this many of the lowest partials: the higher ones lose count of their turns. */
const SEARCH_PARTIALS = 4;
/** And so many frames of each. */
const SEARCH_FRAMES = 24;
const SEARCH_ROUNDS = 4;
const ROUNDS = 8;
const PLACE_ROUNDS = 6;
const FOLLOW_ROUNDS = 5;
/** A partial whose misfit a frame exceeds this may have gone astray (house estimate). */
const ASTRAY = 4;
/** Below this size that one is tried too, cents. */
const SMALL_GLIDE = 3;
/** Second polarisations this far off are also sought on the other side, cents. */
const MIRRORED_FROM = 0.2;
/**
 * Misfit (of `misfitOf`, softened as the cost is) up to which two decaying tones are believed, and from which they are not: a simulated
 * string's partials mostly stay below 1.5, sampled instruments with loops or several strings lie above 3 (house estimates).
 */
const BELIEVED_BELOW = 2;
const NOT_BELIEVED_ABOVE = 3;

/** The cost with bounded influence: a partial that the law does not describe counts for less (Cauchy's likelihood). */
const softened = (p: TwoTone): number => p.count * Math.log(1 + p.cost / p.count);
const trust = (p: TwoTone): number => 1 / (1 + p.cost / p.count);
/** Cost a frame that stands above the noise: the rest, which any law describes, would dilute it. */
const misfitOf = (p: TwoTone): number => Math.max(0, p.cost - p.surplus) / p.sure;

interface SharedFit {
  shared: Float64Array;
  /** Log evidence by Laplace's approximation, up to a constant. */
  evidence: number;
  /** One a partial: angular frequency against the carrier, its variance at these shared parameters, what their doubt adds. */
  omega: number[];
  variance: number[];
  doubt: number[];
  /** Cost a frame of every partial, and softened of all. */
  misfits: number[];
  misfit: number;
}

const priorCost = (shared: Float64Array, sd: Float64Array): number =>
  shared.reduce((s, v, i) => s + 0.5 * ((v - MEAN[i]!) / sd[i]!) ** 2, 0);

/** Normal equations of the shared parameters, see `addShared`. */
const curvature = new Float64Array(SHARED * SHARED);
const pull = new Float64Array(SHARED);

/** Linearises all partials and gathers the shared normal equations; returns the cost. */
function gather(partials: TwoTone[], shared: Float64Array, sd: Float64Array): number {
  curvature.fill(0);
  for (let i = 0; i < SHARED; i++) {
    curvature[i * SHARED + i] = 1 / sd[i]! ** 2;
    pull[i] = (MEAN[i]! - shared[i]!) / sd[i]! ** 2;
  }
  let cost = priorCost(shared, sd);
  for (const p of partials) {
    linearise(p, shared);
    cost += softened(p);
    addShared(p, curvature, pull, trust(p));
  }
  return cost;
}

/** The gathered curvature, its diagonal raised by `damping`, factorised; undefined where a partial's tone has vanished from it. */
function factorised(damping: number): CholeskyDecomposition | undefined {
  if (!curvature.every(Number.isFinite) || !pull.every(Number.isFinite)) return undefined;
  const factor = choleskyOf(curvature, SHARED, damping);
  return factor.isPositiveDefinite() ? factor : undefined;
}

/** A fit that came to nothing. */
const lost = (partials: TwoTone[], shared: Float64Array): SharedFit => ({
  shared,
  evidence: -Infinity,
  misfit: Infinity,
  misfits: partials.map(() => Infinity),
  omega: [],
  variance: [],
  doubt: [],
});

const within = (v: number, least: number, most: number): number => Math.max(least, Math.min(most, v));

/** From a start: places every partial, then Gauss-Newton over the shared parameters, the partials' own ones following. */
function fitShared(partials: TwoTone[], from: Float64Array, rounds: number, sd = SD): SharedFit {
  let shared = from;
  for (const p of partials) place(p, shared, PLACE_ROUNDS);
  let damping = 1e-3;
  for (let i = 0; i < rounds && damping < 100; i++) {
    const cost = gather(partials, shared, sd);
    for (const p of partials) p.saved.set(p.own);
    const step = factorised(damping)?.solve(Matrix.columnVector(pull)).getColumn(0);
    if (!step) break;
    const next = shared.map((v, k) => within(v + within(step[k]!, -STEP[k]!, STEP[k]!), LEAST[k]!, MOST[k]!));
    const move = next.map((v, k) => v - shared[k]!);
    let nextCost = priorCost(next, sd);
    for (const p of partials) {
      follow(p, next, move, FOLLOW_ROUNDS);
      nextCost += softened(p);
    }
    if (nextCost < cost) {
      shared = next;
      damping = Math.max(1e-4, damping * 0.1);
      if (cost - nextCost < 0.1) break;
    } else {
      for (const p of partials) p.own.set(p.saved);
      damping = Math.max(0.3, damping * 8);
    }
  }
  const cost = gather(partials, shared, sd);
  const factor = factorised(0);
  if (!factor || !Number.isFinite(cost)) return lost(partials, shared);
  const covariance = factor.solve(Matrix.eye(SHARED));
  const logRoot = factor.lowerTriangularMatrix.diagonal().reduce((s, v, i) => s + Math.log(v * sd[i]!), 0);
  return {
    shared,
    evidence: -cost - sum(partials, logRootDeterminant) - logRoot,
    misfits: partials.map(misfitOf),
    misfit: sum(partials, (p) => p.sure * Math.log(1 + misfitOf(p))) / sum(partials, (p) => p.sure),
    omega: partials.map(omegaOf),
    variance: partials.map(omegaVariance),
    doubt: partials.map((p) => {
      const pulls = Matrix.columnVector(shared.map((_, i) => omegaPull(p, i)));
      return Math.max(0, pulls.transpose().mmul(covariance).mmul(pulls).get(0, 0));
    }),
  };
}

const sum = (partials: TwoTone[], of: (p: TwoTone) => number): number => partials.reduce((s, p) => s + of(p), 0);
const likelier = (a: SharedFit, b: SharedFit): SharedFit => (b.evidence > a.evidence ? b : a);

/** The shared parameters from the lowest partials: from several time constants, then with the second polarisation on either side. */
function search(low: TwoTone[], glideAt: (tauS: number) => number): SharedFit {
  const from = (glide: number, lnTau: number, apart: number): SharedFit =>
    fitShared(low, Float64Array.of(glide, lnTau, apart, MEAN[RHO_MEAN]!), SEARCH_ROUNDS);
  const best = TAUS.map((tau) => from(glideAt(tau), Math.log(tau), 0)).reduce(likelier);
  return SIDES.map((side) => from(best.shared[GLIDE]!, best.shared[LN_TAU]!, side)).reduce(likelier, best);
}

/** The first fit's partials, each with its misfit. */
function withMisfits(first: GlideFit, partials: TwoTone[], misfits: number[]): PartialFit[] {
  const at = new Map(partials.map((p, i) => [p.n, misfits[i]!]));
  return first.partials.map((was): PartialFit => ({ ...was, misfit: at.get(was.n) }));
}

/** The second polarisation on the other side. */
const mirrored = (shared: Float64Array): Float64Array => shared.map((v, i) => (i === APART_MEAN ? -v : v));

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
  const partialsOf = (fits: PartialFit[], mostFrames: number) =>
    fits.flatMap(({ n, frequencyHz }) => {
      const i = tracks.findIndex((t) => t.n === n);
      const omega = 2 * Math.PI * (frequencyHz - tracks[i]!.carrierHz);
      return twoToneOf(tracks[i]!, noise[i]!, onsetS, omega, mostFrames) ?? [];
    });
  const partials = partialsOf(first.partials, MOST_FRAMES);
  if (partials.length === 0) return first;
  const nearest = (tau: number) =>
    first.starts.reduce((a, b) => (Math.abs(Math.log(b.tauS / tau)) < Math.abs(Math.log(a.tauS / tau)) ? b : a));
  const lowest = partials.map((p) => p.n).sort((a, b) => a - b).slice(0, SEARCH_PARTIALS); // prettier-ignore
  const low = first.partials.filter((p) => lowest.includes(p.n));
  const found = search(partialsOf(low, SEARCH_FRAMES), (tau) => nearest(tau).glideCents);
  if (found.misfit > NOT_BELIEVED_ABOVE) {
    for (const p of partials) place(p, found.shared, PLACE_ROUNDS);
    return { ...first, misfit: found.misfit, partials: withMisfits(first, partials, partials.map(misfitOf)) };
  }
  let whole = fitShared(partials, found.shared, ROUNDS);
  const apart = whole.shared[APART_MEAN]!;
  if (Math.abs(apart) > MIRRORED_FROM) whole = likelier(whole, fitShared(partials, mirrored(whole.shared), ROUNDS));
  // Partials that went astray find their place among the others' shared parameters.
  if (whole.misfits.some((m) => m > ASTRAY)) whole = likelier(whole, fitShared(partials, whole.shared, ROUNDS));
  const { misfit } = whole;
  const tried = withMisfits(first, partials, whole.misfits);
  const believed = within((NOT_BELIEVED_ABOVE - misfit) / (NOT_BELIEVED_ABOVE - BELIEVED_BELOW), 0, 1);
  if (believed === 0) return { ...first, misfit, partials: tried };
  const fits = [whole];
  if (whole.shared[GLIDE]! < SMALL_GLIDE) {
    const small = fitShared(partials, MEAN, ROUNDS, SD_SMALL);
    if (small.evidence > -Infinity) fits.push(small);
  }

  const best = Math.max(...fits.map((f) => f.evidence));
  const shares = fits.map((f) => Math.exp(f.evidence - best));
  const total = shares.reduce((a, b) => a + b, 0);
  const mean = (of: (f: SharedFit) => number) => shares.reduce((s, w, i) => s + (w / total) * of(fits[i]!), 0);
  const blend = (was: number, now: number) => was + believed * (now - was);
  let doubt = 0;
  const refined = tried.map((was): PartialFit => {
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
    misfit,
    partials: refined,
    glideCents: blend(
      first.glideCents,
      mean((f) => f.shared[GLIDE]!),
    ),
    sigmaCents: blend(first.sigmaCents, Math.sqrt(doubt / partials.length)),
  };
}
