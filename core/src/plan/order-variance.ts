import type { Assumptions, NoiseBelief } from '../judge/assumptions.js';
import { noiseGrid } from '../judge/noise-grid.js';
import { RESOLUTION_FACTORS, learningVariance, type PlannedSeries, type Resolution } from '../judge/resolution.js';

/**
 * The same figures as `planResolution`, on flat arrays and without matrix objects: an order is judged in a fraction of a millisecond, so
 * that a search can look at thousands. A test holds the two against each other.
 */
export function orderResolution(series: PlannedSeries, assumptions: Assumptions, noise: NoiseBelief): Resolution[] {
  const n = series.setup.length;
  const columns = Math.max(0, ...series.setup) + 1;
  const meanTime = series.timeH.reduce((sum, t) => sum + t, 0) / n;
  const learning = learningVariance(assumptions);
  const fade = series.pullsBefore.map((k) => Math.exp(-k / assumptions.learningPulls));
  // Double-centred −|t_i − t_j|/2.
  const distance = (i: number, j: number) => -Math.abs(series.timeH[i]! - series.timeH[j]!) / 2;
  const rows = series.timeH.map((_, i) => series.timeH.reduce((sum, __, j) => sum + distance(i, j), 0) / n);
  const all = rows.reduce((sum, value) => sum + value, 0) / n;
  const base = new Float64Array(n * n);
  for (let i = 0; i < n; i++) {
    for (let j = 0; j <= i; j++) {
      const drift = assumptions.driftPerHour ** 2 * (series.timeH[i]! - meanTime) * (series.timeH[j]! - meanTime);
      const walk = assumptions.walkPerRootHour ** 2 * (distance(i, j) - rows[i]! - rows[j]! + all);
      base[i * n + j] = drift + walk + learning * fade[i]! * fade[j]!;
    }
  }
  const variances = new Float64Array(columns - 1);
  let total = 0;
  const factor = new Float64Array(n * n);
  const solved = new Float64Array(n * columns);
  const information = new Float64Array(columns * columns);
  for (const { sd, logWeight } of noiseGrid(noise)) {
    const weight = Math.exp(logWeight);
    total += weight;
    choleskyInto(factor, base, n, sd * sd);
    // L⁻¹F, column by column; F'Σ⁻¹F is then its inner product.
    for (let c = 0; c < columns; c++) {
      for (let i = 0; i < n; i++) {
        let value = c === 0 || series.setup[i] === c ? 1 : 0;
        for (let k = 0; k < i; k++) value -= factor[i * n + k]! * solved[k * columns + c]!;
        solved[i * columns + c] = value / factor[i * n + i]!;
      }
    }
    for (let a = 0; a < columns; a++) {
      for (let b = 0; b <= a; b++) {
        let sum = a === b && a > 0 ? 1 / assumptions.setupEffectSd ** 2 : 0;
        for (let i = 0; i < n; i++) sum += solved[i * columns + a]! * solved[i * columns + b]!;
        information[a * columns + b] = sum;
      }
    }
    const diagonal = inverseDiagonal(information, columns);
    for (let c = 1; c < columns; c++) variances[c - 1]! += weight * diagonal[c]!;
  }
  const { widening, twoSided95, resolvable, noDifference } = RESOLUTION_FACTORS;
  return Array.from(variances, (variance) => {
    const sdPct = 100 * widening * Math.sqrt(variance / total);
    return { halfWidthPct: twoSided95 * sdPct, smallestResolvablePct: resolvable * sdPct, smallestNoDifferencePct: noDifference * sdPct };
  });
}

function choleskyInto(target: Float64Array, lower: Float64Array, n: number, ridge: number): void {
  for (let i = 0; i < n; i++) {
    for (let j = 0; j <= i; j++) {
      let sum = lower[i * n + j]! + (i === j ? ridge : 0);
      for (let k = 0; k < j; k++) sum -= target[i * n + k]! * target[j * n + k]!;
      target[i * n + j] = i === j ? Math.sqrt(sum) : sum / target[j * n + j]!;
    }
  }
}

/** Diagonal of the inverse of a small positive definite matrix, from its lower half. */
function inverseDiagonal(lower: Float64Array, n: number): Float64Array {
  const factor = new Float64Array(n * n);
  choleskyInto(factor, lower, n, 0);
  const diagonal = new Float64Array(n);
  const column = new Float64Array(n);
  for (let c = 0; c < n; c++) {
    for (let i = 0; i < n; i++) {
      let value = i === c ? 1 : 0;
      for (let k = c; k < i; k++) value -= factor[i * n + k]! * column[k]!;
      column[i] = i < c ? 0 : value / factor[i * n + i]!;
      diagonal[c]! += column[i]! ** 2;
    }
  }
  return diagonal;
}
