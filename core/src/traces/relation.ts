import { studentQuantile } from '../numeric/distributions.js';
import { seriesAt, type Series } from './series.js';

/** Fewer independent samples than this carry no line. An assumption. */
const FEWEST = 5;

/** A straight line through one channel over another. */
export interface Relation {
  x: Float64Array;
  y: Float64Array;
  /** Null where the samples do not carry one: too few, or all at one place. */
  line: { intercept: number; slope: number; low: number; high: number; scatter: number; independent: number } | null;
}

/**
 * One channel against another at the same moments, and the straight line of least squares through it. Neighbouring samples of a log repeat each
 * other: the interval counts as many as would be independent, by the correlation of neighbouring residuals (Draper & Smith, Applied Regression
 * Analysis; effective sample size of a first-order autoregression).
 */
export function relationOf(yChannel: Series, xChannel: Series): Relation {
  const matched = seriesAt(xChannel, yChannel.at);
  const isKnown = matched.map((value, i) => (Number.isFinite(value) && Number.isFinite(yChannel.values[i]!) ? 1 : 0));
  const x = matched.filter((_, i) => isKnown[i] === 1);
  const y = yChannel.values.filter((_, i) => isKnown[i] === 1);
  return { x, y, line: lineThrough(x, y) };
}

function lineThrough(x: Float64Array, y: Float64Array): Relation['line'] {
  const n = x.length;
  if (n < FEWEST) return null;
  const [xMean, yMean] = [meanOf(x), meanOf(y)];
  let sxx = 0;
  let sxy = 0;
  for (let i = 0; i < n; i += 1) {
    sxx += (x[i]! - xMean) ** 2;
    sxy += (x[i]! - xMean) * (y[i]! - yMean);
  }
  const spread = Math.max(...[x[0]!, x.at(-1)!, xMean].map(Math.abs), 1e-300);
  if (!(sxx > n * (1e-9 * spread) ** 2)) return null;
  const slope = sxy / sxx;
  const intercept = yMean - slope * xMean;
  const residuals = y.map((value, i) => value - intercept - slope * x[i]!);
  const sum = residuals.reduce((total, r) => total + r * r, 0);
  let neighbours = 0;
  for (let i = 1; i < n; i += 1) neighbours += residuals[i]! * residuals[i - 1]!;
  const correlation = sum > 0 ? Math.min(0.999, Math.max(0, neighbours / sum)) : 0;
  const independent = (n * (1 - correlation)) / (1 + correlation);
  if (independent < FEWEST) return null;
  const scatter = Math.sqrt(sum / (n - 2));
  const half = (studentQuantile(independent - 2) * scatter * Math.sqrt(n / independent)) / Math.sqrt(sxx);
  return { intercept, slope, low: slope - half, high: slope + half, scatter, independent };
}

const meanOf = (values: Float64Array) => values.reduce((total, value) => total + value, 0) / values.length;
