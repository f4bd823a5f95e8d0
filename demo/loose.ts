import { driveDay, looseDay, scheduleOf, STOCK_TURBO, TURBO_ESTATE, type LooseDay, type LooseDevice } from '@gezeit/core/simulate';

const GERMAN = {
  Time: 'Datum',
  'Engine speed': 'Motordrehzahl',
  'Accelerator pedal': 'Fahrpedalstellung',
  Throttle: 'Drosselklappenwinkel',
  'Manifold pressure': 'Saugrohrdruck',
  'Intake air temperature': 'Ansauglufttemperatur',
  'Ignition advance': 'Zündwinkel',
  'Knock retard': 'Klopfrücknahme',
  Lambda: 'Lambda Istwert',
  'Injector pulse width': 'Einspritzzeit',
  'Air mass flow': 'Luftmassenstrom',
  'Coolant temperature': 'Kühlmitteltemperatur',
  'Oil temperature': 'Motoröltemperatur',
};

const DEVICES: readonly LooseDevice[] = [
  {
    device: 'ecu',
    files: 'day',
    name: () => 'ecu-whole-day.csv',
    clock: 'dateTime',
    offS: 0,
    rateHz: 20,
    delimiter: ';',
    decimal: ',',
    units: 'bracket',
    rename: GERMAN,
  },
  {
    device: 'dyno',
    files: 'pull',
    name: (n) => `run_${String(n).padStart(3, '0')}.csv`,
    clock: 'elapsed',
    offS: 0,
    rateHz: 25,
    delimiter: ',',
    decimal: '.',
    units: 'row',
    rename: { 'Engine speed': 'Engine RPM', Power: 'Wheel power' },
  },
  {
    device: 'box',
    files: 'pull',
    name: (n) => `box-${n}.txt`,
    clock: 'clock',
    offS: -3600,
    rateHz: 20,
    delimiter: '\t',
    decimal: '.',
    units: 'bracket',
    rename: {
      'Engine speed': 'eng_speed',
      'Inlet temperature': 'T_inlet',
      'Cooler outlet temperature': 'T_after_cooler',
      'Compressor outlet temperature': 'T_after_compressor',
      'Pressure drop filter': 'dp_filter',
      'Pressure drop duct': 'dp_duct',
      'Pressure drop cooler': 'dp_cooler',
    },
  },
];

/** The loose day of the demo: twelve pulls, a stock filter and one with half the resistance, in blocks of three. */
export function LOOSE_DEMO(): LooseDay {
  const [first, ...rest] = STOCK_TURBO.inlet;
  const freer = { ...STOCK_TURBO, inlet: [{ ...first!, areaM2: first!.areaM2 * 1.35 }, ...rest] };
  const driven = driveDay({
    seed: 4111,
    engine: TURBO_ESTATE,
    setups: { A: STOCK_TURBO, B: freer },
    schedule: scheduleOf(
      'AAABBBAAABBB',
      () => 5,
      () => 18,
      false,
    ),
    scatter: {
      runToRun: 0.003,
      boostWander: 0.0015,
      driftPerHour: 0.003,
      walkAtSwap: 0.001,
      weatherPerHour: { temperatureK: 0.5, pressurePa: 30, humidity: 0.01 },
    },
    weather: { temperatureC: 18.5, pressurePa: 99_600, relativeHumidity: 0.52 },
    oilColdK: 4,
  });
  return looseDay(driven, Date.UTC(2026, 8, 18, 8, 40), DEVICES, 17);
}
