import { Matrix, QrDecomposition } from 'ml-matrix';
import { studentQuantile } from '../numeric/distributions.js';
import { positive } from '../input-rules.js';
import { GezeitError } from '../errors.js';
import type { DropLaw, GasState } from './drop-law.js';

/** One steady reading: volume flow, m³/s, at the part, its pressure drop, Pa, and its air. */
export interface DropReading extends GasState {
  volumeFlowM3S: number;
  dropPa: number;
}

/** A value with its 95 % interval. */
export interface WithInterval {
  value: number;
  low: number;
  high: number;
}

export interface DropLawFit {
  law: DropLaw;
  /** The least-squares law before a negative term was set to zero (formula e7b). */
  free: DropLaw;
  standardErrors: DropLaw;
  intervals: { viscousPerM3: WithInterval; inertialPerM4: WithInterval };
  /** Standard deviation of a reading about the law, Pa. */
  residualPa: number;
  degreesOfFreedom: number;
  /** Drop at a flow, Pa: half width of the 95 % interval of the mean, and of one new reading. */
  predict(volumeFlowM3S: number, gas: GasState): { dropPa: number; meanHalfWidthPa: number; readingHalfWidthPa: number };
  largestFlowM3S: number;
}

/**
 * Fits Δp = a·μ·V + b·ρ·V² by least squares without an intercept (formula e7); a negative term is set to zero and the other refitted
 * (formula e7b). Readings must be independent: take one mean a pull, never samples of one pull.
 * @throws GezeitError `too-few-readings` under three readings (two unknowns and no spread), or where all stand at one flow.
 */
export function fitDropLaw(readings: readonly DropReading[]): DropLawFit {
  if (readings.length < 3)
    throw new GezeitError(
      'too-few-readings',
      `${readings.length} readings do not tell a law from scatter.`,
      'Read at three test depressions or more.',
    );
  const viscous = readings.map(
    ({ viscosityPaS, volumeFlowM3S }) => positive('viscosity', viscosityPaS) * positive('volume flow', volumeFlowM3S),
  );
  const inertial = readings.map(({ densityKgM3, volumeFlowM3S }) => positive('density', densityKgM3) * volumeFlowM3S ** 2);
  const drops = readings.map(({ dropPa }) => positive('pressure drop', dropPa));
  const flows = readings.map(({ volumeFlowM3S }) => volumeFlowM3S);
  const largestFlowM3S = Math.max(...flows);
  if (largestFlowM3S / Math.min(...flows) < 1.02)
    throw new GezeitError('one-flow-only', 'All readings stand at one flow.', 'Read at several test depressions.');
  const both = leastSquares([viscous, inertial], drops);
  const [a, b] = both.coefficients as [number, number];
  const kept = a < 0 ? [1] : b < 0 ? [0] : [0, 1];
  const columns = [viscous, inertial];
  const fit =
    kept.length === 2
      ? both
      : leastSquares(
          kept.map((i) => columns[i]!),
          drops,
        );
  const at = (i: number) => kept.indexOf(i);
  const term = (i: number) => (at(i) < 0 ? 0 : fit.coefficients[at(i)]!);
  const error = (i: number) => (at(i) < 0 ? 0 : Math.sqrt(fit.covariance[at(i)]![at(i)]!));
  const t = studentQuantile(fit.degreesOfFreedom);
  const interval = (i: number): WithInterval => ({ value: term(i), low: term(i) - t * error(i), high: term(i) + t * error(i) });
  return {
    law: { viscousPerM3: term(0), inertialPerM4: term(1) },
    free: { viscousPerM3: a, inertialPerM4: b },
    standardErrors: { viscousPerM3: error(0), inertialPerM4: error(1) },
    intervals: { viscousPerM3: interval(0), inertialPerM4: interval(1) },
    residualPa: Math.sqrt(fit.variance),
    degreesOfFreedom: fit.degreesOfFreedom,
    largestFlowM3S,
    predict(volumeFlowM3S, gas) {
      const all = [gas.viscosityPaS * volumeFlowM3S, gas.densityKgM3 * volumeFlowM3S ** 2];
      const x = kept.map((i) => all[i]!);
      const dropPa = x.reduce((sum, value, i) => sum + value * fit.coefficients[i]!, 0);
      const spread = x.reduce((sum, value, i) => sum + value * x.reduce((inner, other, j) => inner + other * fit.covariance[i]![j]!, 0), 0);
      return {
        dropPa,
        meanHalfWidthPa: t * Math.sqrt(Math.max(0, spread)),
        readingHalfWidthPa: t * Math.sqrt(fit.variance + Math.max(0, spread)),
      };
    },
  };
}

interface LeastSquares {
  coefficients: number[];
  covariance: number[][];
  variance: number;
  degreesOfFreedom: number;
}

/** Ordinary least squares on columns scaled to unit length, by QR. */
function leastSquares(columns: number[][], y: number[]): LeastSquares {
  const scales = columns.map((column) => Math.hypot(...column));
  const design = Matrix.columnVector(new Array<number>(y.length).fill(0)).repeat({ columns: columns.length });
  columns.forEach((column, j) => column.forEach((value, i) => design.set(i, j, value / scales[j]!)));
  const target = Matrix.columnVector(y);
  const qr = new QrDecomposition(design);
  if (!qr.isFullRank())
    throw new GezeitError('one-flow-only', 'The readings do not tell the two terms apart.', 'Read at several test depressions.');
  const scaled = qr.solve(target);
  const residual = Matrix.sub(target, design.mmul(scaled)).to1DArray();
  const degreesOfFreedom = y.length - columns.length;
  const variance = residual.reduce((sum, value) => sum + value ** 2, 0) / degreesOfFreedom;
  const inverse = new QrDecomposition(design.transpose().mmul(design)).solve(Matrix.eye(columns.length));
  return {
    coefficients: scaled.to1DArray().map((value, j) => value / scales[j]!),
    covariance: columns.map((_, i) => columns.map((__, j) => (variance * inverse.get(i, j)) / (scales[i]! * scales[j]!))),
    variance,
    degreesOfFreedom,
  };
}
