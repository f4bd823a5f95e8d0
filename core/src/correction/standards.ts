import type { Correction } from '@gezeit/contract';
import { dryPressurePa, type AirState } from '../air/moist-air.js';
import { impossible } from '../errors.js';
import { UNITS } from '../units/units.js';

/** x of the standards: reference over observed dry pressure, times the square root of temperature; t in °C, p in Pa. */
function dryRatio(dryPa: number, temperatureC: number): number {
  if (!(dryPa > 0)) throw impossible('dry pressure', 'must be positive', dryPa);
  return (99_000 / dryPa) * Math.sqrt((temperatureC + 273) / 298);
}

/** SAE J1349 factor, spark ignition, 85 % mechanical efficiency assumed; dry pressure Pa, cell temperature °C (formula c1). */
export function saeJ1349(dryPa: number, temperatureC: number): number {
  return 1.18 * dryRatio(dryPa, temperatureC) - 0.18;
}

export interface FrictionCorrection {
  factorOnIndicated: number;
  correctedPowerW: number;
  equivalentFactor: number;
}

/** SAE J1349 with known friction power: the indicated power is corrected, friction is not; powers W (formula c2). */
export function saeJ1349WithFriction(dryPa: number, temperatureC: number, brakeW: number, frictionW: number): FrictionCorrection {
  const factorOnIndicated = dryRatio(dryPa, temperatureC);
  const correctedPowerW = factorOnIndicated * (brakeW + frictionW) - frictionW;
  return { factorOnIndicated, correctedPowerW, equivalentFactor: correctedPowerW / brakeW };
}

/** STD (SAE J607, withdrawn): the pure dry ratio; `friction85` is the 85 % shape that some dynos print (formula c3). */
export function stdJ607(dryPa: number, temperatureC: number): { ratio: number; friction85: number } {
  if (!(dryPa > 0)) throw impossible('dry pressure', 'must be positive', dryPa);
  const ratio = (29.92 / (dryPa / UNITS.inHg.factor)) * Math.sqrt((temperatureC * 1.8 + 32 + 460) / 520);
  return { ratio, friction85: 1.18 * ratio - 0.18 };
}

/** DIN 70020: total pressure Pa, temperature °C, no humidity (formula c4). */
export function din70020(pressurePa: number, temperatureC: number): number {
  return (101_300 / pressurePa) * Math.sqrt((temperatureC + 273) / 293);
}

export interface WindowedFactor {
  factor: number;
  factorInWindow: boolean;
  temperatureInWindow: boolean;
}

/** ISO 1585 / UN R85, spark ignition, naturally aspirated or charged; dry pressure Pa, temperature °C (formula c5). */
export function iso1585Spark(dryPa: number, temperatureC: number): WindowedFactor {
  const t = temperatureC + 273;
  const factor = (99_000 / dryPa) ** 1.2 * (t / 298) ** 0.6;
  return { factor, factorInWindow: factor >= 0.93 && factor <= 1.07, temperatureInWindow: t >= 288 && t <= 308 };
}

type CompressionIgnitionStandard = 'ECE_R85' | 'ISO_1585';
type CompressionIgnitionCharging = 'na' | 'mechanical' | 'turbo' | 'turbo_coolant_cooled';

export interface CompressionIgnitionInput {
  standard: CompressionIgnitionStandard;
  charging: CompressionIgnitionCharging;
  temperatureC: number;
  dryPa: number;
  fuelKgS: number;
  engineSpeedRpm: number;
  displacementM3: number;
  strokes: 2 | 4;
  /** Compressor outlet over inlet pressure, absolute; 1 without charging. */
  boostRatio: number;
}

export interface CompressionIgnitionFactor extends WindowedFactor {
  atmospheric: number;
  fuelMgPerLitreCycle: number;
  correctedFuel: number;
  engine: number;
}

function exponents({ standard, charging }: CompressionIgnitionInput): [pressure: number, temperature: number] {
  if (charging === 'na' || charging === 'mechanical') return [1, 0.7];
  if (standard === 'ECE_R85') return [0.7, 1.5];
  return charging === 'turbo_coolant_cooled' ? [0.7, 0.7] : [0.7, 1.2];
}

/** ISO 1585 / UN R85, compression ignition: f_a to the power f_m, with the R85 clamps of f_m (formula c6). */
export function compressionIgnition(input: CompressionIgnitionInput): CompressionIgnitionFactor {
  const [pressureExponent, temperatureExponent] = exponents(input);
  const t = input.temperatureC + 273;
  const atmospheric = (99_000 / input.dryPa) ** pressureExponent * (t / 298) ** temperatureExponent;
  const perCycle = input.strokes === 4 ? 120_000 : 60_000;
  const fuelMgPerLitreCycle = (perCycle * input.fuelKgS * 1000) / (input.displacementM3 * 1000 * input.engineSpeedRpm);
  const correctedFuel = fuelMgPerLitreCycle / input.boostRatio;
  const engine = correctedFuel < 37.2 ? 0.2 : correctedFuel > 65 ? 1.2 : 0.036 * correctedFuel - 1.14;
  const factor = atmospheric ** engine;
  return {
    atmospheric,
    fuelMgPerLitreCycle,
    correctedFuel,
    engine,
    factor,
    factorInWindow: factor >= 0.9 && factor <= 1.1,
    temperatureInWindow: t >= 283 && t <= 313,
  };
}

/**
 * The factor by which a programme multiplies observed power, for the air of the cell (formulas c1, c3, c4, c5).
 * Compression-ignition engines need the fuel flow for ISO 1585 (c6), which a bundle does not carry: use {@link compressionIgnition}.
 */
export function correctionFactor(standard: Correction, air: AirState): number {
  switch (standard) {
    case 'NONE':
      return 1;
    case 'SAE_J1349':
      return saeJ1349(dryPressurePa(air), air.temperatureC);
    case 'STD_J607':
      return stdJ607(dryPressurePa(air), air.temperatureC).ratio;
    case 'DIN_70020':
      return din70020(air.pressurePa, air.temperatureC);
    case 'ISO_1585':
      return iso1585Spark(dryPressurePa(air), air.temperatureC).factor;
  }
}

/** Power, same unit as given, of one standard as another's, for the weather of that very pull (formula c8). */
export function convertCorrected(
  power: number,
  from: Correction,
  to: Correction,
  air: AirState,
): { uncorrected: number; converted: number } {
  const uncorrected = power / correctionFactor(from, air);
  return { uncorrected, converted: uncorrected * correctionFactor(to, air) };
}
