import { notNegative, positive, share } from '../input-rules.js';
import { impossible } from '../errors.js';
import { expansibility } from './orifice.js';

/** Discharge coefficient of a sharp-edged thin plate that draws from free air, – (formula e11); ± 0.015 unless it is calibrated. Assumption. */
export const PLATE_DISCHARGE = 0.6;
/** From this leakage on a bench should be sealed instead of corrected, share of the total (formula e10). */
export const MOST_LEAKAGE = 0.03;
/** A check plate further off than this is reported, share (formula e11). */
export const PLATE_LIMIT = 0.02;

/** Flow through the part alone, unit of the flows: the leak is carried to the test depression and taken off (formula e10). */
export function netFlow(totalFlow: number, testPa: number, leakFlow: number, leakPa: number, leakExponent = 0.5): number {
  const leak =
    notNegative('leakage', leakFlow) * (positive('depression', testPa) / positive('depression of the leak test', leakPa)) ** leakExponent;
  if (!(leak < positive('flow', totalFlow))) throw impossible('leakage', 'must lie below the total flow', leak);
  return totalFlow - leak;
}

export interface PlateCheck {
  expectedM3S: number;
  /** Reading over expectation, minus 1. */
  error: number;
  /** Discharge coefficient that the reading would mean, –. */
  dischargeSeen: number;
}

/**
 * What a plate of a diameter, m, should read on a flow bench at a drop, Pa, and an upstream density, kg/m³, against a reading, m³/s
 * (formula e11). With the upstream pressure, Pa, the air's expansion is taken in.
 */
export function plateCheck(
  diameterM: number,
  dropPa: number,
  densityKgM3: number,
  readingM3S: number,
  options: { discharge?: number; upstreamPa?: number } = {},
): PlateCheck {
  const discharge = share('discharge coefficient', options.discharge ?? PLATE_DISCHARGE);
  const epsilon = options.upstreamPa === undefined ? 1 : expansibility(0, dropPa / options.upstreamPa);
  const ideal =
    (Math.PI / 4) *
    positive('diameter', diameterM) ** 2 *
    Math.sqrt((2 * positive('pressure drop', dropPa)) / positive('density', densityKgM3)) *
    epsilon;
  const expectedM3S = discharge * ideal;
  return { expectedM3S, error: positive('reading', readingM3S) / expectedM3S - 1, dischargeSeen: readingM3S / ideal };
}
