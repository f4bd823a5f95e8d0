import {
  driveDay,
  scheduleOf,
  STOCK_NATURAL,
  STOCK_TURBO,
  TURBO_ESTATE,
  type DrivenPull,
  type LooseDevice,
} from '../src/simulate/index.js';

/** A driven day for tests of loose files: two setups that are alike, on either engine. */
export function driven(order: string, seed: number, engine = TURBO_ESTATE): DrivenPull[] {
  const stock = engine.boost ? STOCK_TURBO : STOCK_NATURAL;
  return driveDay({
    seed,
    engine,
    setups: { A: stock, B: stock },
    schedule: scheduleOf(
      order,
      () => 4 + (seed % 3),
      () => 15,
      false,
    ),
    scatter: {
      runToRun: 0.004,
      boostWander: 0.002,
      driftPerHour: 0.003,
      walkAtSwap: 0.001,
      weatherPerHour: { temperatureK: 1, pressurePa: 40, humidity: 0.01 },
    },
    weather: { temperatureC: 17 + (seed % 9), pressurePa: 99_000, relativeHumidity: 0.5 },
    oilColdK: 4,
  });
}

/** An engine control unit that writes one file of the whole day. */
export const ECU: LooseDevice = {
  device: 'ecu',
  files: 'day',
  name: () => 'ecu.csv',
  clock: 'dateTime',
  offS: 0,
  rateHz: 20,
  delimiter: ';',
  decimal: ',',
  units: 'bracket',
};

/** When the day began. */
export const START = Date.UTC(2026, 8, 18, 8, 40);
