import { relationOf } from './relation.js';
import { seriesBetween, type Series } from './series.js';
import { studentQuantile } from '../numeric/distributions.js';

/** A channel over a stretch of time: its mean and how it drifts, each with a 95 % interval for as many samples as are independent. */
export interface Stretch {
  mean: { value: number; low: number; high: number };
  /** Per minute. */
  drift: { value: number; low: number; high: number };
  seconds: number;
}

/** Mean and drift of a channel between two times, as of a steady load; null where too few samples tell anything. */
export function stretchOf(series: Series, fromS: number, toS: number): Stretch | null {
  const inside = seriesBetween(series, fromS, toS);
  const n = inside.at.length;
  const { line } = relationOf(inside, { at: inside.at, values: inside.at });
  if (!line) return null;
  const value = inside.values.reduce((sum, own) => sum + own, 0) / n;
  const half = (studentQuantile(line.independent - 2) * line.scatter) / Math.sqrt(line.independent);
  return {
    mean: { value, low: value - half, high: value + half },
    drift: { value: 60 * line.slope, low: 60 * line.low, high: 60 * line.high },
    seconds: inside.at[n - 1]! - inside.at[0]!,
  };
}
