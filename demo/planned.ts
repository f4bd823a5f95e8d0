import type { BenchInputs, Bundle, Evidence, PathSection } from '@gezeit/contract';
import { benchParts, checkInputs, instrumentById, lossFromBench, scheduled, withConditioning } from '@gezeit/core';
import { flowBenchSheet } from '@gezeit/core/simulate';
import { conditionGood, kept, section, sheetInputs } from './airbox-bench.js';

/** A demo programme of which nothing has run yet. */
export interface PlannedProgramme {
  folder: string;
  bundle: Bundle;
  evidence: Evidence[];
}

const ROOM = { temperatureC: 21, pressurePa: 99_800, relativeHumidity: 0.45 };

/** Cooler test of both cores on a warm-air rig, stock first. */
const COOLERS: BenchInputs = {
  chargeIn: 118,
  coldIn: 29,
  flow: 0.105,
  pressureIn: 188_000,
  coolers: [
    { name: 'stock air-to-air', chargeOut: 57, drop: 8200, faceArea: null, transfer: null },
    { name: 'water-to-air, revision 1', chargeOut: 43, drop: 5600, faceArea: null, transfer: null },
  ],
};
const CIRCUIT: BenchInputs = {
  chargeIn: 118,
  chargeOut: 43,
  chargeFlow: 0.105,
  coolantIn: 33,
  coolantOut: 39.4,
  coolantFlow: 19 / 60_000,
  ambient: 22,
  volume: 5.2e-3,
  pullTime: 14,
};
const WET_DAY: BenchInputs = {
  temperature: 24,
  humidity: 0.85,
  ambientPressure: 99_800,
  chargePressure: 182_000,
  coolerOut: 43,
  wall: 34,
  follows: 0.5,
  flow: 0.105,
};
const VOLUMES: BenchInputs = {
  flow: 0.025,
  pressureFrom: 100_000,
  pressureTo: 182_000,
  temperature: 48,
  variants: [
    { name: 'stock air-to-air', core: 3.1e-3, pipeBore: 0.05, pipeLength: 2.6 },
    { name: 'water-to-air, revision 1', core: 1.4e-3, pipeBore: 0.05, pipeLength: 0.9 },
  ],
};
const LEAK: BenchInputs = {
  method: 'decay',
  object: 'waterCore',
  passage: 'coolant side, hoses clamped',
  filled: 'air',
  testPressure: 70_000,
  volume: 0.9e-3,
  limit: 1e-6,
  operating: 110_000,
  ambientPressure: 99_800,
  decay: [0, 120, 240, 360, 480, 600].map((time, i) => ({
    time,
    pressure: 70_000 - 0.4 * time + [0, 6, -5, 4, -3, 2][i]!,
    temperature: 21,
  })),
};

