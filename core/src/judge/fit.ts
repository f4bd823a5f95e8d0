import type { Assumptions, NoiseBelief, StoryName } from './assumptions.js';
import { LeastSquares, type BadPull, type Solution } from './least-squares.js';
import { mixtureQuantiles, type Component } from './mixture.js';
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

/** One combination of noise, story and bad pull, with its weight. */
export interface Combination {
  story: WeightedStory;
  squares: LeastSquares;
  bad: BadPull;
  noise: number;
  solution: Solution;
  logWeight: number;
  weight: number;
}

/** A fit with the combinations that it averages: what each pull's parts were is asked of these. */
export interface Mixture {
  fit: Fit;
  series: PullSeries;
  combinations: Combination[];
}

/**
 * Goes through every combination of noise, story and bad pull, fits each by weighted least squares with priors, and averages the
 * answers by how well each predicted the pulls (method of section 1.2). A bad pull changes one diagonal element, so each
 * (story, noise) is factorised once and the bad pulls follow by rank-one changes.
 */
export function fitMixture(series: PullSeries, stories: WeightedStory[], options: FitOptions): Mixture {
  const combinations: Combination[] = [];
  for (const story of stories) {
    for (const { sd, logWeight } of noiseGrid(options.noise)) {
      addCombinations(combinations, series, story, sd, logWeight + Math.log(story.weight) + story.model.logEvidence, options);
    }
  }
  weigh(combinations);
  return { fit: summarise(combinations, candidateCount(series), series.setup.length), series, combinations };
}

const NONE: BadPull = { pull: -1, shift: 0, extra: 0 };

function addCombinations(
  into: Combination[],
  series: PullSeries,
  story: WeightedStory,
  sd: number,
  logPrior: number,
  { setupEffectSd, badPull }: FitOptions,
): void {
  const n = series.setup.length;
  const squares = new LeastSquares(series, story.model, sd, setupEffectSd);
  const push = (bad: BadPull, logChance: number) => {
    const solution = squares.solve(bad);
    into.push({ story, squares, bad, noise: sd, solution, logWeight: logPrior + logChance + solution.logLikelihood, weight: 0 });
  };
  const chance = badPull?.chance ?? 0;
  push(NONE, n * Math.log(1 - chance));
  if (!badPull) return;
  const one = (n - 1) * Math.log(1 - chance) + Math.log(chance);
  for (let pull = 0; pull < n; pull += 1) {
    push({ pull, shift: badPull.size, extra: badPull.sd ** 2 }, one + Math.log(badPull.lowShare));
    push({ pull, shift: -badPull.size, extra: badPull.sd ** 2 }, one + Math.log(1 - badPull.lowShare));
  }
}

/** Gives each combination its weight; they add up to 1. */
function weigh(combinations: Combination[]): void {
  const largest = combinations.reduce((most, { logWeight }) => Math.max(most, logWeight), -Infinity);
  let sum = 0;
  for (const combination of combinations) sum += combination.weight = Math.exp(combination.logWeight - largest);
  for (const combination of combinations) combination.weight /= sum;
}

/** Mean and 95 % interval of a mixture of normals. */
export function estimateOf(components: Component[]): Estimate {
  const [low, high] = mixtureQuantiles(components, [0.025, 0.975]);
  return { value: components.reduce((sum, { weight, mean }) => sum + weight * mean, 0), low: low!, high: high! };
}

function summarise(combinations: Combination[], candidates: number, pulls: number): Fit {
  const story: Record<StoryName, number> = { none: 0, day: 0, swap: 0 };
  const bad = new Array<number>(pulls).fill(0);
  let noise = 0;
  for (const combination of combinations) {
    const { weight } = combination;
    story[combination.story.name] += weight;
    noise += weight * combination.noise;
    if (combination.bad.pull >= 0) bad[combination.bad.pull]! += weight;
  }
  const width = candidates + 1;
  const estimates = Array.from({ length: candidates }, (_, at) =>
    estimateOf(
      combinations.map(({ weight, solution: { effects, covariance } }): Component => {
        return { weight, mean: effects[at + 1]!, sd: Math.sqrt(covariance[(at + 1) * width + at + 1]!) };
      }),
    ),
  );
  return { estimates, noise, story, bad };
}
