import type { Assumptions, NoiseBelief, StoryName } from './assumptions.js';
import { LeastSquares, type BadPull } from './least-squares.js';
import { NEGLIGIBLE_WEIGHT, NormalMixture } from './mixture.js';
import { noiseGrid } from './noise-grid.js';
import { candidateCount, type PullSeries } from './series.js';
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

/** A fit with what it averages: what each pull's parts were is asked of this. */
export interface Mixture {
  fit: Fit;
  series: PullSeries;
  groups: StoryAtNoise[];
  /** How pulls may be bad, in the order of the groups' weights. */
  bads: BadPull[];
}

/** One story at one noise, with the weights of its combinations: no bad pull first, then each pull by each shift. */
export interface StoryAtNoise {
  story: WeightedStory;
  noise: number;
  squares: LeastSquares;
  /** Logarithms, until they are known together. */
  weights: Float64Array;
}

/**
 * Goes through every combination of noise, story and bad pull, fits each by weighted least squares with priors, and averages the
 * answers by how well each predicted the pulls (method of section 1.2). A bad pull changes one diagonal element, so each
 * (story, noise) is factorised once and the bad pulls follow by rank-one changes; effects are asked of those alone that count.
 */
export function fitMixture(series: PullSeries, stories: WeightedStory[], options: FitOptions): Mixture {
  const kinds = badPullKinds(options.badPull, series.setup.length);
  const groups = stories
    .filter(({ weight }) => weight > 0)
    .flatMap((story) =>
      noiseGrid(options.noise).map(({ sd, logWeight }): StoryAtNoise => {
        const squares = new LeastSquares(series, story.model, sd, options.setupEffectSd);
        const weights = squares.logLikelihoods(kinds.extra, kinds.shifts);
        const prior = logWeight + Math.log(story.weight) + story.model.logEvidence;
        for (let at = 0; at < weights.length; at += 1) {
          weights[at]! += prior + (at === 0 ? kinds.logNone : kinds.logChances[(at - 1) % kinds.shifts.length]!);
        }
        return { story, noise: sd, squares, weights };
      }),
    );
  weigh(groups);
  return summarise(series, groups, kinds);
}

/** How a pull may be bad: by which shifts, with which variance beside, and the chances of it, of none and of each. */
function badPullKinds(badPull: FitOptions['badPull'], pulls: number) {
  if (!badPull) return { extra: 0, shifts: [], logNone: 0, logChances: [] };
  const { chance, size, sd, lowShare } = badPull;
  const one = (pulls - 1) * Math.log(1 - chance) + Math.log(chance);
  return {
    extra: sd ** 2,
    shifts: [size, -size],
    logNone: pulls * Math.log(1 - chance),
    logChances: [one + Math.log(lowShare), one + Math.log(1 - lowShare)],
  };
}

/** Gives each combination its weight; they add up to 1. */
function weigh(groups: readonly StoryAtNoise[]): void {
  let largest = -Infinity;
  for (const { weights } of groups) for (let at = 0; at < weights.length; at += 1) largest = Math.max(largest, weights[at]!);
  let sum = 0;
  for (const { weights } of groups) for (let at = 0; at < weights.length; at += 1) sum += weights[at] = Math.exp(weights[at]! - largest);
  for (const { weights } of groups) for (let at = 0; at < weights.length; at += 1) weights[at]! /= sum;
}

/** Mean and 95 % interval of a mixture of normals. */
export function estimateOf(mixture: NormalMixture): Estimate {
  return { value: mixture.mean(), low: mixture.quantile(0.025), high: mixture.quantile(0.975) };
}

function summarise(series: PullSeries, groups: StoryAtNoise[], { extra, shifts }: ReturnType<typeof badPullKinds>): Mixture {
  const story: Record<StoryName, number> = { none: 0, day: 0, swap: 0 };
  const pulls = series.setup.map((_, pull) => pull);
  const bad = pulls.map(() => 0);
  const bads = [NONE, ...pulls.flatMap((pull) => shifts.map((shift): BadPull => ({ pull, shift, extra })))];
  const mixtures = Array.from({ length: candidateCount(series) }, () => new NormalMixture(groups.length * bads.length));
  let noise = 0;
  for (const { story: told, noise: sd, squares, weights } of groups) {
    for (let at = 0; at < bads.length; at += 1) {
      const weight = weights[at]!;
      const { pull } = bads[at]!;
      story[told.name] += weight;
      noise += weight * sd;
      if (pull >= 0) bad[pull]! += weight;
      if (weight <= NEGLIGIBLE_WEIGHT) continue;
      for (let candidate = 1; candidate <= mixtures.length; candidate += 1) {
        const { mean, variance } = squares.effect(bads[at]!, candidate);
        mixtures[candidate - 1]!.add(weight, mean, variance);
      }
    }
  }
  return { fit: { estimates: mixtures.map(estimateOf), noise, story, bad }, series, groups, bads };
}

const NONE: BadPull = { pull: -1, shift: 0, extra: 0 };
