import { Matrix, type CholeskyDecomposition } from 'ml-matrix';
import { median } from 'simple-statistics';
import { choleskyOf } from './cholesky';
import type { PartialTrack } from './demodulate';
import type { GlideFit, PartialFit } from './glide';
import { fitStiffString } from './stiff';
import { place, setOutAgain, twoToneOf } from './two-tone';
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
  DECAY,
  GLIDE,
  LEAST_RHO,
  LN_TAU,
  MOST_FRAMES,
  MOST_RHO,
  RHO_MEAN,
  SHARED,
  type TwoTone,
} from './two-tone-law';

/**
 * Prior of the shared parameters: mean and standard deviation (normal; house estimates). The sharp start's is the half and
 * half of two, for many notes start hardly sharp at all.
 */
const MEAN = Float64Array.of(0, Math.log(0.16), 0, 0.55);
const SD = Float64Array.of(5, 0.6, 0.35, 0.2);
const SD_HARDLY_SHARP = 1;
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
/** So many of its neighbours tell a partial how fast it should decay. */
const NEIGHBOURS = 4;
/** Second polarisations this far off are also sought on the other side, at least so far out, cents; */
const MIRRORED_FROM = 0.2;
const LEAST_MIRRORED = 0.3;
/** and so are those of a note of which a partial exceeds this misfit. */
const ASTRAY = 4;
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
  /** Own parameters of every partial. */
  own: Float64Array[];
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

const normal = (x: number, sd: number): number => Math.exp(-0.5 * (x / sd) ** 2) / sd;

/** Minus the logarithm of the shared parameters' prior, up to a constant. */
function priorCost(shared: Float64Array): number {
  let cost = -Math.log(normal(shared[GLIDE]!, SD_HARDLY_SHARP) + normal(shared[GLIDE]!, SD[GLIDE]!));
  for (let i = 0; i < SHARED; i++) if (i !== GLIDE) cost += 0.5 * ((shared[i]! - MEAN[i]!) / SD[i]!) ** 2;
  return cost;
}

/** Inverse variance that holds one of them to its mean. */
function priorWorth(shared: Float64Array, i: number): number {
  const wide = 1 / SD[i]! ** 2;
  if (i !== GLIDE) return wide;
  const [a, b] = [normal(shared[GLIDE]!, SD_HARDLY_SHARP), normal(shared[GLIDE]!, SD[GLIDE]!)];
  return (a / SD_HARDLY_SHARP ** 2 + b * wide) / (a + b);
}

/** Normal equations of the shared parameters, see `addShared`. */
const curvature = new Float64Array(SHARED * SHARED);
const pull = new Float64Array(SHARED);

/** Linearises all partials and gathers the shared normal equations; returns the cost. */
function gather(partials: TwoTone[], shared: Float64Array): number {
  curvature.fill(0);
  for (let i = 0; i < SHARED; i++) {
    const worth = priorWorth(shared, i);
    curvature[i * SHARED + i] = worth;
    pull[i] = worth * (MEAN[i]! - shared[i]!);
  }
  let cost = priorCost(shared);
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
  own: partials.map((p) => p.own.slice()),
  evidence: -Infinity,
  misfit: Infinity,
  misfits: partials.map(() => Infinity),
  omega: [],
  variance: [],
  doubt: [],
});

const within = (v: number, least: number, most: number): number => Math.max(least, Math.min(most, v));

/** From a start: places every partial and settles. */
function fitShared(partials: TwoTone[], from: Float64Array, rounds: number): SharedFit {
  for (const p of partials) place(p, from, PLACE_ROUNDS);
  return settleShared(partials, from, rounds);
}

