import { candidateCount, withinSetup, type PullSeries } from './series.js';

const WANDER_PRIOR_SD = 0.003;
const WANDER_PRIOR_DF = 4;
/** Standard deviation of the pressure reading itself, as a logarithm; assumption. */
export const PRESSURE_READING_SD = 0.0015;
const THRESHOLD_FLOOR = 0.01;

function pooled(series: PullSeries, logManifold: readonly number[], priorVariance: number): number {
  const within = withinSetup(series, logManifold).reduce((sum, value) => sum + value * value, 0);
  const df = Math.max(0, series.setup.length - 1 - candidateCount(series));
  return (WANDER_PRIOR_DF * priorVariance + within) / (WANDER_PRIOR_DF + df);
}

/** Variance with which boost wanders from pull to pull, from the day itself and a prior (ln²). */
export function boostWanderVariance(series: PullSeries, logManifold: readonly number[]): number {
  const variance = pooled(series, logManifold, WANDER_PRIOR_SD ** 2 + PRESSURE_READING_SD ** 2) - PRESSURE_READING_SD ** 2;
  return Math.max(variance, 1e-8);
}

/** Smallest difference in mean ln manifold pressure of two setups that is reported as changed boost. */
export function boostThresholdLn(series: PullSeries, logManifold: readonly number[], candidate: number): number {
  const variance = pooled(series, logManifold, WANDER_PRIOR_SD ** 2);
  const count = (setup: number) => series.setup.filter((entry) => entry === setup).length;
  return Math.max(THRESHOLD_FLOOR, 2.5 * Math.sqrt(variance * (1 / count(0) + 1 / count(candidate))));
}
