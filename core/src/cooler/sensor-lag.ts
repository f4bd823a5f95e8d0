import { notNegative, positive } from '../input-rules.js';
import { GezeitError } from '../errors.js';

/** Gas temperature, °C, behind a first-order sensor of a time constant, s, that reads a temperature and its slope, K/s (formula i8). */
export function gasTemperatureC(sensorC: number, slopeKPerS: number, timeConstantS: number): number {
  return sensorC + notNegative('time constant', timeConstantS) * slopeKPerS;
}

/** The same for a sampled trace, by central differences at interior samples; the ends repeat their neighbour (formula i8b). Smooth noise away first. */
export function correctedTrace(timeS: readonly number[], sensorC: readonly number[], timeConstantS: number): number[] {
  if (timeS.length < 3) throw new GezeitError('too-few-readings', 'A slope needs three samples.', 'Take a longer piece.');
  const inner = sensorC.slice(1, -1).map((value, i) => {
    const slope = (sensorC[i + 2]! - sensorC[i]!) / positive('step of time', timeS[i + 2]! - timeS[i]!);
    return gasTemperatureC(value, slope, timeConstantS);
  });
  return [inner[0]!, ...inner, inner[inner.length - 1]!];
}
