import { DRY_AIR_GAS_CONSTANT } from '../air/moist-air.js';
import { kelvin } from '../air/saturation.js';
import { notNegative, positive } from '../input-rules.js';

export type Strokes = 2 | 4;

/** Density of dry air, kg/m³, at a pressure, Pa, and a temperature, °C. */
export function dryAirDensity(pressurePa: number, temperatureC: number): number {
  return positive('pressure', pressurePa) / (DRY_AIR_GAS_CONSTANT * kelvin(temperatureC));
}

/** Volume that an engine sweeps a second, m³/s: displacement in m³, engine speed in rpm. */
function sweptVolumeM3S(displacementM3: number, engineSpeedRpm: number, strokes: Strokes): number {
  return (positive('displacement', displacementM3) * positive('engine speed', engineSpeedRpm)) / (30 * strokes);
}

/**
 * Air mass flow of an engine, kg/s, from volumetric efficiency (–) and the density, kg/m³, that it refers to (formula d1).
 * @throws GezeitError `impossible-input` for anything not above zero. Source: Heywood, *Internal Combustion Engine Fundamentals*.
 * @example airDemandKgS(0.95, 2.3, 2e-3, 6500, 4) // 0.2367
 */
export function airDemandKgS(
  volumetricEfficiency: number,
  densityKgM3: number,
  displacementM3: number,
  engineSpeedRpm: number,
  strokes: Strokes,
): number {
  return (
    positive('volumetric efficiency', volumetricEfficiency) *
    positive('density', densityKgM3) *
    sweptVolumeM3S(displacementM3, engineSpeedRpm, strokes)
  );
}

/** Volumetric efficiency, –, of a measured air mass flow, kg/s, against a reference density, kg/m³ (formula d2). */
export function volumetricEfficiency(
  massFlowKgS: number,
  densityKgM3: number,
  displacementM3: number,
  engineSpeedRpm: number,
  strokes: Strokes,
): number {
  return (
    positive('air mass flow', massFlowKgS) / (positive('density', densityKgM3) * sweptVolumeM3S(displacementM3, engineSpeedRpm, strokes))
  );
}

/** Air mass flow, kg/s, of crank power, W, from fuel consumption, g/(kW·h), and air-fuel ratio, kg/kg (formula d3). */
export function airDemandOfPowerKgS(crankPowerW: number, fuelConsumptionGPerKWh: number, airFuelRatio: number): number {
  return (
    (notNegative('power', crankPowerW) * positive('fuel consumption', fuelConsumptionGPerKWh) * positive('air-fuel ratio', airFuelRatio)) /
    3.6e9
  );
}

/** Air that a kilowatt at the crank asks for on petrol, kg/s per W (formula d4), and how far a measured flow may lie from it. Assumptions. */
export const AIR_PER_POWER = { kgSPerW: 1.01e-6, off: 0.2 };

/** Wheel power times this is about crank power (formula d4); the loss is no fixed share. Assumption. */
export const WHEEL_TO_CRANK = 1.15;
