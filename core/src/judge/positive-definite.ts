/** Inverse and log determinant of a symmetric positive-definite matrix, row-major. */
export interface InverseAndDeterminant {
  inverse: Float64Array;
  logDeterminant: number;
}

/**
 * Inverts a symmetric positive-definite matrix by Cholesky on flat arrays. The judgement does this for every combination of noise,
 * story and bad pull, thousands of times a fit, where a matrix object each would cost more than the arithmetic.
 * @param m row-major, size × size; only the lower triangle is read.
 */
export function invertPositiveDefinite(m: Float64Array, size: number): InverseAndDeterminant {
  const lower = new Float64Array(size * size);
  let logDeterminant = 0;
  for (let i = 0; i < size; i += 1) {
    for (let j = 0; j <= i; j += 1) {
      let sum = m[i * size + j]!;
      for (let k = 0; k < j; k += 1) sum -= lower[i * size + k]! * lower[j * size + k]!;
      if (i === j) {
        lower[i * size + i] = Math.sqrt(sum);
        logDeterminant += Math.log(sum);
      } else lower[i * size + j] = sum / lower[j * size + j]!;
    }
  }
  return { inverse: transposedSquare(lowerInverse(lower, size), size), logDeterminant };
}

function lowerInverse(lower: Float64Array, size: number): Float64Array {
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
