import { estimateOf, type Estimate, type Mixture, type StoryAtNoise } from './fit.js';
import { NEGLIGIBLE_WEIGHT, NormalMixture } from './mixture.js';
import type { PullSeries } from './series.js';
import type { ModelPart, PartCause, StoryModel } from './story-covariance.js';

/**
 * How much of each used pull's value a part of the model was: its posterior mean, averaged over the mixture, by cause (method of section 6).
 * The value minus these is the pull as levelled. Same unit as the value, one entry a pull.
 */
export function partsOfPulls({ series, groups, bads }: Mixture): Map<PartCause, Float64Array> {
  const n = series.setup.length;
  const parts = new Map<PartCause, Float64Array>();
  for (const [model, own] of byModel(groups)) {
    let weight = 0;
    const rest = new Float64Array(n);
    for (const { squares, weights } of own) {
      const weighed = bads.map((bad, at) => ({ bad, weight: weights[at]! })).filter((entry) => entry.weight > NEGLIGIBLE_WEIGHT);
      for (const entry of weighed) weight += entry.weight;
      squares.weightedRest(weighed).forEach((entry, i) => (rest[i]! += entry));
    }
    for (const part of model.parts) {
      const into = parts.get(part.cause) ?? new Float64Array(n);
      parts.set(part.cause, into);
      if ('covariance' in part) {
        for (let i = 0; i < n; i += 1) for (let j = 0; j < n; j += 1) into[i]! += part.covariance[i * n + j]! * rest[j]!;
        continue;
      }
      const coefficient = weight * part.coefficient.mean + dot(part.coefficient.withValue, rest);
      part.column.forEach((entry, i) => (into[i]! += coefficient * entry));
    }
  }
  return parts;
}

/** What is asked of a mixture: the parts by cause, and whether the candidate's own effect is added. */
export interface Asked {
  /** 1 … of the series. */
  candidate: number;
  causes: readonly PartCause[];
  withEffect?: boolean;
}

/**
 * How much of the difference of a candidate from the reference, mean of pulls from mean of pulls, some parts of the model were, with its 95 %
 * interval over the whole mixture; null where the model holds none of them.
 */
export function partDifference({ series, groups, bads }: Mixture, { candidate, causes, withEffect = false }: Asked): Estimate | null {
  const contrast = contrastOf(series, candidate);
  const mixture = new NormalMixture(groups.length * bads.length);
  let value = 0;
  for (const [model, own] of byModel(groups)) {
    const parts = model.parts.filter(({ cause }) => causes.includes(cause));
    if (parts.length === 0 && !withEffect) return null;
    const { before, withValue } = priorOf(parts, contrast);
    for (const { squares, weights } of own) {
      const prepared = squares.prepare(withValue);
      for (let at = 0; at < bads.length; at += 1) {
        const weight = weights[at]!;
        if (weight <= NEGLIGIBLE_WEIGHT) continue;
        const { mean, variance } = squares.posterior(prepared, before, bads[at]!, withEffect ? candidate : null);
        value += weight * mean;
        if (weight > MOVES_NO_LIMIT) mixture.add(weight, mean, Math.max(variance, LEAST_VARIANCE));
      }
    }
  }
  return { ...estimateOf(mixture), value };
}

/** Combinations lighter than this move no limit by what is shown of it. */
const MOVES_NO_LIMIT = 1e-7;
/** A part that is the same for both setups has no width: the quantiles of a mixture need some. */
const LEAST_VARIANCE = 1e-16;

/** Mean of the candidate's pulls minus mean of the reference's. */
function contrastOf({ setup }: PullSeries, candidate: number): Float64Array {
  const count = (of: number) => setup.filter((own) => own === of).length;
  const [reference, own] = [count(0), count(candidate)];
  return Float64Array.from(setup, (entry) => (entry === candidate ? 1 / own : entry === 0 ? -1 / reference : 0));
}

/** Expectation and variance of a contrast of parts before the value is seen, and its covariance with the value rows. */
function priorOf(parts: readonly ModelPart[], contrast: Float64Array) {
  const n = contrast.length;
  const before = { mean: 0, variance: 0 };
  const withValue = new Float64Array(n);
  for (const part of parts) {
    if ('covariance' in part) {
      for (let i = 0; i < n; i += 1) {
        let sum = 0;
        for (let j = 0; j < n; j += 1) sum += part.covariance[i * n + j]! * contrast[j]!;
        withValue[i]! += sum;
        before.variance += contrast[i]! * sum;
      }
      continue;
    }
    const size = dot(part.column, contrast);
    before.mean += size * part.coefficient.mean;
    before.variance += size * size * part.coefficient.variance;
    part.coefficient.withValue.forEach((entry, i) => (withValue[i]! += size * entry));
  }
  return { before, withValue };
}

/** The groups of each story's model. */
function byModel(groups: readonly StoryAtNoise[]): Map<StoryModel, StoryAtNoise[]> {
  const models = new Map<StoryModel, StoryAtNoise[]>();
  for (const group of groups) {
    const own = models.get(group.story.model);
    if (own) own.push(group);
    else models.set(group.story.model, [group]);
  }
  return models;
}

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i += 1) sum += a[i]! * b[i]!;
  return sum;
}
