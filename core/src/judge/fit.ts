import { inverse, Matrix } from 'ml-matrix';
import type { Assumptions, NoiseBelief, StoryName } from './assumptions.js';
import { cholesky, logDeterminant } from './cholesky.js';
import { mixtureQuantile, type Component } from './mixture.js';
import { noiseGrid } from './noise-grid.js';
import { candidateCount, centred, type PullSeries } from './series.js';
import type { StoryModel } from './story-covariance.js';

/** A difference from the reference in the value's own unit (logarithm or kelvin) with its 95 % interval. */
export interface Estimate {
  value: number;
  low: number;
  high: number;
}

/** One story with its prior weight and its rows. */
export interface WeightedStory {
  name: StoryName;
  weight: number;
  model: StoryModel;
}

export interface Fit {
  /** One a candidate, in order. */
  estimates: Estimate[];
  /** The day's noise: posterior mean of one pull's standard deviation, in the value's unit. */
  noise: number;
  story: Record<StoryName, number>;
  /** Chance that each pull is bad. */
  bad: number[];
}

export interface FitOptions {
  noise: NoiseBelief;
  /** Standard deviation of a candidate's effect beforehand; null leaves it free. */
  setupEffectSd: number | null;
  badPull: Assumptions['badPull'] | null;
}

interface Combination {
  logWeight: number;
  story: StoryName;
  /** Index of the bad pull, −1 for none. */
  bad: number;
  noise: number;
  effects: Float64Array;
  variances: Float64Array;
}

/**
 * Goes through every combination of noise, story and bad pull, fits each by weighted least squares with priors, and averages the
 * answers by how well each predicted the pulls (method of section 1.2). A bad pull changes one diagonal element, so each
 * (story, noise) is factorised once and the bad pulls follow by rank-one changes.
 */
export function fitMixture(series: PullSeries, stories: WeightedStory[], options: FitOptions): Fit {
  const combinations: Combination[] = [];
  for (const story of stories) {
    for (const { sd, logWeight } of noiseGrid(options.noise)) {
      addCombinations(combinations, series, story, sd, logWeight + Math.log(story.weight) + story.model.logEvidence, options);
    }
  }
  const weights = normalised(combinations.map(({ logWeight }) => logWeight));
  return summarise(combinations, weights, candidateCount(series), series.setup.length);
}

function addCombinations(
  into: Combination[],
  series: PullSeries,
  { name, model }: WeightedStory,
  sd: number,
  logPrior: number,
  { setupEffectSd, badPull }: FitOptions,
): void {
  const n = series.setup.length;
  const width = 1 + candidateCount(series);
  const sigma = Matrix.add(model.covariance, Matrix.eye(n, n, sd * sd));
  const factor = cholesky(sigma);
  const precision = factor.solve(Matrix.eye(n, n)).to2DArray();
  const baseLogDeterminant = logDeterminant(factor);
  const observed = centred(series.value);
  const residual = observed.map((value, i) => value - model.mean[i]!);
  const priorPrecision = setupEffectSd === null ? 0 : 1 / setupEffectSd ** 2;

  const weightedResidual = precision.map((row) => row.reduce((sum, value, j) => sum + value * residual[j]!, 0));
  const designSums = precision.map((row) => perSetup(row, series.setup, width));
  const information = new Float64Array(width * width);
  designSums.forEach((sums, i) => {
    for (let column = 0; column < width; column += 1) {
      information[column]! += sums[column]!;
      const setup = series.setup[i]!;
      if (setup > 0) information[setup * width + column]! += sums[column]!;
    }
  });
  for (let c = 1; c < width; c += 1) information[c * width + c]! += priorPrecision;

  const push = (bad: number, logWeight: number, shift: number, extra: number) => {
    const r = bad < 0 ? weightedResidual : shifted(weightedResidual, precision[bad]!, shift);
    const u = bad < 0 ? null : designSums[bad]!;
    const diagonal = bad < 0 ? 0 : precision[bad]![bad]!;
    const c = bad < 0 ? 0 : extra / (1 + extra * diagonal);
    const rBad = bad < 0 ? 0 : r[bad]!;
    const right = perSetup(r, series.setup, width);
    if (u) for (let k = 0; k < width; k += 1) right[k]! -= c * u[k]! * rBad;
    const m = information.slice();
    if (u) for (let a = 0; a < width; a += 1) for (let b = 0; b < width; b += 1) m[a * width + b]! -= c * u[a]! * u[b]!;
    const { solution, inverseDiagonal, logDeterminantOf } = solveSmall(m, right, width);
    let quadratic = -c * rBad * rBad;
    for (let i = 0; i < n; i += 1) quadratic += r[i]! * (residual[i]! + (i === bad ? shift : 0));
    for (let k = 0; k < width; k += 1) quadratic -= solution[k]! * right[k]!;
    const logSigma = baseLogDeterminant + (bad < 0 ? 0 : Math.log(1 + extra * diagonal));
    into.push({
      logWeight: logPrior + logWeight - 0.5 * (logSigma + logDeterminantOf + quadratic),
      story: name,
      bad,
      noise: sd,
      effects: solution.subarray(1),
      variances: inverseDiagonal.subarray(1),
    });
  };

  const chance = badPull?.chance ?? 0;
  push(-1, n * Math.log(1 - chance), 0, 0);
  if (!badPull) return;
  const one = (n - 1) * Math.log(1 - chance) + Math.log(chance);
  for (let i = 0; i < n; i += 1) {
    push(i, one + Math.log(badPull.lowShare), badPull.size, badPull.sd ** 2);
    push(i, one + Math.log(1 - badPull.lowShare), -badPull.size, badPull.sd ** 2);
  }
}

