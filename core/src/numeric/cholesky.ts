/**
 * Cholesky on flat arrays, row-major. The judgement factorises thousands of small matrices a fit, where a matrix object each would cost more
 * than the arithmetic: this is the one factorisation of the core.
 */

/** Lower factor L of a symmetric positive-definite matrix plus a ridge on its diagonal; only the lower triangle is read and written. */
export function choleskyInto(target: Float64Array, matrix: Float64Array, size: number, ridge = 0): void {
  for (let i = 0; i < size; i += 1) {
    for (let j = 0; j <= i; j += 1) {
      const a = i * size;
      const b = j * size;
      const sum = matrix[a + j]! + (i === j ? ridge : 0) - rowProduct(target, a, b, j);
      target[a + j] = i === j ? Math.sqrt(sum) : sum / target[b + j]!;
    }
  }
}

/** Product of the first entries of two rows; in four sums, so that none waits for the other. */
function rowProduct(matrix: Float64Array, a: number, b: number, count: number): number {
  let first = 0;
  let second = 0;
  let third = 0;
  let fourth = 0;
  let k = 0;
  for (; k + 3 < count; k += 4) {
    first += matrix[a + k]! * matrix[b + k]!;
    second += matrix[a + k + 1]! * matrix[b + k + 1]!;
    third += matrix[a + k + 2]! * matrix[b + k + 2]!;
    fourth += matrix[a + k + 3]! * matrix[b + k + 3]!;
  }
  for (; k < count; k += 1) first += matrix[a + k]! * matrix[b + k]!;
  return first + second + third + fourth;
}

/** Solves L X = B in place for a lower factor (size × size) and right-hand sides B (size × width, row-major). */
export function forwardSolve(lower: Float64Array, size: number, right: Float64Array, width: number): void {
  for (let i = 0; i < size; i += 1) {
    const row = i * width;
    for (let k = 0; k < i; k += 1) {
      const factor = lower[i * size + k]!;
      if (factor === 0) continue;
      const other = k * width;
      for (let j = 0; j < width; j += 1) right[row + j]! -= factor * right[other + j]!;
    }
    const diagonal = lower[i * size + i]!;
    for (let j = 0; j < width; j += 1) right[row + j]! /= diagonal;
  }
}

/** Inverse of a lower factor, row by row: every inner loop runs along a row; into an array that is handed in, or a new one. */
export function lowerInverse(lower: Float64Array, size: number, inverse: Float64Array = new Float64Array(size * size)): Float64Array {
  inverse.fill(0);
  for (let i = 0; i < size; i += 1) {
    const row = i * size;
    // Two rows at a time; the first has nothing where the second has its diagonal.
    for (let k = i % 2; k < i; k += 2) {
      const first = lower[row + k]!;
      const second = lower[row + k + 1]!;
      const a = k * size;
      const b = a + size;
      for (let j = 0; j <= k + 1; j += 1) inverse[row + j]! -= first * inverse[a + j]! + second * inverse[b + j]!;
    }
    if (i % 2 === 1) inverse[row]! -= lower[row]! * inverse[0]!;
    const diagonal = lower[row + i]!;
    for (let j = 0; j < i; j += 1) inverse[row + j]! /= diagonal;
    inverse[row + i] = 1 / diagonal;
  }
  return inverse;
}

/** Room for the factors on the way to an inverse, by size: thousands of small inverses a fit would leave as many arrays behind. */
const rooms = new Map<number, { lower: Float64Array; root: Float64Array }>();
function roomFor(size: number): { lower: Float64Array; root: Float64Array } {
  const known = rooms.get(size);
  if (known) return known;
  const room = { lower: new Float64Array(size * size), root: new Float64Array(size * size) };
  rooms.set(size, room);
  return room;
}

/** Inverse and natural logarithm of the determinant of a symmetric positive-definite matrix. */
export function invertPositiveDefinite(matrix: Float64Array, size: number): { inverse: Float64Array; logDeterminant: number } {
  const { lower, root } = roomFor(size);
  choleskyInto(lower, matrix, size);
  let logDeterminant = 0;
  for (let i = 0; i < size; i += 1) logDeterminant += 2 * Math.log(lower[i * size + i]!);
  return { inverse: transposedSquare(lowerInverse(lower, size, root), size), logDeterminant };
}

/** T' T of a lower triangle T. */
function transposedSquare(t: Float64Array, size: number): Float64Array {
  const square = new Float64Array(size * size);
  for (let k = 0; k < size; k += 1) {
    const row = k * size;
    for (let i = 0; i <= k; i += 1) {
      const factor = t[row + i]!;
      for (let j = 0; j <= k; j += 1) square[i * size + j]! += factor * t[row + j]!;
    }
  }
  return square;
}
