import { notNegative, positive, share } from '../input-rules.js';
import { impossible } from '../errors.js';

/** Usual velocities at full load, m/s: snorkel and duct, and the frame opening in front of the filter. Assumptions (formula f2). */
export const GUIDE_VELOCITY_MS = { duct: 30, ductLow: 25, ductHigh: 40, frame: 6 };

/** Area, m², that passes a mass flow, kg/s, of a density, kg/m³, at a velocity, m/s, and its equivalent diameter, m (formula f2). */
export function areaForVelocity(massFlowKgS: number, densityKgM3: number, velocityMS: number): { areaM2: number; diameterM: number } {
  const areaM2 = positive('air mass flow', massFlowKgS) / (positive('density', densityKgM3) * positive('velocity', velocityMS));
  return { areaM2, diameterM: Math.sqrt((4 * areaM2) / Math.PI) };
}

/** Vehicle speed, m/s, from which an opening passes the demand, and its dynamic pressure, Pa (formula f3). */
export function sufficientSpeed(
  massFlowKgS: number,
  densityKgM3: number,
  areaM2: number,
  capture = 1,
): { speedMS: number; dynamicPa: number } {
  const speedMS =
    notNegative('air mass flow', massFlowKgS) /
    (positive('density', densityKgM3) * positive('area', areaM2) * share('capture share', capture));
  return { speedMS, dynamicPa: 0.5 * densityKgM3 * speedMS ** 2 };
}

/** Dynamic pressure, Pa, at a speed, m/s, and what an opening gets back of it (formula f4). */
export function ramPressure(densityKgM3: number, speedMS: number, recovery: number): { dynamicPa: number; recoveredPa: number } {
  if (!(recovery >= 0 && recovery <= 1)) throw impossible('recovery', 'must lie between 0 and 1', recovery);
  const dynamicPa = 0.5 * positive('density', densityKgM3) * notNegative('speed', speedMS) ** 2;
  return { dynamicPa, recoveredPa: recovery * dynamicPa };
}
