import type { PressureWitnessBelief } from './assumptions.js';
import { candidateCount, withinSetup, type PullSeries } from './series.js';

/** Boost that differs by less is never reported as changed, as a logarithm. */
const THRESHOLD_FLOOR = 0.01;

function pooled(series: PullSeries, logManifold: readonly number[], priorVariance: number, priorPulls: number): number {
  const within = withinSetup(series, logManifold).reduce((sum, value) => sum + value * value, 0);
  const df = Math.max(0, series.setup.length - 1 - candidateCount(series));
  return (priorPulls * priorVariance + within) / (priorPulls + df);
}

/** Variance with which boost wanders from pull to pull, from the day itself and a prior (ln²). */
export function boostWanderVariance(
  series: PullSeries,
  logManifold: readonly number[],
  { wanderSd, wanderPulls, readingSd }: PressureWitnessBelief,
): number {
  const variance = pooled(series, logManifold, wanderSd ** 2 + readingSd ** 2, wanderPulls) - readingSd ** 2;
  return Math.max(variance, 1e-8);
}

/** Smallest difference in mean ln manifold pressure of two setups that is reported as changed boost. */
export function boostThresholdLn(
  series: PullSeries,
  logManifold: readonly number[],
  candidate: number,
  { wanderSd, wanderPulls }: PressureWitnessBelief,
): number {
  const variance = pooled(series, logManifold, wanderSd ** 2, wanderPulls);
  const count = (setup: number) => series.setup.filter((entry) => entry === setup).length;
  return Math.max(THRESHOLD_FLOOR, 2.5 * Math.sqrt(variance * (1 / count(0) + 1 / count(candidate))));
}
