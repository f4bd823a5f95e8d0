import jstat from 'jstat';
import type { WithInterval } from '../flow/fit-drop-law.js';

/** Mean of repeats with its 95 % interval by Student; null limits with one reading. */
export function meanWithInterval(values: readonly number[]): { value: number; sd: number | null; low: number | null; high: number | null } {
  const n = values.length;
  const value = values.reduce((sum, entry) => sum + entry, 0) / n;
  if (n < 2) return { value, sd: null, low: null, high: null };
  const sd = Math.sqrt(values.reduce((sum, entry) => sum + (entry - value) ** 2, 0) / (n - 1));
  const half = (jstat.studentt.inv(0.975, n - 1) * sd) / Math.sqrt(n);
  return { value, sd, low: value - half, high: value + half };
}

/** Ratio of two means minus 1 with its 95 % interval, from the pooled scatter of the logarithms; null where one side has no scatter to judge by. */
export function ratioOfMeans(before: readonly number[], after: readonly number[]): (WithInterval & { degreesOfFreedom: number }) | null {
  const freedom = before.length + after.length - 2;
  const logs = [before, after].map((values) => values.map((value) => Math.log(value)));
  const means = logs.map((values) => values.reduce((sum, value) => sum + value, 0) / values.length) as [number, number];
  if (freedom < 1 || before.length === 0 || after.length === 0) return null;
  const squares = logs.reduce((sum, values, i) => sum + values.reduce((inner, value) => inner + (value - means[i]!) ** 2, 0), 0);
  const half = jstat.studentt.inv(0.975, freedom) * Math.sqrt((squares / freedom) * (1 / before.length + 1 / after.length));
  const difference = means[1] - means[0];
  return {
    value: Math.expm1(difference),
    low: Math.expm1(difference - half),
    high: Math.expm1(difference + half),
    degreesOfFreedom: freedom,
  };
}

/**
 * Smallest difference of two means of so many readings each that a scatter lets be recognised on four days of five, unit of the scatter:
 * (t₀.₉₇₅ + t₀.₈₀) · s · √(2/n).
 */
export function smallestRecognisable(sd: number, degreesOfFreedom: number, readingsEach: number): number {
  const t = (p: number) => jstat.studentt.inv(p, degreesOfFreedom) as number;
  return (t(0.975) + t(0.8)) * sd * Math.sqrt(2 / readingsEach);
}
