import type { Bundle } from '@gezeit/contract';
import {
  bundleOfDay,
  dataBoxDevice,
  driveDay,
  dynoDevice,
  ecuDevice,
  recordDrive,
  truthOf,
  type Cooler,
  type DrivenPull,
  type PartSet,
  type SimulatedBundle,
  type Truth,
  AIR_COOLER,
  NATURAL_PICKUP,
  STOCK_NATURAL,
  STOCK_TURBO,
  TURBO_ESTATE,
} from '@gezeit/core/simulate';
import { benchOfAirbox, conditionGood } from './airbox-bench.js';
import { CALM_WEATHER, schedule, type DemoDrive, type DemoProgramme } from './demo-programme.js';
import { airfield, twinMouth } from './desk-programmes.js';

/** The estate's cooler sits behind the bumper: it recovers slowly. */
const ESTATE_COOLER: Cooler = { ...AIR_COOLER, coldConductanceWPerK: 100 };

const SEALED_BOX: PartSet = {
  ...STOCK_TURBO,
  inlet: [
    { name: 'duct', areaM2: 2.95e-3, laminarShare: 0 },
    { name: 'filter', areaM2: 3.9e-3, laminarShare: 0.45 },
    { name: 'hose', areaM2: 3.4e-3, laminarShare: 0 },
  ],
  boxConductanceWPerK: 6,
  bayShare: 0.02,
  cooler: ESTATE_COOLER,
  tuning: { gain: 0.026, rpm: 6000, widthRpm: 1000 },
};

/** A sealed airbox whose gain is masked as run, since it ran hotter. */
function airbox(): DemoProgramme {
  const hurried = schedule('aAAbBBBaAAbBBaAA', (setup) => (setup === 'B' ? 1.7 : 8), 26);

  const state = {
    tune: 'map 12',
    fuel: '98 RON',
    bonnet: 'closed',
    fan: 'front, 1.0 m',
    gear: '4',
    driveMode: '2WD',
    tyrePressureKPa: 230,
    learned: 'settled',
    airMeter: 'stock housing',
    boostControl: 'absolute',
  };
  const box = ['stock duct', 'stock hose'];
  return {
    folder: 'sealed-airbox',
    bench: benchOfAirbox(STOCK_TURBO, SEALED_BOX),
    spec: {
      seed: 41,
      engine: TURBO_ESTATE,
      setups: { A: { ...STOCK_TURBO, cooler: ESTATE_COOLER }, B: SEALED_BOX },
      schedule: hurried,
      scatter: { runToRun: 0.003, boostWander: 0.0015, driftPerHour: 0.003, walkAtSwap: 0.001, weatherPerHour: CALM_WEATHER },
      weather: { temperatureC: 18, pressurePa: 99_200, relativeHumidity: 0.52 },
      oilColdK: 4,
    },
    frame: {
      programme: {
        title: 'Sealed airbox, Skudde estate',
        question:
          'Does the sealed box with its larger filter gain at least 1 % in the upper half of the engine speeds, from the same start?',
        metric: 'meanPower',
        bandRpm: [4400, 6600],
        smallestGainPct: 1,
        correction: 'NONE',
        questions: [
          { id: 'q1', kind: 'power-gain', smallest: 1, unit: 'pct', start: 'same' },
          { id: 'q2', kind: 'less-restriction', smallest: 5, unit: 'pct', section: 'filter' },
        ],
        claims: [
          {
            id: 'c1',
            by: 'Elvegust Airworks, draft of the product page',
            text: '+3.5 kW at 6,000 rpm',
            quantity: 'power',
            value: 3.5,
            unit: 'kW',
            atRpm: 6000,
            powerAt: 'wheel',
            setup: 'B',
          },
        ],
        expected: { lowPct: 1, highPct: 4, by: 'EB Elin Bora', at: '2026-02-20T10:00:00Z' },
      },
      vehicle: {
        name: 'Skudde estate, 1.5-litre turbo',
        aspiration: 'turbo',
        displacementL: 1.5,
        cylinders: 4,
        compressors: 1,
        boostControl: 'absolute',
        ignition: 'spark',
        fuel: '98 RON',
        maxRpm: 6800,
        gearbox: 'manual',
        gearRatios: [3.6, 2.1, 1.4, 1.0, 0.8],
        finalDrive: 3.9,
        tyreRadiusM: 0.31,
        massKg: 1420,
      },
      cell: { name: 'Harbour cell', kind: 'inertia', powerAt: 'wheel', repeatabilityPct: 0.4, timeZone: 'Europe/Oslo' },
      setups: [
        {
          id: 'A',
          name: 'Stock airbox',
          reference: true,
          parts: ['stock airbox', ...box],
          state,
          sensorPlaces: { intakeAirTemperature: 'manifold' },
        },
        {
          id: 'B',
          name: 'Sealed box',
          parts: ['sealed box, revision 3', ...box],
          state,
          sensorPlaces: { intakeAirTemperature: 'manifold' },
        },
      ],
      startedAt: '2026-03-04T08:12:00Z',
    },
    devices: [
      { dialect: 'bracketed', device: (i) => ecuDevice(31.4 + 410 * i, true) },
      { dialect: 'two-storey', device: () => dynoDevice(0) },
      { dialect: 'comma-mark', device: (i) => dataBoxDevice(32_400 + 430 * i, ['duct', 'filter', 'hose'], true, false) },
    ],
  };
}

