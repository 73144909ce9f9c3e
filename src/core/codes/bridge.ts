import { EigenvalueDecomposition, Matrix } from 'ml-matrix';

/** What is to be done on a floating bridge, and in which order its strings are set. */
export const BRIDGE_TASKS = ['touch-up', 'fresh', 'new-tuning'] as const;
export type BridgeTask = (typeof BRIDGE_TASKS)[number];
export const BRIDGE_ORDERS = ['centre-out', 'outside-in', 'least-tilt'] as const;
export type BridgeOrder = (typeof BRIDGE_ORDERS)[number];

/** What was learned of one bridge: logarithms of how it differs from a usual one, and how sure that is. */
export interface BridgeMemory {
  mean: number[];
  covariance: number[][];
}

/** Logarithms of how a bridge differs from a usual one, and their standard deviations, are no larger than this (house). */
const MOST_DIFFERENT = 10;
/** Of rounding, by share of the diagonal. */
const ROUNDING = 1e-6;

/** Is that a memory that can be gone on from: square, finite, symmetric, with a positive covariance? */
export function isBridgeMemory({ mean, covariance }: Partial<BridgeMemory>): boolean {
  if (!Array.isArray(mean) || !Array.isArray(covariance)) return false;
  const n = mean.length;
  const isSquare = covariance.length === n && covariance.every((row) => Array.isArray(row) && row.length === n);
  const isWithin = (v: number) => Number.isFinite(v) && Math.abs(v) <= MOST_DIFFERENT ** 2;
  if (n === 0 || !isSquare || !mean.every((v) => Math.abs(v) <= MOST_DIFFERENT)) return false;
  if (!covariance.every((row) => row.every(isWithin))) return false;
  const matrix = new Matrix(covariance);
  const largest = Math.max(...matrix.diagonal());
  if (!(largest >= 0) || matrix.clone().sub(matrix.transpose()).abs().max() > ROUNDING * largest) return false;
  const raised = Matrix.eye(n, n, ROUNDING * largest + Number.MIN_VALUE).add(matrix);
  const { realEigenvalues } = new EigenvalueDecomposition(raised, { assumeSymmetric: true });
  return realEigenvalues.every((v) => v >= 0);
}
