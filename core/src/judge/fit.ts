import type { Assumptions, NoiseBelief, StoryName } from './assumptions.js';
import { mixtureQuantile, type Component } from './mixture.js';
import { noiseGrid } from './noise-grid.js';
import { candidateCount, centred, type PullSeries } from './series.js';
import { invertPositiveDefinite } from '../numeric/cholesky.js';
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
  const fit = new LeastSquares(series, model, sd, setupEffectSd);
  const push = (bad: number, logWeight: number, shift: number, extra: number) => {
    const { effects, variances, logLikelihood } = fit.withBadPull(bad, shift, extra);
    into.push({ logWeight: logPrior + logWeight + logLikelihood, story: name, bad, noise: sd, effects, variances });
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

/** Weighted least squares of one story at one noise: factorised once, each bad pull by a rank-one change. */
class LeastSquares {
  readonly #setup: readonly number[];
  readonly #n: number;
  readonly #width: number;
  readonly #precision: Float64Array;
  readonly #logSigma: number;
  readonly #residual: Float64Array;
  /** Precision times the residual, and times each column of the design (n × width). */
  readonly #weighted: Float64Array;
  readonly #designed: Float64Array;
  readonly #information: Float64Array;

  constructor({ setup, value }: PullSeries, model: StoryModel, sd: number, setupEffectSd: number | null) {
    const n = setup.length;
    const width = 1 + Math.max(...setup);
    const sigma = Float64Array.from({ length: n * n }, (_, at) => {
      const [i, j] = [Math.floor(at / n), at % n];
      return model.covariance.get(i, j) + (i === j ? sd * sd : 0);
    });
    const { inverse: precision, logDeterminant } = invertPositiveDefinite(sigma, n);
    this.#setup = setup;
    this.#n = n;
    this.#width = width;
    this.#precision = precision;
    this.#logSigma = logDeterminant;
    this.#residual = centred(value).map((entry, i) => entry - model.mean[i]!);
    this.#weighted = new Float64Array(n);
    this.#designed = new Float64Array(n * width);
    this.#information = new Float64Array(width * width);
    for (let i = 0; i < n; i += 1) {
      for (let j = 0; j < n; j += 1) {
        const entry = precision[i * n + j]!;
        this.#weighted[i]! += entry * this.#residual[j]!;
        this.#designed[i * width]! += entry;
        if (setup[j]! > 0) this.#designed[i * width + setup[j]!]! += entry;
      }
      for (let column = 0; column < width; column += 1) {
        const entry = this.#designed[i * width + column]!;
        this.#information[column]! += entry;
        if (setup[i]! > 0) this.#information[setup[i]! * width + column]! += entry;
      }
    }
    for (let c = 1; c < width; c += 1) this.#information[c * width + c]! += setupEffectSd === null ? 0 : 1 / setupEffectSd ** 2;
  }

  /** The fit where pull `bad` (−1: none) reads off by `shift` with `extra` variance. */
  withBadPull(bad: number, shift: number, extra: number): { effects: Float64Array; variances: Float64Array; logLikelihood: number } {
    const n = this.#n;
    const width = this.#width;
    const isBad = bad >= 0;
    const own = isBad ? this.#precision[bad * n + bad]! : 0;
    const change = isBad ? extra / (1 + extra * own) : 0;
    const weightedBad = isBad ? this.#weighted[bad]! + shift * own : 0;
    const right = new Float64Array(width);
    let quadratic = -change * weightedBad * weightedBad;
    for (let i = 0; i < n; i += 1) {
      const entry = isBad ? this.#weighted[i]! + shift * this.#precision[bad * n + i]! : this.#weighted[i]!;
      right[0]! += entry;
      if (this.#setup[i]! > 0) right[this.#setup[i]!]! += entry;
      quadratic += entry * (i === bad ? this.#residual[i]! + shift : this.#residual[i]!);
    }
    const information = this.#information.slice();
    for (let a = 0; isBad && a < width; a += 1) {
      const designed = change * this.#designed[bad * width + a]!;
      right[a]! -= designed * weightedBad;
      for (let b = 0; b < width; b += 1) information[a * width + b]! -= designed * this.#designed[bad * width + b]!;
    }
    const { inverse, logDeterminant } = invertPositiveDefinite(information, width);
    const effects = new Float64Array(width - 1);
    const variances = new Float64Array(width - 1);
    for (let a = 0; a < width; a += 1) {
      let solution = 0;
      for (let b = 0; b < width; b += 1) solution += inverse[a * width + b]! * right[b]!;
      quadratic -= solution * right[a]!;
      if (a === 0) continue;
      effects[a - 1] = solution;
      variances[a - 1] = inverse[a * width + a]!;
    }
    const logSigma = this.#logSigma + (isBad ? Math.log(1 + extra * own) : 0);
    return { effects, variances, logLikelihood: -0.5 * (logSigma + logDeterminant + quadratic) };
  }
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
