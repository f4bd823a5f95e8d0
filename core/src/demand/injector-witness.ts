import { positive } from '../input-rules.js';
import { impossible } from '../errors.js';
import type { Strokes } from './air-demand.js';

/** What the injectors say of the fuel, one injection a cycle. */
export interface InjectorReading {
  injectors: number;
  engineSpeedRpm: number;
  strokes: Strokes;
  /** Flow of one injector held open, kg/s, at the pressure drop that it is stated at, Pa. */
  staticFlowKgS: number;
  statedDropPa: number;
  /** Rail minus manifold pressure (direct injection: minus cylinder pressure), Pa. */
  dropPa: number;
  openS: number;
  /** Dead time at the logged battery voltage, s. */
  deadS: number;
}

/**
 * Fuel mass flow, kg/s, from the injectors' open time (formula d6).
 * @throws GezeitError `impossible-input` where they do not open longer than their dead time, or a value is not above zero.
 */
export function fuelFlowKgS(reading: InjectorReading): number {
  const { injectors, engineSpeedRpm, strokes, staticFlowKgS, statedDropPa, dropPa, openS, deadS } = reading;
  if (!(openS > deadS && deadS >= 0)) throw impossible('injector time', `must exceed the dead time of ${deadS} s`, openS);
  const cyclesPerS = positive('engine speed', engineSpeedRpm) / (30 * strokes);
  const atDrop =
    positive('static flow', staticFlowKgS) * Math.sqrt(positive('pressure drop', dropPa) / positive('stated drop', statedDropPa));
  return positive('injectors', injectors) * cyclesPerS * atDrop * (openS - deadS);
}

/** Air mass flow, kg/s, that a fuel mass flow, kg/s, and lambda speak of (formula d6). */
export function airOfFuelKgS(fuelKgS: number, lambda: number, stoichiometricRatio: number): number {
  return positive('fuel flow', fuelKgS) * positive('lambda', lambda) * positive('stoichiometric ratio', stoichiometricRatio);
}

/** Shift of the air meter between two setups, a fraction: its reading against the fuel's, kg/s each (formula d6). */
export function meterShift(reference: { meterKgS: number; fuelKgS: number }, candidate: { meterKgS: number; fuelKgS: number }): number {
  const ratio = ({ meterKgS, fuelKgS }: typeof reference) => positive('air mass flow', meterKgS) / positive('air flow from fuel', fuelKgS);
  return ratio(candidate) / ratio(reference) - 1;
}

/** Real air over metered air from trims (fractions) and lambda against its target, where the trims act in that load range (formula d6). */
export function airOverMeterFromTrims(shortTrim: number, longTrim: number, lambda: number, targetLambda: number): number {
  return (
    (positive('short trim', 1 + shortTrim) * positive('long trim', 1 + longTrim) * positive('lambda', lambda)) /
    positive('target lambda', targetLambda)
  );
}
