/** Index of the first entry of an ascending list that is not below a value. */
export function lowerBound(ascending: ArrayLike<number>, value: number): number {
  let low = 0;
  let high = ascending.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (ascending[middle]! < value) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Linear interpolation between samples; NaN outside them. */
export function interpolate(x: ArrayLike<number>, y: ArrayLike<number>, at: number): number {
  const right = lowerBound(x, at);
  if (right === x.length) return Number.NaN;
  if (x[right] === at) return y[right]!;
  if (right === 0) return Number.NaN;
  const share = (at - x[right - 1]!) / (x[right]! - x[right - 1]!);
  return y[right - 1]! + share * (y[right]! - y[right - 1]!);
}