/** A·(r + shift·e_bad), given A·r and the column of A. */
function shifted(weightedResidual: number[], column: number[], shift: number): number[] {
  return weightedResidual.map((value, i) => value + shift * column[i]!);
}

/** Design' · row: the sum over all pulls, then over each candidate's pulls. */
function perSetup(row: ArrayLike<number>, setup: readonly number[], width: number): Float64Array {
  const sums = new Float64Array(width);
  for (let i = 0; i < row.length; i += 1) {
    sums[0]! += row[i]!;
    if (setup[i]! > 0) sums[setup[i]!]! += row[i]!;
  }
  return sums;
}

function solveSmall(m: Float64Array, right: Float64Array, width: number) {
  const matrix = Matrix.from1DArray(width, width, m);
  const v = inverse(matrix);
  const solution = new Float64Array(width);
  const inverseDiagonal = new Float64Array(width);
  for (let i = 0; i < width; i += 1) {
    inverseDiagonal[i] = v.get(i, i);
    for (let j = 0; j < width; j += 1) solution[i]! += v.get(i, j) * right[j]!;
  }
  return { solution, inverseDiagonal, logDeterminantOf: logDeterminant(cholesky(matrix)) };
}

/** Weights that add up to 1 from their logarithms. */
function normalised(logWeights: number[]): Float64Array {
  const largest = logWeights.reduce((a, b) => Math.max(a, b), -Infinity);
  const weights = Float64Array.from(logWeights, (value) => Math.exp(value - largest));
  const sum = weights.reduce((a, b) => a + b, 0);
  return weights.map((value) => value / sum);
}

function summarise(combinations: Combination[], weights: Float64Array, candidates: number, pulls: number): Fit {
  const story: Record<StoryName, number> = { none: 0, day: 0, swap: 0 };
  const bad = new Array<number>(pulls).fill(0);
  let noise = 0;
  combinations.forEach((combination, index) => {
    const weight = weights[index]!;
    story[combination.story] += weight;
    noise += weight * combination.noise;
    if (combination.bad >= 0) bad[combination.bad]! += weight;
  });
  const estimates = Array.from({ length: candidates }, (_, candidate) => {
    const components: Component[] = combinations.map(({ effects, variances }, index) => ({
      weight: weights[index]!,
      mean: effects[candidate]!,
      sd: Math.sqrt(variances[candidate]!),
    }));
    return {
      value: components.reduce((sum, component) => sum + component.weight * component.mean, 0),
      low: mixtureQuantile(components, 0.025),
      high: mixtureQuantile(components, 0.975),
    };
  });
  return { estimates, noise, story, bad };
}