const trumpet = (gain: number, rpm: number): PartSet => ({ ...STOCK_NATURAL, tuning: { gain, rpm, widthRpm: 700 } });

/** Four inlet trumpets that do the same within what matters. */
function trumpets(): DemoProgramme {
  const state = {
    tune: 'map 4',
    fuel: '95 RON',
    bonnet: 'open',
    fan: 'front, 0.8 m',
    gear: '4',
    driveMode: '2WD',
    tyrePressureKPa: 240,
    learned: 'settled',
    airMeter: 'stock housing',
  };
  const names = { A: 'Stock trumpet', B: 'Short trumpet', C: 'Flared trumpet', D: 'Printed trumpet' };
  return {
    folder: 'four-trumpets',
    spec: {
      seed: 77,
      engine: NATURAL_PICKUP,
      setups: { A: STOCK_NATURAL, B: trumpet(0.0125, 5400), C: trumpet(0.0105, 5200), D: trumpet(0.013, 5150) },
      schedule: schedule('aAbBBaAcCCaAdDDaAAbBBaAcCCaAdDDaAA', () => 4.5, 9),
      scatter: { runToRun: 0.0018, boostWander: 0, driftPerHour: 0.002, walkAtSwap: 0.0005, weatherPerHour: CALM_WEATHER },
      weather: { temperatureC: 21, pressurePa: 100_400, relativeHumidity: 0.44 },
      oilColdK: 2,
    },
    frame: {
      programme: {
        title: 'Four inlet trumpets, Racka pick-up',
        question: 'Does any of three trumpets change the power of the upper half by 1 % or more against the stock one?',
        metric: 'meanPower',
        bandRpm: [4000, 6600],
        smallestGainPct: 1,
        correction: 'SAE_J1349',
        questions: [
          { id: 'q1', kind: 'power-gain', smallest: 1, unit: 'pct', start: 'same' },
          { id: 'q2', kind: 'power-no-loss', smallest: 1, unit: 'pct', start: 'same' },
        ],
      },
      vehicle: {
        name: 'Racka pick-up, 2.2-litre naturally aspirated',
        aspiration: 'na',
        displacementL: 2.2,
        cylinders: 4,
        compressors: 0,
        boostControl: 'none',
        ignition: 'spark',
        fuel: '95 RON',
        maxRpm: 7000,
        gearbox: 'manual',
        gearRatios: [3.7, 2.2, 1.4, 1.0],
        finalDrive: 4.1,
        tyreRadiusM: 0.34,
        massKg: 1580,
      },
      cell: { name: 'Quarry cell', kind: 'inertia', powerAt: 'wheel', repeatabilityPct: 0.2, timeZone: 'Europe/Oslo' },
      setups: (['A', 'B', 'C', 'D'] as const).map((id) => ({
        id,
        name: names[id],
        reference: id === 'A',
        parts: [`${names[id].toLowerCase()}, set of four`],
        state,
      })),
      startedAt: '2026-04-15T06:40:00Z',
    },
    devices: [
      { dialect: 'comma-mark', device: (i) => ecuDevice(25_000 + 320 * i, false) },
      { dialect: 'bracketed', device: () => dynoDevice(0) },
    ],
  };
}

