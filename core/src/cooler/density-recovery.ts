import { kelvin } from '../air/saturation.js';
import { positive } from '../input-rules.js';

/** Density after over density before a cooler, from absolute pressures, Pa, and temperatures, °C (formula i4). */
export function densityRatio(beforePa: number, afterPa: number, beforeC: number, afterC: number): number {
  return (positive('pressure after', afterPa) / positive('pressure before', beforePa)) * (kelvin(beforeC) / kelvin(afterC));
}

/** Pressure drop, Pa, at which a cooler gains no density: the line, no design limit (formula i5). */
export function breakEvenDropPa(beforePa: number, beforeC: number, afterC: number): number {
  return positive('pressure before', beforePa) * (1 - kelvin(afterC) / kelvin(beforeC));
}
