import {
  addSharedRows,
  ALL,
  DECAY,
  equations,
  evaluate,
  LEAST_RHO,
  MOST_RHO,
  OMEGA,
  OWN,
  RHO,
  SHARED,
  type Equations,
  type TwoTone,
} from './two-tone-law';

/** Angular frequency of the first polarisation against the carrier, rad/s. */
export const omegaOf = (p: TwoTone): number => p.own[OMEGA]!;
/** Variance of the angular frequency at given shared parameters, (rad/s)^2; valid after `linearise`. */
export const omegaVariance = (p: TwoTone): number => (1 + p.cost / p.count) / p.factor[OMEGA * ALL + OMEGA]! ** 2;
/** What a change of a shared parameter does to the angular frequency; valid after `linearise`. */
export const omegaPull = (p: TwoTone, which: number): number =>
  -p.factor[(OWN + which) * ALL + OMEGA]! / p.factor[OMEGA * ALL + OMEGA]!;
/** Log of the root of the own block's determinant; valid after `linearise`. */
export function logRootDeterminant(p: TwoTone): number {
  let sum = 0;
  for (let k = 0; k < OWN; k++) sum += Math.log(p.factor[k * ALL + k]!);
  return sum;
}

/** Those of the present parameters, and those of a trial. */
let here = equations();
let there = equations();

/** Cholesky factor of the own block, its diagonal raised by `damping`, and the forward-solved right side, for the first `rows`. */
function factorise(p: TwoTone, { hessian, gradient }: Equations, damping: number, rows: number): void {
  const { factor, right } = p;
  for (let i = 0; i < rows; i++) {
    let r = gradient[i]!;
    for (let j = 0; j < Math.min(i + 1, OWN); j++) {
      let s = hessian[i * ALL + j]!;
      if (i === j) s *= 1 + damping;
      for (let k = 0; k < j; k++) s -= factor[i * ALL + k]! * factor[j * ALL + k]!;
      factor[i * ALL + j] = i === j ? Math.sqrt(Math.max(s, 1e-12)) : s / factor[j * ALL + j]!;
      if (j < i) r -= factor[i * ALL + j]! * right[j]!;
    }
    right[i] = i < OWN ? r / factor[i * ALL + i]! : r;
  }
}

/** Linearises at the present parameters; sets the cost, factor and right side. */
export function linearise(p: TwoTone, shared: Float64Array): void {
  p.cost = evaluate(p, p.own, shared, here);
  addSharedRows(p, shared, here);
  factorise(p, here, 0, ALL);
  // What the shared parameters keep once the own ones have given way (Schur complement), for `addShared`.
  for (let i = OWN; i < ALL; i++)
    for (let j = OWN; j <= i; j++) {
      let s = here.hessian[i * ALL + j]!;
      for (let k = 0; k < OWN; k++) s -= p.factor[i * ALL + k]! * p.factor[j * ALL + k]!;
      p.factor[i * ALL + j] = s;
    }
}

/**
 * Adds what a linearised partial tells of the shared parameters to the normal equations.
 * @param curvature SHARED x SHARED, row by row, lower triangle
 * @param pull minus the gradient
 * @param worth between 0 and 1, for a partial that the law does not describe
 */
export function addShared(p: TwoTone, curvature: Float64Array, pull: Float64Array, worth: number): void {
  for (let i = 0; i < SHARED; i++) {
    pull[i]! += worth * p.right[OWN + i]!;
    for (let j = 0; j <= i; j++) curvature[i * SHARED + j]! += worth * p.factor[(OWN + i) * ALL + OWN + j]!;
  }
}

/** Gauss-Newton step of the own parameters into `trial`, when the shared ones move by the given amounts. */
function step(p: TwoTone, move?: Float64Array): void {
  const { factor, right, trial, own } = p;
  for (let i = OWN - 1; i >= 0; i--) {
    let s = right[i]!;
    if (move) for (let k = 0; k < SHARED; k++) s -= factor[(OWN + k) * ALL + i]! * move[k]!;
    for (let k = i + 1; k < OWN; k++) s -= factor[k * ALL + i]! * trial[k]!;
    trial[i] = s / factor[i * ALL + i]!;
  }
  for (let i = 0; i < OWN; i++) trial[i]! += own[i]!;
  trial[RHO] = Math.max(LEAST_RHO, Math.min(MOST_RHO, trial[RHO]!));
  trial[DECAY] = Math.max(0.02, trial[DECAY]!);
}

/** After `linearise`: follows the shared parameters' move along the linear guess, where that helps, and settles there. */
export function follow(p: TwoTone, shared: Float64Array, move: Float64Array, rounds: number): void {
  step(p, move);
  const guessed = evaluate(p, p.trial, shared, here);
  const stayed = evaluate(p, p.own, shared, there);
  p.cost = Math.min(guessed, stayed);
  if (guessed < stayed) p.own.set(p.trial);
  else exchange();
  descend(p, shared, rounds);
}

/** Own parameters at given shared ones: damped Gauss-Newton (Levenberg 1944), at most `rounds` steps. Sets the cost. */
export function settle(p: TwoTone, shared: Float64Array, rounds: number): void {
  p.cost = evaluate(p, p.own, shared, here);
  descend(p, shared, rounds);
}

function exchange(): void {
  const before = here;
  here = there;
  there = before;
}

/** From where `here` and the cost are those of the present parameters. */
function descend(p: TwoTone, shared: Float64Array, rounds: number): void {
  let damping = 1e-3;
  for (let i = 0; i < rounds; i++) {
    factorise(p, here, damping, OWN);
    step(p);
    const cost = evaluate(p, p.trial, shared, there);
    if (!(cost < p.cost)) {
      damping = Math.max(1e-3, damping * 10);
      continue;
    }
    const gain = p.cost - cost;
    exchange();
    p.own.set(p.trial);
    p.cost = cost;
    damping *= 0.15;
    if (gain < 0.02 + 0.003 * cost) break;
  }
}
