import { Matrix } from 'ml-matrix';
import type { Assumptions, Belief } from './assumptions.js';
import { invertPositiveDefinite } from '../numeric/cholesky.js';
import { placesByGroup, walkCovariance } from '../numeric/random-walk.js';
import { boostWanderVariance } from './manifold-scatter.js';
import { candidateCount, centred, setupMean, type PullSeries } from './series.js';

/** A known influence on the value: a centred column and the belief about its coefficient. */
export interface Term {
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
  /** The learning loss of this story, and E = exp(−k/…) per pull. */
  learning: { loss: Belief; fade: Float64Array } | null;
  /** Witnesses that are fitted together with the value. */
  ignitionWitness: boolean;
  pressureWitness: boolean;
}

/** Expectation and covariance of the value's rows, given the witnesses, and how well the story predicted the witnesses. */
export interface StoryModel {
  mean: Float64Array;
  covariance: Matrix;
  logEvidence: number;
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

/** Builds one story's rows for the value and its witnesses and conditions the value on them (method of section 1.1). */
export function storyModel(series: PullSeries, assumptions: Assumptions, model: ModelTerms): StoryModel {
  const value = valueRows(series, model);
  const witnesses: Witness[] = [];
  if (model.ignitionWitness && series.ignitionDeg) witnesses.push(ignitionWitness(series, series.ignitionDeg, assumptions, model));
  if (model.pressureWitness && series.logManifold) witnesses.push(pressureWitness(series, series.logManifold, assumptions));
  for (const witness of witnesses) {
    const n = series.setup.length;
    for (let i = 0; i < n; i += 1) value.covariance.set(i, i, value.covariance.get(i, i) + witness.ownShare);
  }
  return witnesses.length === 0 ? { ...value, logEvidence: 0 } : conditioned(value, witnesses);
}

function valueRows(series: PullSeries, model: ModelTerms): { mean: Float64Array; covariance: Matrix } {
  const n = series.setup.length;
  const time = centredWithinDays(series.timeH, series.day);
  const walk = walkCovariance(series.timeH, series.day);
  const dayVariance = new Set(series.day).size > 1 ? model.dayToDay ** 2 : 0;
  const mean = new Float64Array(n);
  const covariance = new Matrix(n, n);
  const { learning } = model;
  for (let i = 0; i < n; i += 1) {
    for (const { column, coefficient } of model.terms) mean[i]! += coefficient.mean * column[i]!;
    if (learning) mean[i]! -= learning.loss.mean * learning.fade[i]!;
    for (let j = 0; j < n; j += 1) {
      const sameDay = series.day?.[i] === series.day?.[j];
      let sum = (sameDay ? model.driftPerHour ** 2 * time[i]! * time[j]! + dayVariance : 0) + model.walkPerRootHour ** 2 * walk[i * n + j]!;
      for (const { column, coefficient } of model.terms) sum += coefficient.sd ** 2 * column[i]! * column[j]!;
      if (learning) sum += learning.loss.sd ** 2 * learning.fade[i]! * learning.fade[j]!;
      covariance.set(i, j, sum);
    }
  }
  return { mean, covariance };
}

interface Witness {
  residual: Float64Array;
  covariance: Matrix;
  /** Covariance of value row i (row) with witness row j (column). */
  cross: Matrix;
  /** What the witness's own scatter adds to every value row's variance. */
  ownShare: number;
}

function ignitionWitness(series: PullSeries, ignitionDeg: number[], assumptions: Assumptions, model: ModelTerms): Witness {
  const n = series.setup.length;
  const observed = centred(ignitionDeg);
  const start = series.startIntakeK ? centred(series.startIntakeK) : new Float64Array(n);
  const kappa = assumptions.ignition;
  const loss = model.learning?.loss ?? { mean: 0, sd: 0 };
  const fade = model.learning?.fade ?? new Float64Array(n);
  const { scatterDeg, readingDeg, levelSdDeg, setupFloorDeg, setupShare } = assumptions.witnesses.ignition;
  const scatter = scatterDeg ** 2;
  const setupSd = setupSpread(series, ignitionDeg, setupFloorDeg, setupShare);
  const learningVariance = (loss.sd / kappa.mean) ** 2 + ((loss.mean * kappa.sd) / kappa.mean ** 2) ** 2;
  const residual = observed.map(
    (value, i) => value - (assumptions.ignitionPerKelvin.mean * start[i]! - (loss.mean / kappa.mean) * fade[i]!),
  );
  const covariance = new Matrix(n, n);
  const cross = new Matrix(n, n);
  for (let i = 0; i < n; i += 1) {
    for (let j = 0; j < n; j += 1) {
      const own = i === j ? readingDeg ** 2 + scatter : 0;
      const level = levelSdDeg ** 2 + (sameCandidate(series, i, j) ? setupSd ** 2 : 0);
      const heat = assumptions.ignitionPerKelvin.sd ** 2 * start[i]! * start[j]!;
      covariance.set(i, j, heat + level + own + learningVariance * fade[i]! * fade[j]!);
      cross.set(i, j, (i === j ? kappa.mean * scatter : 0) + (loss.sd ** 2 / kappa.mean) * fade[i]! * fade[j]!);
    }
  }
  return { residual, covariance, cross, ownShare: kappa.mean ** 2 * scatter };
}

function pressureWitness(series: PullSeries, logManifold: number[], { sameAir, witnesses }: Assumptions): Witness {
  const perLog = sameAir.manifoldPressure.mean;
  const { levelSd, setupFloor, readingSd } = witnesses.pressure;
  const n = series.setup.length;
  const wander = boostWanderVariance(series, logManifold, witnesses.pressure);
  const setupSd = setupSpread(series, logManifold, setupFloor, 1);
  const covariance = new Matrix(n, n);
  for (let i = 0; i < n; i += 1) {
    for (let j = 0; j < n; j += 1) {
      const own = i === j ? wander + readingSd ** 2 : 0;
      covariance.set(i, j, levelSd ** 2 + own + (sameCandidate(series, i, j) ? setupSd ** 2 : 0));
    }
  }
  const cross = Matrix.eye(n, n, perLog * wander);
  return { residual: centred(logManifold), covariance, cross, ownShare: perLog ** 2 * wander };
}

function sameCandidate(series: PullSeries, i: number, j: number): boolean {
  return series.setup[i] === series.setup[j] && series.setup[i] !== 0;
}

function setupSpread(series: PullSeries, values: number[], floor: number, share: number): number {
  const reference = setupMean(series, values, 0);
  let spread = floor;
  for (let candidate = 1; candidate <= candidateCount(series); candidate += 1) {
    spread = Math.max(spread, share * Math.abs(setupMean(series, values, candidate) - reference));
  }
  return spread;
}

function conditioned(value: { mean: Float64Array; covariance: Matrix }, witnesses: Witness[]): StoryModel {
  const n = value.mean.length;
  const m = n * witnesses.length;
  const xx = Matrix.zeros(m, m);
  const yx = Matrix.zeros(n, m);
  const residual = Matrix.zeros(m, 1);
  witnesses.forEach((witness, block) => {
    xx.setSubMatrix(witness.covariance, block * n, block * n);
    yx.setSubMatrix(witness.cross, 0, block * n);
    residual.setSubMatrix(Matrix.columnVector(Array.from(witness.residual)), block * n, 0);
  });
  const { inverse, logDeterminant } = invertPositiveDefinite(Float64Array.from(xx.to1DArray()), m);
  const precision = Matrix.from1DArray(m, m, inverse as unknown as number[]);
  const weighted = precision.mmul(residual);
  const gain = precision.mmul(yx.transpose());
  const shift = yx.mmul(weighted);
  const covariance = Matrix.sub(value.covariance, yx.mmul(gain));
  const quadratic = residual.transpose().mmul(weighted).get(0, 0);
  return {
    mean: value.mean.map((entry, i) => entry + shift.get(i, 0)),
    covariance,
    logEvidence: -0.5 * (logDeterminant + quadratic),
  };
}
