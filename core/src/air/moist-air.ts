import { impossible } from '../errors.js';
import { dewPointC, kelvin, saturationPressurePa } from './saturation.js';

/** Gas constant of dry air, J/(kg K) (ASHRAE). */
export const DRY_AIR_GAS_CONSTANT = 287.042;
/** Gas constant of water vapour, J/(kg K) (ASHRAE). */
const VAPOUR_GAS_CONSTANT = 461.524;
/** Ratio of the two, – (ASHRAE). */
const VAPOUR_RATIO = 0.621945;
/** Specific heat of dry air at constant pressure, J/(kg K). */
export const DRY_AIR_SPECIFIC_HEAT = 1005;

/** Air of a place and moment. Humidity is a fraction 0…1, over liquid water, at `temperatureC`. */
export interface AirState {
  temperatureC: number;
  pressurePa: number;
  relativeHumidity: number;
}

/** Vapour pressure, Pa, from relative humidity 0…1 at the humidity sensor's own temperature, °C (formula b3). */
export function vapourPressurePa(relativeHumidity: number, sensorTemperatureC: number): number {
  return relativeHumidity * saturationPressurePa(sensorTemperatureC);
}

/**
 * Pressure of the dry part of the air, Pa (formula b4).
 * @throws GezeitError `impossible-input` where the vapour alone would be more than the total.
 */
export function dryPressurePa({ temperatureC, pressurePa, relativeHumidity }: AirState): number {
  const vapour = vapourPressurePa(relativeHumidity, temperatureC);
  if (!(vapour < pressurePa)) throw impossible('pressure', `must exceed the vapour pressure of ${vapour.toFixed(0)} Pa`, pressurePa);
  return pressurePa - vapour;
}

/**
 * Humidity ratio W, kg of vapour per kg of dry air, from vapour and total pressure, Pa (formula b5).
 * @throws GezeitError `impossible-input` where vapour pressure is not below the total.
 */
export function humidityRatio(vapourPa: number, pressurePa: number): number {
  if (!(vapourPa < pressurePa)) throw impossible('vapour pressure', 'must lie below the total pressure', vapourPa);
  return (VAPOUR_RATIO * vapourPa) / (pressurePa - vapourPa);
}

/** Vapour pressure, Pa, from the humidity ratio and total pressure, Pa: inverse of b5. */
export function vapourPressureFromRatioPa(ratio: number, pressurePa: number): number {
  return (pressurePa * ratio) / (VAPOUR_RATIO + ratio);
}

/** Density of moist air, kg/m³: the sum of the partial densities (formula b6). */
export function moistAirDensity(air: AirState): number {
  const vapour = vapourPressurePa(air.relativeHumidity, air.temperatureC);
  const t = kelvin(air.temperatureC);
  return dryPressurePa(air) / (DRY_AIR_GAS_CONSTANT * t) + vapour / (VAPOUR_GAS_CONSTANT * t);
}

/** Vapour pressure, Pa, after compression at constant humidity ratio (formula b9); p1 is the pressure at which it held. */
export function compressedVapourPressurePa(vapourPa: number, fromPa: number, toPa: number): number {
  return (vapourPa * toPa) / fromPa;
}

export interface Condensation {
  humidityRatioBefore: number;
  humidityRatioSaturated: number;
  /** Water, kg/s, for fully mixed air at the outlet temperature. */
  condensateKgS: number;
  condenses: boolean;
  dewPointBeforeC: number | null;
  dewPointAfterC: number | null;
}

/**
 * Water that falls out when air is compressed to a pressure, Pa, and cooled to a temperature, °C, at a moist mass flow, kg/s
 * (formulas b9, b10). A cold wall condenses earlier: test the wall's temperature too.
 */
export function condensation(ambient: AirState, outletPa: number, outletC: number, massFlowKgS: number): Condensation {
  const vapour = vapourPressurePa(ambient.relativeHumidity, ambient.temperatureC);
  const before = humidityRatio(vapour, ambient.pressurePa);
  const saturated = humidityRatio(saturationPressurePa(outletC), outletPa);
  const condensateKgS = (massFlowKgS / (1 + before)) * Math.max(0, before - saturated);
  return {
    humidityRatioBefore: before,
    humidityRatioSaturated: saturated,
    condensateKgS,
    condenses: before > saturated,
    dewPointBeforeC: dewPointC(vapour),
    dewPointAfterC: dewPointC(compressedVapourPressurePa(vapour, ambient.pressurePa, outletPa)),
  };
}

/** Humidity ratio from a ventilated wet bulb at or above 0 °C; temperatures °C, pressure Pa (formula b11, ASHRAE). */
export function humidityRatioFromWetBulb(temperatureC: number, wetBulbC: number, pressurePa: number): number {
  if (!(wetBulbC >= 0 && wetBulbC <= temperatureC)) throw impossible('wet bulb', 'must lie between 0 °C and the air temperature', wetBulbC);
  const saturated = humidityRatio(saturationPressurePa(wetBulbC), pressurePa);
  return ((2501 - 2.326 * wetBulbC) * saturated - 1.006 * (temperatureC - wetBulbC)) / (2501 + 1.86 * temperatureC - 4.186 * wetBulbC);
}

/** Dynamic viscosity of air, Pa·s, at a temperature in °C (formula b12, Sutherland with the ICAO constants). */
export function viscosityPaS(temperatureC: number): number {
  const t = kelvin(temperatureC);
  return (1.458e-6 * t ** 1.5) / (t + 110.4);
}
