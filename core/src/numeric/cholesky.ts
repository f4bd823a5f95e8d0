/**
 * Cholesky on flat arrays, row-major. The judgement factorises thousands of small matrices a fit, where a matrix object each would cost more
 * than the arithmetic: this is the one factorisation of the core.
 */

/** Lower factor L of a symmetric positive-definite matrix plus a ridge on its diagonal; only the lower triangle is read and written. */
export function choleskyInto(target: Float64Array, matrix: Float64Array, size: number, ridge = 0): void {
  for (let i = 0; i < size; i += 1) {
    for (let j = 0; j <= i; j += 1) {
      let sum = matrix[i * size + j]! + (i === j ? ridge : 0);
      for (let k = 0; k < j; k += 1) sum -= target[i * size + k]! * target[j * size + k]!;
      target[i * size + j] = i === j ? Math.sqrt(sum) : sum / target[j * size + j]!;
    }
  }
}

/** Inverse of a lower factor. */
export function lowerInverse(lower: Float64Array, size: number): Float64Array {
  const inverse = new Float64Array(size * size);
  for (let i = 0; i < size; i += 1) {
    inverse[i * size + i] = 1 / lower[i * size + i]!;
    for (let j = 0; j < i; j += 1) {
      let sum = 0;
      for (let k = j; k < i; k += 1) sum -= lower[i * size + k]! * inverse[k * size + j]!;
      inverse[i * size + j] = sum / lower[i * size + i]!;
    }
  }
  return inverse;
}

/** Inverse and natural logarithm of the determinant of a symmetric positive-definite matrix. */
export function invertPositiveDefinite(matrix: Float64Array, size: number): { inverse: Float64Array; logDeterminant: number } {
  const lower = new Float64Array(size * size);
  choleskyInto(lower, matrix, size);
  let logDeterminant = 0;
  for (let i = 0; i < size; i += 1) logDeterminant += 2 * Math.log(lower[i * size + i]!);
  return { inverse: transposedSquare(lowerInverse(lower, size), size), logDeterminant };
}

/** T' T of a lower triangle T. */
function transposedSquare(t: Float64Array, size: number): Float64Array {
  const square = new Float64Array(size * size);
  for (let i = 0; i < size; i += 1) {
    for (let j = 0; j <= i; j += 1) {
      let sum = 0;
      for (let k = i; k < size; k += 1) sum += t[k * size + i]! * t[k * size + j]!;
      square[i * size + j] = sum;
      square[j * size + i] = sum;
    }
  }
  return square;
}
