import { CholeskyDecomposition, Matrix } from 'ml-matrix';

/**
 * Cholesky factor of a symmetric matrix.
 * @param lower size x size, row by row, of which the lower triangle is read
 * @param raised the diagonal is raised by this share
 */
export function choleskyOf(lower: Float64Array, size: number, raised: number): CholeskyDecomposition {
  const full = new Matrix(size, size);
  for (let i = 0; i < size; i++)
    for (let j = 0; j <= i; j++) {
      const v = lower[i * size + j]! * (i === j ? 1 + raised : 1);
      full.set(i, j, v);
      full.set(j, i, v);
    }
  return new CholeskyDecomposition(full);
}
