import { Matrix, inverse } from 'ml-matrix';

/** A weighted fit: parameters, their covariance by the given errors, and what is left of each observation. */
export interface WeightedFit {
  values: number[];
  covariance: Matrix;
  rest: number[];
}

/**
 * Linear least squares weighted by the observations' standard errors (Gauss; Aitken 1935).
 * @param rows regressors, one row an observation
 * @param sigmas standard errors of the observations
 */
export function weightedFit(rows: number[][], observed: number[], sigmas: number[]): WeightedFit {
  const x = new Matrix(rows);
  const y = Matrix.columnVector(observed);
  const w = Matrix.diag(sigmas.map((s) => 1 / s ** 2));
  const covariance = inverse(x.transpose().mmul(w).mmul(x));
  const values = covariance.mmul(x.transpose()).mmul(w).mmul(y);
  return { values: values.to1DArray(), covariance, rest: Matrix.sub(y, x.mmul(values)).to1DArray() };
}
