import { notNegative, positive } from '../input-rules.js';
import { impossible } from '../errors.js';

/** Exponent of service interval over media area, and its range. Assumption (formula g5). */
export const INTERVAL_EXPONENT = { value: 1, low: 1, high: 2 };

/**
 * Pressure drop of a loaded filter: clean drop, Pa, plus a cake term linear in velocity. Dust in kg, media area m², flow m³/s, cake
 * resistance in Pa per (kg/m²) and (m/s) (formula g4; cake filtration after Carman and Ruth).
 */
export function loadedDropPa(
  cleanPa: number,
  cakeResistance: number,
  dustKg: number,
  mediaM2: number,
  volumeFlowM3S: number,
): { dustPa: number; totalPa: number } {
  const load = notNegative('dust', dustKg) / positive('media area', mediaM2);
  const dustPa = notNegative('cake resistance', cakeResistance) * load * (notNegative('volume flow', volumeFlowM3S) / mediaM2);
  return { dustPa, totalPa: notNegative('clean drop', cleanPa) + dustPa };
}

/** Service interval of a filter of the same medium, unit of the reference's, from both media areas (formula g5). */
export function serviceInterval(
  referenceInterval: number,
  referenceM2: number,
  mediaM2: number,
  exponent = INTERVAL_EXPONENT.value,
): number {
  if (!(exponent >= 1 && exponent <= 2)) throw impossible('exponent', 'must lie between 1 and 2', exponent);
  return (
    positive('interval', referenceInterval) *
    (positive('media area', mediaM2) / positive('media area of the reference', referenceM2)) ** exponent
  );
}
