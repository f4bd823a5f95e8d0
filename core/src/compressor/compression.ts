import { DRY_AIR_SPECIFIC_HEAT } from '../air/moist-air.js';
import { CELSIUS_ZERO_K, kelvin } from '../air/saturation.js';
import { notNegative, positive, share } from '../input-rules.js';
import { impossible } from '../errors.js';
import { GAMMA } from '../flow/effective-area.js';

/** Compressor and shaft efficiencies where none is known, –. Assumptions (formulas h4, h5). */
export const COMPRESSOR_EFFICIENCY = 0.72;
export const SHAFT_EFFICIENCY = 0.97;
/** Efficiencies to be believed, – (formula h5). */
export const BELIEVABLE_EFFICIENCY = { low: 0.55, high: 0.82 };

/** Pressures around a compressor, absolute Pa: losses before and after it count (formula h1). */
export function compressorPressures(
  ambientPa: number,
  inletDropPa: number,
  manifoldPa: number,
  coolerDropPa: number,
): { inletPa: number; outletPa: number; ratio: number } {
  const inletPa = positive('ambient pressure', ambientPa) - notNegative('inlet loss', inletDropPa);
  if (!(inletPa > 0)) throw impossible('inlet loss', 'must lie below the ambient pressure', inletDropPa);
  const outletPa = positive('manifold pressure', manifoldPa) + notNegative('cooler loss', coolerDropPa);
  return { inletPa, outletPa, ratio: outletPa / inletPa };
}

/** Reference state of a map: kelvin and Pa. */
export interface MapReference {
  temperatureK: number;
  pressurePa: number;
}
/** SAE J1826's reference state; taken where a map states none (formula h3). */
export const MAP_REFERENCE: MapReference = { temperatureK: 298, pressurePa: 100_000 };

/** Mass flow, kg/s, corrected to a map's reference (formula h2). */
export function correctedFlowKgS(massFlowKgS: number, inletC: number, inletPa: number, reference = MAP_REFERENCE): number {
  return (
    (notNegative('air mass flow', massFlowKgS) * Math.sqrt(kelvin(inletC) / reference.temperatureK)) /
    (positive('inlet pressure', inletPa) / reference.pressurePa)
  );
}

/** Shaft speed, rpm, corrected to a map's reference (formula h3). */
export function correctedSpeedRpm(speedRpm: number, inletC: number, reference = MAP_REFERENCE): number {
  return notNegative('speed', speedRpm) / Math.sqrt(kelvin(inletC) / reference.temperatureK);
}

export interface Compression {
  idealOutletC: number;
  outletC: number;
  shaftPowerW: number;
}

/**
 * Outlet temperature, °C, and shaft power, W, of a compression from a temperature, °C, by a ratio with an efficiency (formula h4;
 * isentropic, total to total). Source: Dixon, *Fluid Mechanics and Thermodynamics of Turbomachinery*.
 */
export function compress(
  inletC: number,
  ratio: number,
  efficiency: number,
  massFlowKgS: number,
  options: { shaftEfficiency?: number; specificHeat?: number; gamma?: number } = {},
): Compression {
  const { shaftEfficiency = SHAFT_EFFICIENCY, specificHeat = DRY_AIR_SPECIFIC_HEAT, gamma = GAMMA } = options;
  if (!(ratio >= 1)) throw impossible('pressure ratio', 'must be 1 or more', ratio);
  const inletK = kelvin(inletC);
  const idealK = inletK * ratio ** ((gamma - 1) / gamma);
  const rise = (idealK - inletK) / share('compressor efficiency', efficiency);
  return {
    idealOutletC: idealK - CELSIUS_ZERO_K,
    outletC: inletC + rise,
    shaftPowerW: (notNegative('air mass flow', massFlowKgS) * specificHeat * rise) / share('shaft efficiency', shaftEfficiency),
  };
}

/** Efficiency of a compressor, –, from the temperatures before and after it, °C, and the ratio (formula h5). */
export function compressorEfficiency(inletC: number, outletC: number, ratio: number, gamma = GAMMA): number {
  if (!(ratio > 1)) throw impossible('pressure ratio', 'must be above 1', ratio);
  if (!(outletC > inletC)) throw impossible('outlet temperature', 'must lie above the inlet', outletC);
  return (kelvin(inletC) * (ratio ** ((gamma - 1) / gamma) - 1)) / (outletC - inletC);
}
