import { studentQuantile } from '../numeric/distributions.js';
import { mean } from '../numeric/means.js';
import { DRY_AIR_GAS_CONSTANT } from '../air/moist-air.js';
import { kelvin } from '../air/saturation.js';
import { positive } from '../input-rules.js';
import { GezeitError, impossible } from '../errors.js';
import type { WithInterval } from './fit-drop-law.js';

/** A moment of a decay test: absolute pressure, Pa, and the temperature of the air inside, °C. */
export interface DecayReading {
  timeS: number;
  pressurePa: number;
  temperatureC: number;
}

/** Air that left a closed rigid volume, m³, between two moments, kg (formula e15). */
export function leakedMassKg(volumeM3: number, before: Omit<DecayReading, 'timeS'>, after: Omit<DecayReading, 'timeS'>): number {
  const filling = ({ pressurePa, temperatureC }: typeof before) => positive('absolute pressure', pressurePa) / kelvin(temperatureC);
  return (positive('volume', volumeM3) / DRY_AIR_GAS_CONSTANT) * (filling(before) - filling(after));
}

/**
 * Leak rate, kg/s, from a record of a closed rigid volume, m³: the slope of p/T over time by least squares, with its 95 % interval
 * (formula e15). Pressures are absolute; a constant temperature does no harm, an unlogged drift of it does.
 * @throws GezeitError `too-few-readings` under three moments; `impossible-input` where time does not advance.
 */
export function leakRateKgS(volumeM3: number, readings: readonly DecayReading[]): WithInterval {
  if (readings.length < 3)
    throw new GezeitError('too-few-readings', 'Two moments give no interval.', 'Note the pressure at three moments or more.');
  const x = readings.map(({ timeS }) => timeS);
  const y = readings.map(({ pressurePa, temperatureC }) => positive('absolute pressure', pressurePa) / kelvin(temperatureC));
  for (let i = 1; i < x.length; i++) if (!(x[i]! > x[i - 1]!)) throw impossible('time', 'must advance from reading to reading', x[i]!);
  const n = x.length;
  const [meanX, meanY] = [mean(x), mean(y)];
  const sxx = x.reduce((sum, value) => sum + (value - meanX) ** 2, 0);
  const slope = x.reduce((sum, value, i) => sum + (value - meanX) * (y[i]! - meanY), 0) / sxx;
  const residual = y.reduce((sum, value, i) => sum + (value - meanY - slope * (x[i]! - meanX)) ** 2, 0);
  const half = studentQuantile(n - 2) * Math.sqrt(residual / (n - 2) / sxx);
  const perSlope = -positive('volume', volumeM3) / DRY_AIR_GAS_CONSTANT;
  const value = perSlope * slope;
  const width = Math.abs(perSlope) * half;
  return { value, low: value - width, high: value + width };
}

/** A leak rate carried to another gauge pressure, both Pa; thin gaps up to exponent 1 (formulas e10, e15). */
export function leakAtPressure(leak: number, fromGaugePa: number, toGaugePa: number, exponent = 0.5): number {
  return leak * (positive('gauge pressure', toGaugePa) / positive('gauge pressure', fromGaugePa)) ** exponent;
}
