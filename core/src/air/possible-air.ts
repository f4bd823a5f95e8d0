import { WEATHER_RANGES } from '@gezeit/contract';

/** What is read of the weather. */
export type AirQuantity = 'ambientTemperature' | 'ambientPressure' | 'relativeHumidity';

/** A sensor's own error at saturated air, percentage points: such air is saturated. */
const HUMIDITY_OVER_PCT = 5;
const { temperatureC, pressureKPa, relativeHumidityPct } = WEATHER_RANGES;
/** What a reading can be, in the unit kept inside. */
const POSSIBLE: Record<AirQuantity, readonly [low: number, high: number]> = {
  ambientTemperature: temperatureC,
  ambientPressure: [1000 * pressureKPa[0], 1000 * pressureKPa[1]],
  relativeHumidity: [relativeHumidityPct[0], relativeHumidityPct[1] + HUMIDITY_OVER_PCT],
};

/** Whether any weather is like that: °C, Pa, or per cent. What is not is another unit's number or a sensor that is off. */
export function isPossibleAir(quantity: AirQuantity, value: number): boolean {
  const [low, high] = POSSIBLE[quantity];
  return value >= low && value <= high;
}
