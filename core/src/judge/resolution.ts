import type { Assumptions, NoiseBelief } from './assumptions.js';
import { choleskyInto, lowerInverse } from '../numeric/cholesky.js';
import { mean } from '../numeric/means.js';
import { walkCovariance } from '../numeric/random-walk.js';
import { noiseGrid } from './noise-grid.js';

/** The measured pulls of a plan or of a day, in order. */
export interface PlannedSeries {
  /** 0 is the reference. */
  setup: number[];
  timeH: number[];
  /** Pulls of any kind before this one since the start of the day. */
  pullsBefore: number[];
}

/** What an order of pulls can recognise, in per cent of the value. */
export interface Resolution {
  halfWidthPct: number;
  /** A true gain of this size is recognised on four days of five. */
  smallestResolvablePct: number;
  /** For a smallest gain that matters of this size, "no difference" comes out on four days of five. */
  smallestNoDifferencePct: number;
}

const TWO_SIDED_95 = 1.96;
const ONE_SIDED_80 = 0.84;
const TWO_SIDED_80 = 1.28;
/** The mixture's intervals are wider than the averaged variance says, by this factor (measured). */
const MIXTURE_WIDENING = 1.04;
/** Variance of a learning loss, averaged over the stories: 0.60·0.001² + 0.40·(0.018² + 0.008²). */
function learningVariance({ stories }: Assumptions): number {
  return Object.values(stories).reduce((sum, { weight, loss }) => sum + weight * (loss.mean ** 2 + loss.sd ** 2), 0);
}

/**
 * Resolution of each candidate against the reference, before any data (method of section 4). On flat arrays, without matrix objects: an
 * order is judged in a fraction of a millisecond, so that every move of a plan is told at once and a search can look at thousands.
 */
export function planResolution(series: PlannedSeries, assumptions: Assumptions, noise: NoiseBelief): Resolution[] {
  const n = series.setup.length;
  const columns = Math.max(0, ...series.setup) + 1;
  const meanTime = mean(series.timeH);
  const learning = learningVariance(assumptions);
  const fade = series.pullsBefore.map((k) => Math.exp(-k / assumptions.learningPulls));
  const walk = walkCovariance(series.timeH);
  const base = new Float64Array(n * n);
  for (let i = 0; i < n; i++) {
    for (let j = 0; j <= i; j++) {
      const drift = assumptions.driftPerHour ** 2 * (series.timeH[i]! - meanTime) * (series.timeH[j]! - meanTime);
      base[i * n + j] = drift + assumptions.walkPerRootHour ** 2 * walk[i * n + j]! + learning * fade[i]! * fade[j]!;
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
  return Array.from(variances, (variance) => resolutionOf(100 * MIXTURE_WIDENING * Math.sqrt(variance / total)));
}

/** Diagonal of the inverse of a small positive definite matrix, from its lower half: the sums of squares of the columns of L⁻¹. */
function inverseDiagonal(lower: Float64Array, n: number): Float64Array {
  const factor = new Float64Array(n * n);
  choleskyInto(factor, lower, n);
  const inverse = lowerInverse(factor, n);
  const diagonal = new Float64Array(n);
  for (let i = 0; i < n; i++) for (let c = 0; c <= i; c++) diagonal[c]! += inverse[i * n + c]! ** 2;
  return diagonal;
}

function resolutionOf(sdPct: number): Resolution {
  return {
    halfWidthPct: TWO_SIDED_95 * sdPct,
    smallestResolvablePct: (TWO_SIDED_95 + ONE_SIDED_80) * sdPct,
    smallestNoDifferencePct: (TWO_SIDED_95 + TWO_SIDED_80) * sdPct,
  };
}

/** Resolution that a finished day had, from its interval (logarithms): the widening is already in it. */
export function achievedResolution(low: number, high: number): Resolution {
  return resolutionOf((100 * (high - low)) / 2 / TWO_SIDED_95);
}
