import { z } from './zod.js';

/**
 * What the weather of a place where cars are driven can be, from the dead of winter to the desert and up to five and a half kilometres. Beyond it a
 * number is of another unit, a gauge pressure, or of a sensor that is off. Assumptions.
 */
export const WEATHER_RANGES = {
  temperatureC: [-50, 60],
  pressureKPa: [50, 110],
  relativeHumidityPct: [0, 100],
} as const;

const within = ([low, high]: readonly [number, number], what: string, unit: string) => {
  const message = `${what} must lie between ${low} and ${high}\u00a0${unit}: check its unit`;
  return z.number().min(low, message).max(high, message).nullable();
};

/** Weather as somebody types it; null where nothing is said. */
export const typedWeatherSchema = z.object({
  temperatureC: within(WEATHER_RANGES.temperatureC, 'Air temperature', '°C'),
  pressureKPa: within(WEATHER_RANGES.pressureKPa, 'Air pressure', 'kPa'),
  relativeHumidityPct: within(WEATHER_RANGES.relativeHumidityPct, 'Humidity', '%'),
});
