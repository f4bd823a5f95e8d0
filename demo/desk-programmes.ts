import {
  dataBoxDevice,
  dynoDevice,
  ecuDevice,
  NATURAL_PICKUP,
  roadEcuDevice,
  startLine,
  STOCK_NATURAL,
  STOCK_TURBO,
  TURBO_ESTATE,
  type DriveSpec,
  type PartSet,
  type RoadCar,
} from '@gezeit/core/simulate';
import { CALM_WEATHER, schedule, type DemoProgramme } from './demo-programme.js';

/** A box whose second mouth opens at an engine speed: its drop has a step, and one area would be a lie. */
export function twinMouth(): DemoProgramme {
  const state = {
    tune: 'map 3',
    fuel: '95 RON',
    bonnet: 'closed',
    fan: 'front, 1.0 m',
    gear: '4',
    driveMode: '2WD',
    tyrePressureKPa: 235,
    learned: 'settled',
    airMeter: 'stock housing',
  };
  const twin: PartSet = {
    ...STOCK_NATURAL,
    inlet: [
      { name: 'box', areaM2: 2.6e-3, laminarShare: 0, opens: { atRpm: 4650, areaM2: 3.7e-3 } },
      { name: 'filter', areaM2: 3e-3, laminarShare: 0.45 },
    ],
    tuning: { gain: 0.02, rpm: 5600, widthRpm: 900 },
  };
  const stock: PartSet = {
    ...STOCK_NATURAL,
    inlet: [
      { name: 'box', areaM2: 2.6e-3, laminarShare: 0 },
      { name: 'filter', areaM2: 3e-3, laminarShare: 0.45 },
    ],
  };
  return {
    folder: 'twin-mouth',
    spec: {
      seed: 63,
      engine: NATURAL_PICKUP,
      setups: { A: stock, B: twin },
      schedule: schedule('aAAbBBbBBaAA', () => 5, 16),
      scatter: { runToRun: 0.0025, boostWander: 0, driftPerHour: 0.002, walkAtSwap: 0.0006, weatherPerHour: CALM_WEATHER },
      weather: { temperatureC: 14, pressurePa: 100_900, relativeHumidity: 0.55 },
      oilColdK: 3,
    },
    frame: {
      programme: {
        title: 'Twin-mouth airbox, Herdwick wagon',
        question: 'Does the second mouth, which opens at 4,650 rpm, take restriction away where it matters, and is it worth 1 %?',
        metric: 'meanPower',
        bandRpm: [4000, 6600],
        smallestGainPct: 1,
        correction: 'SAE_J1349',
        questions: [
          { id: 'q1', kind: 'power-gain', smallest: 1, unit: 'pct', start: 'same' },
          { id: 'q2', kind: 'less-restriction', smallest: 5, unit: 'pct', section: 'box' },
          { id: 'q3', kind: 'quicker-response', smallest: 0.2, unit: 's', response: { of: 'engineSpeed', from: 3000, to: 6000 } },
        ],
      },
      vehicle: {
        name: 'Herdwick wagon, 2.2-litre naturally aspirated',
        aspiration: 'na',
        displacementL: 2.2,
        cylinders: 4,
        compressors: 0,
        boostControl: 'none',
        ignition: 'spark',
        fuel: '95 RON',
        maxRpm: 7000,
        gearbox: 'manual',
        gearRatios: [3.6, 2.1, 1.4, 1.0],
        finalDrive: 4.0,
        tyreRadiusM: 0.33,
        massKg: 1420,
      },
      cell: { name: 'Quarry cell', kind: 'inertia', powerAt: 'wheel', repeatabilityPct: 0.25, timeZone: 'Europe/Oslo' },
      setups: [
        { id: 'A', name: 'Stock box', reference: true, parts: ['stock box, one mouth'], state },
        { id: 'B', name: 'Twin-mouth box', parts: ['twin-mouth box, revision 2'], state },
      ],
      startedAt: '2026-06-11T07:05:00Z',
    },
    devices: [
      { dialect: 'bracketed', device: (i) => ecuDevice(60 + 350 * i, false) },
      { dialect: 'two-storey', device: () => dynoDevice(0) },
      { dialect: 'comma-mark', device: (i) => dataBoxDevice(30_000 + 360 * i, ['box', 'filter'], false, false) },
    ],
  };
}