/** Gauss-Newton over the shared parameters, the partials' own ones following from where they are. */
function settleShared(partials: TwoTone[], from: Float64Array, rounds: number): SharedFit {
  let shared = from;
  let damping = 1e-3;
  for (let i = 0; i < rounds && damping < 100; i++) {
    const cost = gather(partials, shared);
    for (const p of partials) p.saved.set(p.own);
    const step = factorised(damping)?.solve(Matrix.columnVector(pull)).getColumn(0);
    if (!step) break;
    const next = shared.map((v, k) => within(v + within(step[k]!, -STEP[k]!, STEP[k]!), LEAST[k]!, MOST[k]!));
    const move = next.map((v, k) => v - shared[k]!);
    let nextCost = priorCost(next);
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
  const cost = gather(partials, shared);
  const factor = factorised(0);
  if (!factor || !Number.isFinite(cost)) return lost(partials, shared);
  const covariance = factor.solve(Matrix.eye(SHARED));
  const logRoot = factor.lowerTriangularMatrix.diagonal().reduce((s, v) => s + Math.log(v), 0);
  return {
    shared,
    own: partials.map((p) => p.own.slice()),
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

/** A fitted partial's frequency and its standard error at these shared parameters, Hz. */
const inHz = (p: TwoTone, { omega, variance }: SharedFit, i: number) => ({
  frequencyHz: p.carrierHz + omega[i]! / (2 * Math.PI),
  sigmaHz: Math.sqrt(variance[i]!) / (2 * Math.PI),
});

/**
 * Partials that found a wrong place set out again from what the others say: the stiff-string law through them all, and their
 * neighbours' decay.
 * @returns undefined where none did better
 */
function reseated(partials: TwoTone[], whole: SharedFit, first: PartialFit[]): SharedFit | undefined {
  const { shared, omega } = whole;
  if (omega.length === 0) return undefined;
  const { deviationCents } = fitStiffString(
    partials.map((p, i) => ({
      ...first.find((was) => was.n === p.n)!,
      ...inHz(p, whole, i),
    })),
    0,
  );
  const decays = whole.own.map((own) => own[DECAY]!);
  let better = false;
  partials.forEach((p, i) => {
    p.own.set(whole.own[i]!);
    const away = (j: number): number => Math.abs(partials[j]!.n - p.n);
    const near = decays
      .map((_, j) => j)
      .filter((j) => j !== i)
      .sort((a, b) => away(a) - away(b))
      .slice(0, NEIGHBOURS);
    const usual = near.length > 0 ? median(near.map((j) => decays[j]!)) : decays[i]!;
    const lawful = omega[i]! - deviationCents[i]! * p.perCent;
    for (const decay of [usual, decays[i]!]) better = setOutAgain(p, shared, decay, lawful, PLACE_ROUNDS) || better;
  });
  return better ? settleShared(partials, shared, ROUNDS) : undefined;
}

/** The second polarisation on the other side. */
const mirrored = (shared: Float64Array): Float64Array =>
  shared.map((v, i) => (i === APART_MEAN ? -Math.sign(v) * Math.max(LEAST_MIRRORED, Math.abs(v)) : v));

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
  if (Math.abs(apart) > MIRRORED_FROM || whole.misfits.some((m) => m > ASTRAY))
    whole = likelier(whole, fitShared(partials, mirrored(whole.shared), ROUNDS));
  const again = reseated(partials, whole, first.partials);
  if (again) whole = likelier(whole, again);
  const { misfit } = whole;
  const tried = withMisfits(first, partials, whole.misfits);
  const believed = within((NOT_BELIEVED_ABOVE - misfit) / (NOT_BELIEVED_ABOVE - BELIEVED_BELOW), 0, 1);
  if (believed === 0) return { ...first, misfit, partials: tried };
  const blend = (was: number, now: number) => was + believed * (now - was);
  let doubt = 0;
  const refined = tried.map((was): PartialFit => {
    const i = partials.findIndex((p) => p.n === was.n);
    const p = partials[i];
    if (!p) return was;
    doubt += whole.doubt[i]! / p.perCent ** 2;
    const now = inHz(p, whole, i);
    return {
      ...was,
      frequencyHz: blend(was.frequencyHz, now.frequencyHz),
      sigmaHz: blend(was.sigmaHz, now.sigmaHz),
    };
  });
  return {
    ...first,
    misfit,
    partials: refined,
    glideCents: blend(first.glideCents, whole.shared[GLIDE]!),
    sigmaCents: blend(first.sigmaCents, Math.sqrt(doubt / partials.length)),
  };
}
