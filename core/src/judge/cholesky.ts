import { CholeskyDecomposition, type Matrix } from 'ml-matrix';

/**
 * Cholesky factor of a symmetric positive-definite matrix. The package compares the two triangles bit by bit, and sums in another
 * order differ in the last one: the lower triangle is copied over the upper first.
 */
export function cholesky(matrix: Matrix): CholeskyDecomposition {
  const symmetric = matrix.clone();
  for (let i = 0; i < symmetric.rows; i += 1) {
    for (let j = 0; j < i; j += 1) symmetric.set(j, i, symmetric.get(i, j));
  }
  return new CholeskyDecomposition(symmetric);
}

/** Natural logarithm of the determinant of a matrix from its factor. */
export function logDeterminant(factor: CholeskyDecomposition): number {
  const lower = factor.lowerTriangularMatrix;
  let sum = 0;
  for (let i = 0; i < lower.rows; i += 1) sum += 2 * Math.log(lower.get(i, i));
  return sum;
}