const WATER_COOLER: Cooler = {
  heatCapacityJPerK: 7800,
  chargeShare: 0.84,
  coldConductanceWPerK: 900,
  areaM2: 2.5e-3,
  circuit: { heatCapacityJPerK: 26_000, radiatorWPerK: 420 },
};

/** A water-cooled charge cooler that was run on another batch of fuel: the power is nobody's, the temperature stands. */
function waterCooler(): DemoProgramme {
  const state = {
    tune: 'map 7',
    fuel: '98 RON, batch 11',
    bonnet: 'closed',
    fan: 'front, 1.0 m',
    gear: '3',
    driveMode: '2WD',
    tyrePressureKPa: 230,
    learned: 'settled',
    airMeter: 'stock housing',
    boostControl: 'absolute',
  };
  const small: Cooler = { ...AIR_COOLER, heatCapacityJPerK: 4200, chargeShare: 0.72, coldConductanceWPerK: 230 };
  return {
    folder: 'water-cooler-and-fuel',
    spec: {
      seed: 13,
      engine: { ...TURBO_ESTATE, boost: { ...TURBO_ESTATE.boost!, targetPa: 215_000 }, stopRpm: 6450, inertiaKgM2: 4.9 },
      setups: {
        A: { ...STOCK_TURBO, cooler: small },
        B: { ...STOCK_TURBO, cooler: WATER_COOLER, tune: { boostFactor: 1, sparkDeg: 1.2 } },
      },
      schedule: schedule('aAAbBBbBBaAA', () => 5.5, 30),
      scatter: { runToRun: 0.004, boostWander: 0.002, driftPerHour: 0.004, walkAtSwap: 0.001, weatherPerHour: CALM_WEATHER },
      weather: { temperatureC: 24, pressurePa: 98_600, relativeHumidity: 0.6 },
      oilColdK: 5,
    },
    frame: {
      programme: {
        title: 'Water-cooled charge cooler, Ouessant hatchback',
        question: 'Is the charge at least 8 K cooler in the band with the water-cooled core, and what does the car gain from it?',
        metric: 'meanPower',
        bandRpm: [4000, 6300],
        smallestGainPct: 1,
        correction: 'NONE',
        questions: [
          { id: 'q1', kind: 'cooler-charge', smallest: 8, unit: 'K' },
          { id: 'q2', kind: 'power-gain', smallest: 1, unit: 'pct', start: 'same' },
        ],
      },
      vehicle: {
        name: 'Ouessant hatchback, 1.5-litre turbo',
        aspiration: 'turbo',
        displacementL: 1.5,
        cylinders: 4,
        compressors: 1,
        boostControl: 'absolute',
        ignition: 'spark',
        fuel: '98 RON',
        maxRpm: 6600,
        gearbox: 'manual',
        gearRatios: [3.5, 1.9, 1.2, 0.9, 0.7],
        finalDrive: 3.7,
        tyreRadiusM: 0.3,
        massKg: 1180,
      },
      cell: { name: 'Harbour cell', kind: 'inertia', powerAt: 'wheel', repeatabilityPct: 0.4, timeZone: 'Europe/Oslo' },
      setups: [
        { id: 'A', name: 'Stock air-to-air cooler', reference: true, parts: ['stock cooler'], state },
        { id: 'B', name: 'Water-cooled core', parts: ['water-cooled core, revision 2'], state: { ...state, fuel: '98 RON, batch 12' } },
      ],
      startedAt: '2026-06-11T07:05:00Z',
    },
    devices: [
      { dialect: 'two-storey', device: (i) => ecuDevice(12 + 500 * i, true) },
      { dialect: 'bracketed', device: () => dynoDevice(0) },
      { dialect: 'comma-mark', device: (i) => dataBoxDevice(27_000 + 350 * i, ['duct', 'filter'], true, i >= 3 && i <= 8) },
    ],
  };
}

