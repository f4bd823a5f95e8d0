/** The air as it is typed, in the units kept inside; null where nothing is said. */
export interface WeatherForm {
  temperatureC: number | null;
  pressurePa: number | null;
  humidityPct: number | null;
}

/** The air as it is stored with a pull or a day. */
export interface StoredWeather {
  temperatureC: number | null;
  pressureKPa: number | null;
  relativeHumidityPct: number | null;
}

/** What a form begins with. */
export function weatherForm(stored: Partial<StoredWeather> | null | undefined): WeatherForm {
  return {
    temperatureC: stored?.temperatureC ?? null,
    pressurePa: stored?.pressureKPa == null ? null : stored.pressureKPa * 1000,
    humidityPct: stored?.relativeHumidityPct ?? null,
  };
}

/** What is stored of a form. */
export function typedWeather({ temperatureC, pressurePa, humidityPct }: WeatherForm): StoredWeather {
  return { temperatureC, pressureKPa: pressurePa === null ? null : pressurePa / 1000, relativeHumidityPct: humidityPct };
}
