import jstat from 'jstat';
import { mean } from './series.js';

/** Difference of two groups' means with its 95 % interval. */
export interface Difference {
  value: number;
  low: number | null;
  high: number | null;
}

/**
 * Difference b − a of two groups' means with a 95 % Student interval from the pooled variance (two-sample t, equal variances; any
 * statistics textbook). The limits are null where neither group has a repeat. Null for an empty group.
 */
export function pooledDifference(a: readonly number[], b: readonly number[]): Difference | null {
  if (a.length === 0 || b.length === 0) return null;
  const [meanA, meanB] = [mean(a), mean(b)];
  const df = a.length + b.length - 2;
  const value = meanB - meanA;
  if (df === 0) return { value, low: null, high: null };
  const squares = a.reduce((sum, x) => sum + (x - meanA) ** 2, 0) + b.reduce((sum, x) => sum + (x - meanB) ** 2, 0);
  const half = jstat.studentt.inv(0.975, df) * Math.sqrt((squares / df) * (1 / a.length + 1 / b.length));
  return { value, low: value - half, high: value + half };
}

/** Mean of a group with its 95 % Student interval; limits null for a single value. */
export function meanInterval(values: readonly number[]): Difference | null {
  if (values.length === 0) return null;
  const value = mean(values);
  const df = values.length - 1;
  if (df === 0) return { value, low: null, high: null };
  const sd = Math.sqrt(values.reduce((sum, x) => sum + (x - value) ** 2, 0) / df);
  const half = (jstat.studentt.inv(0.975, df) * sd) / Math.sqrt(values.length);
  return { value, low: value - half, high: value + half };
}
