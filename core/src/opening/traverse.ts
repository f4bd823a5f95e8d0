import { positive } from '../input-rules.js';
import { GezeitError } from '../errors.js';

/** Where to read, as fractions of a rectangle's side: log-Tchebycheff (ISO 3966; formula f1). */
export const RECTANGLE_POINTS: Record<5 | 6 | 7, readonly number[]> = {
  5: [0.074, 0.288, 0.5, 0.712, 0.926],
  6: [0.061, 0.235, 0.437, 0.563, 0.765, 0.939],
  7: [0.053, 0.203, 0.366, 0.5, 0.634, 0.797, 0.947],
};
/** Where to read, as fractions of a circle's diameter, on two diameters at least: log-linear (ISO 3966; formula f1). */
export const CIRCLE_POINTS: Record<6 | 10, readonly number[]> = {
  6: [0.032, 0.135, 0.321, 0.679, 0.865, 0.968],
  10: [0.019, 0.077, 0.153, 0.217, 0.361, 0.639, 0.783, 0.847, 0.923, 0.981],
};
/** Standard uncertainty of a traverse, share of the flow. Assumption (formula f1). */
export const TRAVERSE_UNCERTAINTY = 0.04;

/**
 * Mean velocity, m/s, of a traverse and volume flow, m³/s, through the net area, m²; calibration is the instrument's own factor
 * (formula f1; ISO 3966, ASHRAE 111).
 * @throws GezeitError `too-few-readings` for an empty list.
 */
export function traverseFlow(
  velocitiesMS: readonly number[],
  areaM2: number,
  calibration = 1,
): { meanVelocityMS: number; volumeFlowM3S: number } {
  if (velocitiesMS.length === 0) throw new GezeitError('too-few-readings', 'There is no velocity.', 'Read at the points shown.');
  const mean = velocitiesMS.reduce((sum, velocity) => sum + positive('velocity', velocity), 0) / velocitiesMS.length;
  const meanVelocityMS = mean * positive('calibration factor', calibration);
  return { meanVelocityMS, volumeFlowM3S: meanVelocityMS * positive('area', areaM2) };
}