const AIRFIELD = { ratios: [3.4, 2.0, 1.36, 1.03, 0.85], final: 3.9, radiusM: 0.31, massKg: 1265 };
const perRpm = (gear: number) => (2 * Math.PI * AIRFIELD.radiusM) / 60 / (AIRFIELD.ratios[gear - 1]! * AIRFIELD.final);
const ROADSTER: RoadCar = {
  massKg: AIRFIELD.massKg * 1.06,
  dragAreaM2: 0.62,
  rollingN: 0.012 * AIRFIELD.massKg * 9.81,
  gears: [
    { gear: 3, mPerSPerRpm: perRpm(3), startRpm: 2800, stopRpm: 6600 },
    { gear: 4, mPerSPerRpm: perRpm(4), startRpm: 5000, stopRpm: 6500 },
  ],
};

/** Laps without a counter: the line across the track is put on the map. */
const LAPS: DriveSpec = {
  seed: 0,
  laps: 7,
  lengthKm: 0,
  rateHz: 5,
  ambientC: 22,
  massKg: AIRFIELD.massKg,
  powerW: 108_000,
  soakK: 0,
  loadK: 0,
  trimDriftPct: 0,
  isCounted: false,
};

/** A closed airfield, one logger, two gears a run: a cold feed against the stock one. */
export function airfield(): DemoProgramme {
  const state = {
    tune: 'map 8',
    fuel: '98 RON',
    bonnet: 'closed',
    gear: '3 and 4',
    driveMode: '2WD',
    tyrePressureKPa: 240,
    learned: 'settled',
    boostControl: 'absolute',
  };
  return {
    folder: 'airfield-feed',
    spec: {
      seed: 18,
      engine: TURBO_ESTATE,
      setups: {
        A: { ...STOCK_TURBO, bayShare: 0.3 },
        B: { ...STOCK_TURBO, bayShare: 0.02, boxConductanceWPerK: 4 },
      },
      schedule: schedule('aAAbBBaAAbBB', () => 6, 20),
      scatter: { runToRun: 0.004, boostWander: 0.0015, driftPerHour: 0.002, walkAtSwap: 0.0008, weatherPerHour: CALM_WEATHER },
      weather: { temperatureC: 19, pressurePa: 100_300, relativeHumidity: 0.5 },
      oilColdK: 4,
      road: ROADSTER,
    },
    frame: {
      programme: {
        title: 'Cold feed on the airfield, Coburg roadster',
        question: 'Is the charge cooler with the cold feed on the move, and does the car run up quicker in third?',
        metric: 'meanPower',
        bandRpm: [4000, 6400],
        smallestGainPct: 1,
        correction: 'NONE',
        questions: [
          { id: 'q1', kind: 'cooler-charge', smallest: 3, unit: 'K' },
          { id: 'q2', kind: 'quicker-response', smallest: 0.15, unit: 's', response: { of: 'engineSpeed', from: 3500, to: 6000 } },
        ],
        laps: { line: startLine() },
      },
      vehicle: {
        name: 'Coburg roadster, 1.5-litre turbo',
        aspiration: 'turbo',
        displacementL: 1.5,
        cylinders: 4,
        compressors: 1,
        boostControl: 'absolute',
        ignition: 'spark',
        fuel: '98 RON',
        maxRpm: 6800,
        gearbox: 'manual',
        gearRatios: AIRFIELD.ratios,
        finalDrive: AIRFIELD.final,
        tyreRadiusM: AIRFIELD.radiusM,
        massKg: AIRFIELD.massKg,
        dragAreaM2: 0.62,
      },
      cell: { name: 'Airfield runway', kind: 'road', powerAt: 'wheel', timeZone: 'Europe/Oslo' },
      setups: [
        { id: 'A', name: 'Stock feed', reference: true, parts: ['stock feed'], state, sensorPlaces: { intakeAirTemperature: 'manifold' } },
        { id: 'B', name: 'Cold feed', parts: ['cold feed, revision 1'], state, sensorPlaces: { intakeAirTemperature: 'manifold' } },
      ],
      startedAt: '2026-06-24T06:30:00Z',
    },
    devices: [{ dialect: 'bracketed', device: (i) => roadEcuDevice(45 + 380 * i, true) }],
    drives: [
      {
        setup: 'A',
        startedAt: '2026-06-24T12:40:00Z',
        note: 'seven laps of the perimeter',
        drive: { ...LAPS, seed: 401, soakK: 17, loadK: 13 },
      },
      {
        setup: 'B',
        startedAt: '2026-06-24T13:25:00Z',
        note: 'seven laps of the perimeter',
        drive: { ...LAPS, seed: 402, soakK: 5, loadK: 10 },
      },
      {
        setup: 'B',
        startedAt: '2026-06-24T14:30:00Z',
        note: 'the way home: trims and temperatures over 55 km',
        drive: { ...LAPS, seed: 403, soakK: 5, loadK: 10, laps: null, lengthKm: 55, rateHz: 1, trimDriftPct: 1.6 },
      },
    ],
  };
}
