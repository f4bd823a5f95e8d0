import { DRY_AIR_GAS_CONSTANT } from '../air/moist-air.js';
import { kelvin } from '../air/saturation.js';
import { notNegative, positive } from '../input-rules.js';
import { impossible } from '../errors.js';

/** Ratio of specific heats of air. */
export const GAMMA = 1.4;

/**
 * Effective area, m², from mass flow, kg/s, upstream density, kg/m³, and pressure drop, Pa: A = ṁ/√(2ρΔp) (formula e2). It contains the
 * discharge coefficient.
 * @example effectiveAreaM2(0.25, 1.16, 2500) // 32.83 cm²
 */
export function effectiveAreaM2(massFlowKgS: number, densityKgM3: number, dropPa: number): number {
  return positive('air mass flow', massFlowKgS) / Math.sqrt(2 * positive('density', densityKgM3) * positive('pressure drop', dropPa));
}

/** Pressure drop, Pa, of an effective area, m²: formula e2 the other way round. */
export function dropOfAreaPa(areaM2: number, massFlowKgS: number, densityKgM3: number): number {
  return notNegative('air mass flow', massFlowKgS) ** 2 / (2 * positive('density', densityKgM3) * positive('area', areaM2) ** 2);
}

/** Pressure ratio at which a nozzle chokes, –. */
export function chokingRatio(gamma = GAMMA): number {
  return (2 / (gamma + 1)) ** (gamma / (gamma - 1));
}

/** Flow function ψ of an isentropic nozzle, –, of a drop relative to the upstream pressure; held at choking (formula e3). */
function nozzleFunction(relativeDrop: number, gamma = GAMMA): { value: number; choked: boolean } {
  const limit = 1 - chokingRatio(gamma);
  const choked = relativeDrop >= limit;
  const drop = Math.min(relativeDrop, limit);
  const squared = ((2 * gamma) / (gamma - 1)) * (1 - drop) ** (2 / gamma) * -Math.expm1(((gamma - 1) / gamma) * Math.log1p(-drop));
  return { value: Math.sqrt(squared), choked };
}

/**
 * Effective area, m², of an isentropic nozzle from mass flow, kg/s, stagnation pressure, Pa, and temperature, °C, and drop, Pa
 * (formula e3). Source: Shapiro.
 * @throws GezeitError `impossible-input` where the drop is not below the pressure.
 */
export function nozzleAreaM2(
  massFlowKgS: number,
  pressurePa: number,
  temperatureC: number,
  dropPa: number,
  gamma = GAMMA,
): { areaM2: number; choked: boolean } {
  if (!(positive('pressure drop', dropPa) < pressurePa)) throw impossible('pressure drop', 'must lie below the pressure', dropPa);
  const { value, choked } = nozzleFunction(dropPa / pressurePa, gamma);
  return {
    areaM2: (positive('air mass flow', massFlowKgS) * Math.sqrt(DRY_AIR_GAS_CONSTANT * kelvin(temperatureC))) / (pressurePa * value),
    choked,
  };
}

/** Mass flow, kg/s, through an isentropic nozzle of an area, m²: formula e3 the other way round. */
export function nozzleFlowKgS(areaM2: number, pressurePa: number, temperatureC: number, dropPa: number, gamma = GAMMA): number {
  const { value } = nozzleFunction(notNegative('pressure drop', dropPa) / positive('pressure', pressurePa), gamma);
  return (positive('area', areaM2) * pressurePa * value) / Math.sqrt(DRY_AIR_GAS_CONSTANT * kelvin(temperatureC));
}
