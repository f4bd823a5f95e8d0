import type { Quantity } from '@gezeit/contract';
import { driveDay, Random, scheduleOf, STOCK_TURBO, TURBO_ESTATE, type DrivenPull } from '../../../src/simulate/index.js';
import type { Key } from './habits.js';

/** One pull of the known table: values of every column in the unit kept inside. */
export interface KnownTable {
  timeS: Float64Array;
  columns: ReadonlyMap<Key, Float64Array>;
  sweep: readonly [number, number];
}

const WEATHER = { temperatureC: 19.4, pressurePa: 99_300, relativeHumidity: 0.47 };
let driven: DrivenPull | null = null;

function pullOf(): DrivenPull {
  driven ??= driveDay({
    seed: 11,
    engine: TURBO_ESTATE,
    setups: { A: STOCK_TURBO },
    schedule: scheduleOf(
      'AA',
      () => 5,
      () => 30,
      false,
    ),
    scatter: { runToRun: 0, boostWander: 0, driftPerHour: 0, walkAtSwap: 0, weatherPerHour: { temperatureK: 0, pressurePa: 0, humidity: 0 } },
    weather: WEATHER,
    oilColdK: 0,
  })[1]!;
  return driven;
}

/** The known pull, sampled at a rate, with the noise of sensors. */
export function knownTable(rateHz: number, seed: number): KnownTable {
  const pull = pullOf();
  const { instants, fullThrottleS, liftS } = pull.sweep;
  const random = new Random(seed);
  const count = Math.floor(instants.at(-1)!.timeS * rateHz);
  const timeS = Float64Array.from({ length: count }, (_, i) => i / rateHz);
  const at = (i: number) => instants[Math.min(instants.length - 1, Math.round(i / rateHz / (instants[1]!.timeS - instants[0]!.timeS)))]!;
  const columns = new Map<Key, Float64Array>();
  const put = (key: Key, noise: number, value: (moment: ReturnType<typeof at>, i: number) => number) =>
    columns.set(
      key,
      Float64Array.from({ length: count }, (_, i) => value(at(i), i) + random.normal(noise)),
    );
  const quantities: Partial<Record<Quantity, [number, (moment: ReturnType<typeof at>) => number]>> = {
    engineSpeed: [2, (m) => m.engineSpeedRpm],
    vehicleSpeed: [0.01, (m) => m.rollerSpeedMPerS],
    rollerSpeed: [0.01, (m) => m.rollerSpeedMPerS],
    throttle: [0.1, (m) => m.throttlePct],
    pedal: [0, (m) => m.pedalPct],
    manifoldPressure: [250, (m) => m.manifoldPa],
    boostPressure: [250, (m) => m.manifoldPa - WEATHER.pressurePa],
    intakeAirTemperature: [0.1, (m) => m.sensorC],
    airMassFlow: [4e-4, (m) => m.airFlowKgS],
    lambda: [0.003, (m) => m.lambda],
    ignitionAdvance: [0.1, (m) => m.sparkDeg],
    knockRetard: [0.02, (m) => m.knockRetardDeg],
    injectorTime: [2e-5, (m) => m.injectorS],
    shortTermTrim: [0.8, () => 0.5],
    longTermTrim: [0, () => 1.2],
    coolantTemperature: [0.1, (m) => m.coolantC],
    oilTemperature: [0.1, (m) => m.oilC],
    wastegateDuty: [0.3, (m) => (m.pedalPct > 50 ? 30 + (40 * (m.engineSpeedRpm - 1000)) / 6000 : 0)],
    power: [350, (m) => m.wheelPowerW],
    torque: [1, (m) => m.wheelPowerW / ((m.engineSpeedRpm * Math.PI) / 30)],
    ambientTemperature: [0.03, () => WEATHER.temperatureC],
    ambientPressure: [4, () => WEATHER.pressurePa],
    relativeHumidity: [0.2, () => 100 * WEATHER.relativeHumidity],
    inletTemperature: [0.1, (m) => m.inletC],
    compressorOutTemperature: [0.3, (m) => m.compressorOutC],
    coolerOutTemperature: [0.2, (m) => m.chargeC],
    inletPressure: [12, (m) => WEATHER.pressurePa - m.sectionDropsPa.reduce((a, b) => a + b, 0)],
    compressorSpeed: [300, (m) => 25_000 + 420_000 * m.airFlowKgS],
    coolantInTemperature: [0.1, (m) => 24 + 0.08 * (m.chargeC - 20)],
    coolantOutTemperature: [0.1, (m) => 24 + 0.2 * (m.chargeC - 20)],
    exhaustTemperature: [2, (m) => 420 + 2200 * m.airFlowKgS],
  };
  for (const [quantity, [noise, value]] of Object.entries(quantities)) put(quantity as Quantity, noise, value);
  put('pressureDrop/filter', 12, (m) => m.sectionDropsPa[0] ?? 0);
  put('pressureDrop/duct', 12, (m) => m.sectionDropsPa[1] ?? 0.6 * (m.sectionDropsPa[0] ?? 0));
  put('pressureDrop/cooler', 40, (m) => m.coolerDropPa);
  put('none/oilPressure', 500, (m) => 150_000 + 40 * m.engineSpeedRpm);
  put('none/target', 0, (m) => (m.pedalPct > 50 ? 1.25 : 0));
  put('none/tyre', 0.1, () => 41);
  put('none/brake', 0, () => 0);
  put('none/cam', 0.2, (m) => 20 + m.engineSpeedRpm / 400);
  put('none/battery', 0.02, () => 13.9);
  put('none/fuelPressure', 1000, () => 380_000);
  put('none/steering', 0.1, () => 0);
  put('none/marker', 0, (_, i) => (i % 100 === 0 ? 1 : 0));
  put('none/load', 0.5, (m) => m.throttlePct * 0.9);
  put('none/g', 0.01, () => 0.02);
  put('none/gearbox', 0.1, () => 71);
  return { timeS, columns, sweep: [fullThrottleS, liftS] };
}
