import { STATES } from './process';

/** What is believed of a string under one hypothesis: its state and covariance, and how well that explains what was read. */
export interface Belief {
  mean: Float64Array;
  /** Row-major, STATES x STATES. */
  cov: Float64Array;
  logLikelihood: number;
  /** How much older hands have made the string, min. */
  agedMin: number;
}

/** Beliefs that explain what was read so much worse than the best one are dropped; so many are kept at most. */
const LEAST_SHARE = 1e-3;
const MOST_BELIEFS = 4;

/** How much each belief is believed, by how well it explains what was read; sum 1. */
export const shares = (beliefs: readonly Belief[]): number[] => {
  const top = Math.max(...beliefs.map((b) => b.logLikelihood));
  const raw = beliefs.map((b) => Math.exp(b.logLikelihood - top));
  const total = raw.reduce((sum, x) => sum + x, 0);
  return raw.map((x) => x / total);
};

/** Several beliefs as one with the same mean and covariance: what told them apart no longer matters. */
export function merged(beliefs: readonly Belief[]): Belief {
  const [first] = beliefs;
  if (beliefs.length === 1) return first!;
  const w = shares(beliefs);
  const mean = first!.mean.map((_, j) => beliefs.reduce((sum, b, k) => sum + w[k]! * b.mean[j]!, 0));
  const cov = first!.cov.map((_, at) => {
    const [i, j] = [Math.floor(at / STATES), at % STATES];
    return beliefs.reduce((sum, b, k) => {
      const apart = (b.mean[i]! - mean[i]!) * (b.mean[j]! - mean[j]!);
      return sum + w[k]! * (b.cov[at]! + apart);
    }, 0);
  });
  const top = Math.max(...beliefs.map((b) => b.logLikelihood));
  const total = beliefs.reduce((sum, b) => sum + Math.exp(b.logLikelihood - top), 0);
  const agedMin = beliefs.reduce((sum, b, k) => sum + w[k]! * b.agedMin, 0);
  return { mean, cov, agedMin, logLikelihood: top + Math.log(total) };
}

/** The likeliest of several beliefs, best first. */
export function likeliest(beliefs: Belief[]): Belief[] {
  if (beliefs.length === 1) return beliefs;
  const sorted = [...beliefs].sort((a, b) => b.logLikelihood - a.logLikelihood);
  const least = sorted[0]!.logLikelihood + Math.log(LEAST_SHARE);
  return sorted.filter((b, k) => k < MOST_BELIEFS && b.logLikelihood >= least);
}