/** A water-to-air cooler on a small coupe: asked and measured on the bench, nothing driven. */
function coupeCooler(): PlannedProgramme {
  const sheet = sheetInputs(
    flowBenchSheet(
      [
        { item: 'stock duct', section: { name: 'duct', areaM2: 2.3e-3, laminarShare: 0 } },
        { item: 'stock element', section: { name: 'filter', areaM2: 2.0e-3, laminarShare: 0.45 } },
      ],
      ROOM,
      611,
    ),
  );
  const evidence = [
    kept('flow-bench', sheet, { id: 'stock-tract', note: 'Stock duct and element, one adapter.', setup: 'A', section: null }),
    kept('cooler', COOLERS, {
      id: 'both-cores',
      note: 'Warm-air rig, fan at 8 m/s in front of the stock core.',
      setup: null,
      section: 'cooler',
    }),
    kept('water-circuit', CIRCUIT, { id: 'heat-balance', note: 'Pump at full voltage.', setup: 'B', section: 'cooler' }),
    kept('condensation', WET_DAY, { id: 'wet-day', note: 'A damp summer morning.', setup: 'B', section: 'cooler' }),
    kept('charge-volume', VOLUMES, { id: 'fill-time', note: '', setup: 'B', section: 'cooler' }),
    kept('leak-test', LEAK, { id: 'core-tight', note: 'Limit from our own drawing.', setup: 'B', section: 'cooler' }),
  ];
  const parts = benchParts(checkInputs(instrumentById('flow-bench')!.fields, sheet).values);
  const loss = (item: string) =>
    lossFromBench(
      parts.find((part) => part.item === item)!,
      'stock-tract',
    );
  const tract: PathSection[] = [
    section({ id: 'opening', kind: 'opening', name: 'opening', geometry: { areaCm2: 48, edge: 'rounded' } }),
    section({
      id: 'duct',
      kind: 'duct',
      name: 'duct',
      geometry: { areaCm2: 30, lengthMm: 380 },
      source: 'bench',
      bench: loss('stock duct'),
    }),
    section({
      id: 'filter',
      kind: 'filter',
      name: 'filter',
      geometry: { mediaAreaM2: 0.31 },
      source: 'bench',
      bench: loss('stock element'),
      purposes: [{ purpose: 'dust' }],
    }),
    section({
      id: 'meter',
      kind: 'meter-housing',
      name: 'air meter housing',
      geometry: { areaCm2: 38 },
      purposes: [{ purpose: 'meter-flow' }],
    }),
    section({ id: 'entry', kind: 'compressor-entry', name: 'compressor entry', geometry: { areaCm2: 42 } }),
  ];
  const core = (areaCm2: number, name: string) => section({ id: 'cooler', kind: 'cooler', name, geometry: { areaCm2 } });
  const state = {
    tune: 'map 3',
    fuel: '95 RON',
    bonnet: 'closed',
    fan: 'front, 0.8 m',
    gear: '4',
    driveMode: '2WD',
    tyrePressureKPa: 260,
    learned: 'settled',
    airMeter: 'stock housing',
    boostControl: 'absolute',
  };
  const bundle: Bundle = {
    format: 'gezeit-bundle',
    version: 1,
    programme: {
      title: 'Water-to-air cooler, Bentheim coupe',
      question: 'Is the charge of the small coupe at least 6 K cooler with the water-to-air core, without a loss of power?',
      metric: 'meanPower',
      bandRpm: [2800, 5400],
      smallestGainPct: 1,
      correction: 'NONE',
      questions: [
        { id: 'q1', kind: 'cooler-charge', smallest: 6, unit: 'K' },
        { id: 'q2', kind: 'power-no-loss', smallest: 1, unit: 'pct', start: 'own' },
        { id: 'q3', kind: 'coolant-no-hotter', smallest: 3, unit: 'K' },
      ],
      claims: [
        {
          id: 'c1',
          by: 'Elvegust Airworks, order book',
          text: 'charge 10 K cooler at full load',
          quantity: 'temperature',
          value: -10,
          unit: 'K',
          setup: 'B',
        },
      ],
    },
    vehicle: {
      name: 'Bentheim coupe, 1.3-litre turbo',
      aspiration: 'turbo',
      displacementL: 1.3,
      cylinders: 4,
      compressors: 1,
      boostControl: 'absolute',
      ignition: 'spark',
      fuel: '95 RON',
      maxRpm: 5700,
      gearbox: 'manual',
      gearRatios: [3.8, 2.1, 1.4, 1.0, 0.8],
      finalDrive: 4.3,
      tyreRadiusM: 0.3,
      massKg: 1120,
    },
    cell: { name: 'Harbour cell', kind: 'inertia', powerAt: 'wheel', repeatabilityPct: 0.4, timeZone: 'Europe/Oslo' },
    setups: [
      {
        id: 'A',
        name: 'Stock air-to-air cooler',
        reference: true,
        parts: ['stock cooler', 'stock pipes'],
        state,
        path: [...tract, core(19, 'stock core')],
      },
      {
        id: 'B',
        name: 'Water-to-air core',
        parts: ['water-to-air core, revision 1', 'short pipes'],
        state,
        partDetails: [
          {
            part: 'water-to-air core, revision 1',
            line: 'water-to-air core',
            revision: '1',
            stage: 'prototype',
            material: 'aluminium',
            serial: 'WA1-001',
            underTest: true,
          },
        ],
        path: [...tract, core(23, 'water-to-air core')],
      },
    ],
    pulls: [],
    plan: scheduled({ pulls: withConditioning(['A', 'A', 'B', 'B', 'B', 'B', 'A', 'A']), restMin: 5, swapMin: 40 }),
    condition: conditionGood('2026-02-20T08:00:00Z'),
    bench: {
      budgetRpm: 5000,
      inputs: {
        'air-demand': {
          method: 'displacement',
          engineSpeed: 5000,
          displacement: 1.3e-3,
          volumetricEfficiency: 0.92,
          bestFillingSpeed: 3600,
          manifoldPressure: 182_000,
          manifoldTemperature: 45,
          ambientPressure: 99_800,
          ambientTemperature: 22,
        },
        'flow-bench': sheet,
        cooler: COOLERS,
        'water-circuit': CIRCUIT,
        condensation: WET_DAY,
        'charge-volume': VOLUMES,
        'leak-test': LEAK,
      },
    },
  };
  return { folder: 'coupe-water-cooler', bundle, evidence };
}

/** The demo's programmes of which nothing has run yet. */
export const PLANNED_PROGRAMMES: PlannedProgramme[] = [coupeCooler()];

/** Evidence as it is written to its file. */
export function evidenceText(evidence: Evidence): string {
  return `${JSON.stringify(evidence, null, 2)}\n`;
}
