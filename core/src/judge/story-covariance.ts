import type { Belief } from './assumptions.js';
import { placesByGroup, walkCovariance } from '../numeric/random-walk.js';
import { centred, type PullSeries } from './series.js';
import type { Witnessed } from './witnesses.js';

/** What of a value a part of the model stands for. */
export type PartCause = 'heatState' | 'oil' | 'drift' | 'learning' | 'chargeTemperature' | 'manifoldPressure';

/** A known influence on the value: a centred column and the belief about its coefficient. */
export interface Term {
  cause: PartCause;
  column: Float64Array;
  coefficient: Belief;
}

/** What the value's rows contain beside setups and noise. */
export interface ModelTerms {
  terms: Term[];
  driftPerHour: number;
  walkPerRootHour: number;
  /** Standard deviation from day to day; counts where the pulls span several days. */
  dayToDay: number;
  /** The learning loss of this story, E = exp(−k/…) per pull, and power per degree, by which ignition saw the same loss. */
  learning: { loss: Belief; fade: Float64Array; perDegree: number } | null;
}

/**
 * A part of the value's rows, so that it can be told afterwards how much of each pull it was: a column times one unknown coefficient (its
 * expectation, its variance and its covariance with the value rows, all given the witnesses), or a whole covariance around zero, n × n.
 */
export type ModelPart =
  | { cause: PartCause; column: Float64Array; coefficient: { mean: number; variance: number; withValue: Float64Array } }
  | { cause: PartCause; covariance: Float64Array };

/** Expectation and covariance of the value's rows, given the witnesses, and how well the story predicted the witnesses. */
export interface StoryModel {
  mean: Float64Array;
  /** n × n; null: nothing but the noise. */
  covariance: Float64Array | null;
  logEvidence: number;
  parts: ModelPart[];
}

/** Times in hours around the mean of their own day. */
function centredWithinDays(timeH: readonly number[], day: readonly number[] | undefined): Float64Array {
  const centredTimes = new Float64Array(timeH.length);
  for (const members of placesByGroup(timeH.length, day)) {
    const own = centred(members.map((i) => timeH[i]!));
    members.forEach((i, a) => (centredTimes[i] = own[a]!));
  }
  return centredTimes;
}

/** Builds one story's rows for the value and conditions them on what the witnesses say (method of section 1.1). */
export function storyModel(series: PullSeries, model: ModelTerms, witnessed: Witnessed | null): StoryModel {
  const n = series.setup.length;
  const { learning } = model;
  const drift = driftCovariance(series, model);
  const mean = new Float64Array(n);
  const covariance = drift.slice();
  const columns = [
    ...model.terms.map(({ column, coefficient }) => ({ column, mean: coefficient.mean, sd: coefficient.sd })),
    ...(learning ? [{ column: learning.fade, mean: -learning.loss.mean, sd: learning.loss.sd }] : []),
  ];
  for (const { column, mean: expected, sd } of columns) {
    const variance = sd * sd;
    for (let i = 0; i < n; i += 1) {
      mean[i]! += expected * column[i]!;
      const scaled = variance * column[i]!;
      for (let j = 0; j < n; j += 1) covariance[i * n + j]! += scaled * column[j]!;
    }
  }
  const parts = partsOf(model, drift, witnessed);
  if (!witnessed) return { mean, covariance, logEvidence: 0, parts };
  for (let i = 0; i < n; i += 1) {
    mean[i]! += witnessed.shift[i]!;
    covariance[i * n + i]! += witnessed.ownShare;
  }
  for (let at = 0; at < n * n; at += 1) covariance[at]! -= witnessed.reduction[at]!;
  return { mean, covariance, logEvidence: witnessed.logEvidence, parts };
}

/** Covariance of drift, walk and days, n × n. */
function driftCovariance(series: PullSeries, model: ModelTerms): Float64Array {
  const n = series.setup.length;
  const time = centredWithinDays(series.timeH, series.day);
  const covariance = walkCovariance(series.timeH, series.day);
  const dayVariance = new Set(series.day).size > 1 ? model.dayToDay ** 2 : 0;
  for (let i = 0; i < n; i += 1) {
    for (let j = 0; j < n; j += 1) {
      const sameDay = series.day?.[i] === series.day?.[j];
      covariance[i * n + j] =
        (sameDay ? model.driftPerHour ** 2 * time[i]! * time[j]! + dayVariance : 0) + model.walkPerRootHour ** 2 * covariance[i * n + j]!;
    }
  }
  return covariance;
}

function partsOf({ terms, learning }: ModelTerms, drift: Float64Array, witnessed: Witnessed | null): ModelPart[] {
  const known = terms.map(({ cause, column, coefficient: { mean, sd } }): ModelPart => {
    return { cause, column, coefficient: { mean, variance: sd * sd, withValue: column.map((entry) => sd * sd * entry) } };
  });
  const parts: ModelPart[] = [...known, { cause: 'drift', covariance: drift }];
  if (!learning) return parts;
  const { loss, fade, perDegree } = learning;
  const variance = loss.sd ** 2;
  // Ignition saw the same loss, as so many degrees: what it says of it comes in here.
  const share = variance / perDegree;
  const seen = witnessed?.fade ?? { withValue: new Float64Array(fade.length), mean: 0, variance: 0 };
  parts.push({
    cause: 'learning',
    column: fade,
    coefficient: {
      mean: -loss.mean + share * seen.mean,
      variance: variance - share * share * seen.variance,
      withValue: fade.map((entry, i) => variance * entry - share * seen.withValue[i]!),
    },
  });
  return parts;
}