/** A long-runner manifold sold with the map that belongs to it: what the package does. */
function runnersAndMap(): DemoProgramme {
  const state = {
    tune: 'map 2',
    fuel: '95 RON',
    bonnet: 'open',
    fan: 'front, 0.8 m',
    gear: '4',
    driveMode: '2WD',
    tyrePressureKPa: 230,
    learned: 'settled',
    airMeter: 'stock housing',
  };
  return {
    folder: 'runners-and-map',
    spec: {
      seed: 29,
      engine: NATURAL_PICKUP,
      setups: { A: STOCK_NATURAL, B: { ...trumpet(0.021, 4700), tune: { boostFactor: 1, sparkDeg: 1.5 } } },
      schedule: schedule('aAAbBBbBBaAA', () => 5, 18),
      scatter: { runToRun: 0.003, boostWander: 0, driftPerHour: 0.003, walkAtSwap: 0.0008, weatherPerHour: CALM_WEATHER },
      weather: { temperatureC: 16, pressurePa: 101_100, relativeHumidity: 0.58 },
      oilColdK: 3,
    },
    frame: {
      programme: {
        title: 'Long runners and their map, Gotland saloon',
        question: 'What does a customer get who fits the long runners and the map that comes with them?',
        metric: 'meanTorque',
        bandRpm: [3800, 6200],
        smallestGainPct: 1.5,
        correction: 'SAE_J1349',
        questions: [{ id: 'q1', kind: 'package-gain', smallest: 1.5, unit: 'pct' }],
      },
      vehicle: {
        name: 'Gotland saloon, 2.2-litre naturally aspirated',
        aspiration: 'na',
        displacementL: 2.2,
        cylinders: 4,
        compressors: 0,
        boostControl: 'none',
        ignition: 'spark',
        fuel: '95 RON',
        maxRpm: 7000,
        gearbox: 'manual',
        gearRatios: [3.4, 2.0, 1.4, 1.0],
        finalDrive: 4.0,
        tyreRadiusM: 0.32,
        massKg: 1310,
      },
      cell: { name: 'Quarry cell', kind: 'inertia', powerAt: 'wheel', repeatabilityPct: 0.2, timeZone: 'Europe/Oslo' },
      setups: [
        { id: 'A', name: 'Stock runners', reference: true, parts: ['stock runners'], state },
        {
          id: 'B',
          name: 'Long runners with their map',
          parts: ['long runners, revision 1'],
          state: { ...state, tune: 'map 6, for the long runners' },
        },
      ],
      startedAt: '2026-05-07T07:20:00Z',
    },
    devices: [
      { dialect: 'bracketed', device: (i) => ecuDevice(80 + 330 * i, false) },
      { dialect: 'two-storey', device: () => dynoDevice(0) },
    ],
  };
}

/** The finished programmes of the demo. */
export const DEMO_PROGRAMMES: DemoProgramme[] = [airbox(), trumpets(), waterCooler(), runnersAndMap(), twinMouth(), airfield()];

/** The day as driven, its bundle, and the truth of every candidate. */
export function buildDemo({ spec, frame, devices, bench, drives }: DemoProgramme): {
  simulated: SimulatedBundle;
  driven: DrivenPull[];
  truths: Map<string, Truth>;
} {
  const driven = driveDay(spec);
  const simulated = bundleOfDay(frame, driven, devices, spec.seed);
  addDrives(simulated, drives ?? []);
  simulated.bundle.condition = conditionGood(frame.startedAt);
  if (bench) simulated.bundle = bench.dress(simulated.bundle);
  const { bandRpm, correction } = frame.programme;
  const candidates = frame.setups.filter(({ reference }) => !reference);
  const truths = new Map(candidates.map(({ id }) => [id, truthOf(spec, driven, ['A', id], bandRpm, correction)]));
  return { simulated, driven, truths };
}

/** Drives follow the pulls, with a log each. */
function addDrives({ bundle, records }: SimulatedBundle, drives: readonly DemoDrive[]): void {
  for (const { setup, startedAt, note, drive } of drives) {
    const id = `p${String(bundle.pulls.length + 1).padStart(2, '0')}`;
    const file = `logs/${id}-ecu.csv`;
    records.push({ file, record: recordDrive(drive), dialect: 'bracketed' });
    bundle.pulls.push({ id, setup, kind: 'drive', startedAt, logs: [{ file, device: 'ecu' }], excluded: null, note });
  }
}

/** The bundle's text as it is written to gezeit.json. */
export function bundleText(bundle: Bundle): string {
  return `${JSON.stringify(bundle, null, 2)}\n`;
}
