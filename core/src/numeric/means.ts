import { studentQuantile } from './distributions.js';

/** Arithmetic mean; NaN for none. */
export function mean(values: Iterable<number>): number {
  let sum = 0;
  let count = 0;
  for (const value of values) {
    sum += value;
    count += 1;
  }
  return sum / count;
}

/** Up to so many values are sorted by insertion: a sample's neighbours, tens of thousands of times a pull. */
const FEW = 16;

/** Sorts in place, NaN last. */
function sortFew(values: Float64Array): void {
  for (let i = 1; i < values.length; i += 1) {
    const value = values[i]!;
    if (Number.isNaN(value)) continue;
    let at = i;
    // Also past what is not a number.
    for (; at > 0 && !(values[at - 1]! <= value); at -= 1) values[at] = values[at - 1]!;
    values[at] = value;
  }
}

/** Median; NaN for none. */
export function median(values: ArrayLike<number>): number {
  const sorted = new Float64Array(values);
  if (sorted.length <= FEW) sortFew(sorted);
  else sorted.sort();
  const middle = sorted.length >> 1;
  if (sorted.length === 0) return Number.NaN;
  return sorted.length % 2 === 1 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
}

/**
 * Median of the values from so long before to so long after each time, the end not counted; NaN where fewer than so many are there. The values
 * around are kept in order from one time to the next.
 * @param timeS ascending.
 * @param values without NaN.
 */
export function movingMedian(timeS: Float64Array, values: Float64Array, half: number, least: number): Float64Array {
  const medians = new Float64Array(values.length).fill(Number.NaN);
  const sorted = new Float64Array(values.length);
  let [from, to, count] = [0, 0, 0];
  for (let i = 0; i < values.length; i += 1) {
    for (; to < values.length && timeS[to]! < timeS[i]! + half; to += 1) {
      let at = count;
      for (; at > 0 && sorted[at - 1]! > values[to]!; at -= 1) sorted[at] = sorted[at - 1]!;
      sorted[at] = values[to]!;
      count += 1;
    }
    for (; timeS[from]! < timeS[i]! - half; from += 1) {
      let at = 0;
      while (sorted[at] !== values[from]) at += 1;
      sorted.copyWithin(at, at + 1, count);
      count -= 1;
    }
    const middle = count >> 1;
    if (count >= least) medians[i] = count % 2 === 1 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
  }
  return medians;
}

/** Sum of squared deviations from the mean. */
export function sumOfSquares(values: readonly number[]): number {
  const centre = mean(values);
  return values.reduce((sum, value) => sum + (value - centre) ** 2, 0);
}

/** A mean, or a difference of means, with its 95 % interval; the limits are null where nothing was repeated. */
export interface MeanInterval {
  value: number;
  low: number | null;
  high: number | null;
}

/** Mean of a group with its 95 % Student interval, and the standard deviation of one value. Null for an empty group. */
export function meanInterval(values: readonly number[]): (MeanInterval & { sd: number | null }) | null {
  if (values.length === 0) return null;
  const value = mean(values);
  const df = values.length - 1;
  if (df === 0) return { value, sd: null, low: null, high: null };
  const sd = Math.sqrt(sumOfSquares(values) / df);
  const half = (studentQuantile(df) * sd) / Math.sqrt(values.length);
  return { value, sd, low: value - half, high: value + half };
}

/**
 * Difference b − a of two groups' means with a 95 % Student interval from the pooled variance (two-sample t, equal variances; any
 * statistics textbook). The limits are null where neither group has a repeat. Null for an empty group.
 */
export function pooledDifference(a: readonly number[], b: readonly number[]): MeanInterval | null {
  if (a.length === 0 || b.length === 0) return null;
  const value = mean(b) - mean(a);
  const df = a.length + b.length - 2;
  if (df === 0) return { value, low: null, high: null };
  const half = studentQuantile(df) * Math.sqrt(((sumOfSquares(a) + sumOfSquares(b)) / df) * (1 / a.length + 1 / b.length));
  return { value, low: value - half, high: value + half };
}
