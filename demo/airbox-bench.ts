import {
  CONDITION_ITEMS,
  pathSectionSchema,
  type Condition,
  type BenchInputs,
  type Bundle,
  type Evidence,
  type PathSection,
} from '@gezeit/contract';
import { benchParts, checkInputs, evidenceFrom, instrumentById, lossFromBench, pullsFromLetters, scheduled } from '@gezeit/core';
import { flowBenchSheet, type PartSet, type SheetReading, type Weather } from '@gezeit/core/simulate';

/** Bench work of a demo programme: its evidence, and how it changes the bundle. */
export interface DemoBench {
  evidence: Evidence[];
  dress(bundle: Bundle): Bundle;
}

const ROOM: Weather = { temperatureC: 21, pressurePa: 99_800, relativeHumidity: 0.45 };
const BY = 'EB Elin Bora';
const AT = '2026-02-19T14:00:00Z';

/** The inputs of a flow-bench sheet in this demo's room. */
export function sheetInputs(readings: SheetReading[]): BenchInputs {
  return { readings, ambientPressure: ROOM.pressurePa, temperature: ROOM.temperatureC, atDepression: 4000, plateDiameter: 0.05 };
}

/** A kept result, stamped with a fixed person and time. */
export function kept(
  instrument: string,
  inputs: BenchInputs,
  about: { id: string; note: string; setup: string | null; section: string | null },
): Evidence {
  return { ...evidenceFrom(instrumentById(instrument)!, inputs, about), by: BY, at: AT };
}

export const section = (value: object): PathSection => pathSectionSchema.parse(value);

/** Every item of the condition check answered, the day before a day. */
export function conditionGood(dayAfter: string): Condition {
  const at = new Date(Date.parse(dayAfter) - 18 * 3_600_000).toISOString();
  return CONDITION_ITEMS.map((item) => ({
    item,
    state: 'good',
    note: item === 'filter' ? 'new element, fitted for the day' : '',
    by: BY,
    at,
  }));
}

function inletSection(parts: PartSet, name: string): PartSet['inlet'][number] {
  const found = parts.inlet.find((entry) => entry.name === name);
  if (!found) throw new Error(`the part set has no ${name}`);
  return found;
}

