import type { DayHappening, LiveReading } from '@gezeit/contract';
import { isPossibleAir, type AirQuantity } from '../air/possible-air.js';
import type { DayState } from './day-state.js';

/** Weather as it is stamped on a pull. */
type DayWeather = NonNullable<Extract<DayHappening, { kind: 'pull-started' }>['weather']>;

/** The weather at a moment, and what is streamed as no weather is: by a sensor that is off, or in another unit. */
export interface WeatherNow {
  weather: DayWeather;
  off: AirQuantity[];
}

/** The weather at a moment: what is streamed goes before what was typed, where any weather is like that. */
export function weatherNow(
  { weather }: Pick<DayState, 'weather'>,
  readings: readonly Pick<LiveReading, 'quantity' | 'value'>[],
): WeatherNow {
  const off: AirQuantity[] = [];
  const streamed = (quantity: AirQuantity): number | null => {
    const value = readings.find((reading) => reading.quantity === quantity)?.value ?? null;
    if (value === null || isPossibleAir(quantity, value)) return value;
    off.push(quantity);
    return null;
  };
  const typed = weather?.value;
  const pressurePa = streamed('ambientPressure');
  const humidityPct = streamed('relativeHumidity');
  return {
    weather: {
      temperatureC: streamed('ambientTemperature') ?? typed?.temperatureC ?? null,
      pressureKPa: pressurePa === null ? (typed?.pressureKPa ?? null) : pressurePa / 1000,
      // A sensor's own error at saturated air is no weather that somebody could type.
      relativeHumidityPct: humidityPct === null ? (typed?.relativeHumidityPct ?? null) : Math.min(100, humidityPct),
    },
    off,
  };
}
