import { estimateOf, type Combination, type Estimate, type Mixture } from './fit.js';
import type { LeastSquares } from './least-squares.js';
import type { Component } from './mixture.js';
import type { PullSeries } from './series.js';
import type { ModelPart, PartCause, StoryModel } from './story-covariance.js';

/**
 * How much of each used pull's value a part of the model was: its posterior mean, averaged over the mixture, by cause (method of section 6).
 * The value minus these is the pull as levelled. Same unit as the value, one entry a pull.
 */
export function partsOfPulls({ series, combinations }: Mixture): Map<PartCause, Float64Array> {
  const n = series.setup.length;
  const parts = new Map<PartCause, Float64Array>();
  for (const [model, own] of byModel(combinations)) {
    const weight = own.reduce((sum, combination) => sum + combination.weight, 0);
    const rest = new Float64Array(n);
    for (const [squares, members] of bySquares(own)) squares.weightedRest(members).forEach((entry, i) => (rest[i]! += entry));
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
export function partDifference({ series, combinations }: Mixture, { candidate, causes, withEffect = false }: Asked): Estimate | null {
  const contrast = contrastOf(series, candidate);
  const components: Component[] = [];
  let value = 0;
  for (const [model, own] of byModel(combinations)) {
    const parts = model.parts.filter(({ cause }) => causes.includes(cause));
    if (parts.length === 0 && !withEffect) return null;
    const { before, withValue } = priorOf(parts, contrast);
    for (const [squares, members] of bySquares(own)) {
      const prepared = squares.prepare(withValue);
      for (const { bad, solution, weight } of members) {
        const { mean, variance } = squares.posterior(prepared, before, { bad, solution, candidate: withEffect ? candidate : null });
        value += weight * mean;
        if (weight > NEGLIGIBLE_WEIGHT) components.push({ weight, mean, sd: Math.sqrt(Math.max(variance, LEAST_VARIANCE)) });
      }
    }
  }
  const total = components.reduce((sum, { weight }) => sum + weight, 0);
  return { ...estimateOf(components.map((component) => ({ ...component, weight: component.weight / total }))), value };
}

/** Combinations lighter than this move no limit by what is shown of it. */
const NEGLIGIBLE_WEIGHT = 1e-7;
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

function byModel(combinations: readonly Combination[]): Map<StoryModel, Combination[]> {
  return grouped(combinations, ({ story }) => story.model);
}

function bySquares(combinations: readonly Combination[]): Map<LeastSquares, Combination[]> {
  return grouped(combinations, ({ squares }) => squares);
}

function grouped<K>(combinations: readonly Combination[], key: (combination: Combination) => K): Map<K, Combination[]> {
  const groups = new Map<K, Combination[]>();
  for (const combination of combinations) {
    const own = groups.get(key(combination));
    if (own) own.push(combination);
    else groups.set(key(combination), [combination]);
  }
  return groups;
}

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i += 1) sum += a[i]! * b[i]!;
  return sum;
}