/** The airbox programme's bench: ducts and filters of both setups on the flow bench, the hose as logged in the car, the rest from geometry. */
export function benchOfAirbox(stock: PartSet, sealed: PartSet): DemoBench {
  const sheets = {
    duct: sheetInputs(
      flowBenchSheet(
        [
          { item: 'stock duct', section: inletSection(stock, 'duct') },
          { item: 'sealed duct', section: inletSection(sealed, 'duct') },
        ],
        ROOM,
        501,
      ),
    ),
    filter: sheetInputs(
      flowBenchSheet(
        [
          { item: 'stock panel', section: inletSection(stock, 'filter') },
          { item: 'cylinder', section: inletSection(sealed, 'filter') },
        ],
        ROOM,
        502,
      ),
    ),
  };
  const evidence = [
    kept('flow-bench', sheets.duct, {
      id: 'duct-on-the-bench',
      note: 'Both ducts with the same adapter, inlet free.',
      setup: null,
      section: 'duct',
    }),
    kept('flow-bench', sheets.filter, {
      id: 'filters-on-the-bench',
      note: 'Element in its own frame, lid off.',
      setup: null,
      section: 'filter',
    }),
  ];
  const loss = (inputs: BenchInputs, item: string, id: string) => {
    const part = benchParts(checkInputs(instrumentById('flow-bench')!.fields, inputs).values).find((entry) => entry.item === item)!;
    return lossFromBench(part, id);
  };
  const path = (which: 'stock' | 'sealed'): PathSection[] => [
    section({
      id: 'opening',
      kind: 'opening',
      name: 'opening',
      geometry: { areaCm2: which === 'stock' ? 62 : 70, edge: 'bell-mouth' },
      purposes: [
        {
          purpose: 'water',
          replacedBy: which === 'stock' ? '' : 'same place, drain in the lowest corner',
          checkedHow: which === 'stock' ? '' : 'hose test, ten minutes',
        },
      ],
    }),
    section({
      id: 'duct',
      kind: 'duct',
      name: 'duct',
      geometry: { areaCm2: which === 'stock' ? 34 : 40, lengthMm: 420 },
      findings:
        which === 'stock' ? [{ kind: 'leak-path', text: 'drain hole of 6 mm at the lowest point stands open to the engine bay' }] : [],
      source: 'bench',
      bench: loss(sheets.duct, which === 'stock' ? 'stock duct' : 'sealed duct', 'duct-on-the-bench'),
    }),
    section({
      id: 'filter',
      kind: 'filter',
      name: 'filter',
      geometry: which === 'stock' ? { mediaAreaM2: 0.42, areaCm2: 180 } : { mediaAreaM2: 0.66, areaCm2: 240 },
      findings:
        which === 'stock' ? [{ kind: 'soft-wall', text: 'cover plate draws in by 2 mm at 3 kPa and comes nearer to the pleats' }] : [],
      purposes: [
        {
          purpose: 'dust',
          replacedBy: which === 'stock' ? '' : 'same medium, more of it',
          checkedHow: which === 'stock' ? '' : 'maker’s data sheet of the medium',
        },
      ],
      source: 'bench',
      bench: loss(sheets.filter, which === 'stock' ? 'stock panel' : 'cylinder', 'filters-on-the-bench'),
    }),
    section({
      id: 'hose',
      kind: 'hose',
      name: 'hose',
      geometry: { areaCm2: 36, lengthMm: 260, corrugated: true },
      findings: which === 'stock' ? [{ kind: 'rough-wall', text: 'wire shows through the inner layer over a third of its length' }] : [],
      purposes: [
        {
          purpose: 'sound',
          replacedBy: which === 'stock' ? '' : 'the same hose: not touched',
          checkedHow: which === 'stock' ? '' : 'heard at idle and at full load, door shut',
        },
      ],
      source: 'car',
      car: { section: 'hose' },
    }),
    section({ id: 'entry', kind: 'compressor-entry', name: 'compressor entry', geometry: { areaCm2: 58 } }),
    section({ id: 'cooler', kind: 'cooler', name: 'cooler', geometry: { areaCm2: 22 } }),
  ];
  return {
    evidence,
    dress: (bundle) => ({
      ...bundle,
      setups: bundle.setups.map((setup) => ({
        ...setup,
        path: path(setup.id === 'A' ? 'stock' : 'sealed'),
        partDetails:
          setup.id === 'B'
            ? [
                {
                  part: 'sealed box, revision 3',
                  line: 'sealed box',
                  revision: '3',
                  follows: '2',
                  stage: 'pre-production' as const,
                  material: 'glass-filled nylon',
                  serial: 'SB3-004',
                  underTest: true,
                },
              ]
            : [{ part: 'stock airbox', line: 'stock airbox', stage: 'stock' as const }],
      })),
      // As planned: with equal rests. On the day the new box was hurried.
      plan: scheduled({ restMin: 8, swapMin: 26, pulls: pullsFromLetters('aAAbBBBaAAbBBaAA', ['A', 'B']) }),
      days: [{ day: '2026-03-04', odometerKm: 41_210, ecuSoftware: 'as delivered' }],
      bench: {
        budgetRpm: 6000,
        inputs: {
          'air-demand': {
            method: 'displacement',
            engineSpeed: 6000,
            displacement: 1.5e-3,
            volumetricEfficiency: 0.95,
            bestFillingSpeed: 4600,
            manifoldPressure: 205_000,
            manifoldTemperature: 48,
            ambientPressure: 99_200,
            ambientTemperature: 18,
          },
          'flow-bench': sheets.filter,
        },
      },
    }),
  };
}
