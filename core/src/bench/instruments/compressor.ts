import {
  BELIEVABLE_EFFICIENCY,
  compress,
  COMPRESSOR_EFFICIENCY,
  compressorPressures,
  correctedFlowKgS,
  SHAFT_EFFICIENCY,
} from '../../compressor/compression.js';
import {
  compressorMapCsv,
  inventedCompressorMap,
  placeOnMap,
  readCompressorMap,
  speedLines,
  type CompressorMap,
  type MapPoint,
} from '../../compressor/compressor-map.js';
import { inletLossCost } from '../../compressor/inlet-loss.js';
import { DRIVE_FIELD, isCrankshaftDriven } from '../drive-field.js';
import { ambientPressureField, numberField, shareField, temperatureField, type BenchRow, type Values } from '../fields.js';
import { figure, percentFigure, type ChartPoint, type Instrument } from '../instrument.js';

const KILOPASCAL = 1000;

const asRows = ({ points }: CompressorMap): BenchRow[] =>
  points.map(({ speedRpm, flowKgS, ratio, efficiency }) => ({ speed: speedRpm, flow: flowKgS, ratio, efficiency }));
const asPoint = (row: BenchRow): MapPoint => ({
  speedRpm: row['speed'] as number,
  flowKgS: row['flow'] as number,
  ratio: row['ratio'] as number,
  efficiency: row['efficiency'] as number,
});

function mapOf(values: Values): CompressorMap | null {
  const points = values
    .rows('map')
    .map((row) =>
      asPoint({ speed: row.number('speed'), flow: row.number('flow'), ratio: row.number('ratio'), efficiency: row.number('efficiency') }),
    );
  const isMap = new Set(points.map(({ speedRpm }) => speedRpm)).size > 1;
  return isMap
    ? {
        name: 'map',
        points,
        reference: { temperatureK: values.number('referenceTemperature') + 273.15, pressurePa: values.number('referencePressure') },
      }
    : null;
}

export const compressorInstrument: Instrument = {
  id: 'compressor',
  title: 'Compressor',
  question: 'What does each kilopascal before the compressor cost, and does the point stay on the map?',
  sections: ['compressor-entry'],
  formulas: ['h1', 'h2', 'h4', 'h7'],
  fields: [
    {
      kind: 'table',
      name: 'setups',
      label: 'Operating points',
      why: 'One row a setup: inlet loss and cooler loss are what the parts change.',
      atLeastRows: 1,
      columns: [
        { kind: 'text', name: 'name', label: 'Setup', why: 'Letter or name.' },
        numberField('flow', 'Air mass flow', 'g/s', 'Of the whole engine.', { atMost: 5 }),
        numberField('inletLoss', 'Inlet loss', 'kPa', 'From ambient to the compressor.', {
          atLeast: 0,
          atMost: 50_000,
          believable: [0, 12_000],
        }),
        numberField('manifold', 'Manifold, absolute', 'kPa', 'After the throttle.', { atMost: 600_000, believable: [110_000, 350_000] }),
        numberField('coolerLoss', 'Cooler loss', 'kPa', 'Cooler, pipes and throttle.', {
          atLeast: 0,
          atMost: 100_000,
          believable: [0, 30_000],
        }),
        temperatureField('inlet', 'Inlet air', 'At the compressor.', { believable: [-20, 80] }),
      ],
    },
    DRIVE_FIELD,
    numberField('compressors', 'Compressors side by side', '–', 'Each takes its share of the flow.', { value: 1, atLeast: 1, atMost: 4 }),
    shareField('efficiency', 'Efficiency where no map says it', 'Isentropic, total to total.', {
      value: COMPRESSOR_EFFICIENCY,
      believable: [0.45, 0.82],
      assumption: [BELIEVABLE_EFFICIENCY.low, 0.8],
    }),
    shareField('shaftEfficiency', 'Shaft efficiency', 'Bearings.', { value: SHAFT_EFFICIENCY, assumption: [0.93, 0.99] }),
    shareField('cooler', 'Effectiveness of the cooler', 'It takes out that share of a hotter outlet.', {
      value: 0.7,
      atMost: 0.999,
      assumption: [0.5, 0.9],
    }),
    ambientPressureField(),
    temperatureField('referenceTemperature', 'Reference temperature of the map', 'As printed on the map: maps differ.', {
      value: 298 - 273.15,
    }),
    numberField('referencePressure', 'Reference pressure of the map', 'kPa', 'As printed on the map.', {
      value: 100_000,
      atLeast: 80_000,
      atMost: 110_000,
    }),
    {
      kind: 'table',
      name: 'map',
      label: 'Map',
      why: 'Load it from CSV: speed, corrected flow, pressure ratio, efficiency.',
      atLeastRows: 0,
      csv: {
        read: (bytes, file) => asRows(readCompressorMap(bytes, file)),
        write: (rows) => compressorMapCsv({ name: 'map', reference: inventedCompressorMap().reference, points: rows.map(asPoint) }),
      },
      example: { name: 'the Tramontane wheel, invented', rows: () => asRows(inventedCompressorMap()) },
      columns: [
        numberField('speed', 'Shaft speed', 'rpm', 'Corrected.', { atMost: 500_000 }),
        numberField('flow', 'Corrected flow', 'kg/s', 'Of one compressor.', { atLeast: 0, atMost: 3 }),
        numberField('ratio', 'Pressure ratio', '–', 'Total to total.', { atLeast: 1, atMost: 8 }),
        shareField('efficiency', 'Efficiency', 'Isentropic.'),
      ],
    },
  ],
  read(values, f) {
    const map = mapOf(values);
    const ambient = values.number('ambientPressure');
    const crankshaft = isCrankshaftDriven(values);
    const warnings: string[] = map ? [] : ['No map is loaded: the efficiency is the assumed one, and surge or choke cannot be seen.'];
    const points: ChartPoint[] = [];
    const rows = values.rows('setups').map((row) => {
      const name = row.text('name');
      const { inletPa, outletPa, ratio } = compressorPressures(
        ambient,
        row.number('inletLoss'),
        row.number('manifold'),
        row.number('coolerLoss'),
      );
      const flow = row.number('flow') / values.number('compressors');
      const corrected = correctedFlowKgS(flow, row.number('inlet'), inletPa, map?.reference);
      const place = map ? placeOnMap(map, corrected, ratio) : null;
      if (place?.edge) warnings.push(`${name}: the point leaves the map, ${place.edge}. Figures use the assumed efficiency.`);
      const efficiency = place?.efficiency ?? values.number('efficiency');
      const { outletC, shaftPowerW } = compress(row.number('inlet'), ratio, efficiency, row.number('flow'), {
        shaftEfficiency: values.number('shaftEfficiency'),
      });
      const cost = inletLossCost({
        ambientPa: ambient,
        inletDropPa: row.number('inletLoss'),
        extraPa: KILOPASCAL,
        outletPa,
        inletC: row.number('inlet'),
        efficiency,
        massFlowKgS: row.number('flow'),
        coolerEffectiveness: values.number('cooler'),
      });
      if (outletC > 220) warnings.push(`${name}: ${f.temperature(outletC)} after the compressor is beyond what these formulas hold for.`);
      points.push({ name, x: corrected, y: ratio });
      return {
        row: name,
        figures: [
          figure('ratio', 'Pressure ratio', ratio, '–'),
          figure('corrected', 'Corrected flow', corrected, 'g/s'),
          percentFigure('efficiency', 'Efficiency', efficiency),
          figure('speed', 'Corrected speed', place?.speedRpm ?? null, 'rpm'),
          figure('outlet', 'Outlet', outletC, '°C'),
          figure('shaft', 'Shaft power', shaftPowerW, 'kW'),
          // The ratio stays where the speed does: the air falls as the inlet pressure.
          ...(crankshaft
            ? [percentFigure('costAir', 'One kPa more: air', -KILOPASCAL / inletPa)]
            : [
                percentFigure('costPower', 'One kPa more: compression power', cost.compressionShare),
                figure('costOutlet', 'One kPa more: outlet', cost.outletRiseK, 'K', { difference: true }),
                figure('costManifold', 'One kPa more: manifold', cost.manifoldRiseK, 'K', { difference: true }),
              ]),
        ],
      };
    });
    const off = rows.filter((_, i) => map && !placeOnMap(map, points[i]!.x, points[i]!.y).inside).map(({ row }) => row);
    return {
      sentence:
        off.length > 0
          ? `${off.join(' and ')} leave the map.`
          : crankshaft
            ? `With its speed given by the crankshaft, one kilopascal before the compressor costs ${Math.abs(rows[0]!.figures[6]!.value!).toFixed(1)} % of the air: the boost is not held.`
            : `With the boost held, one kilopascal before the compressor costs ${rows[0]!.figures[6]!.value!.toFixed(1)} % more compression power, not 1 % of the engine’s.`,
      figures: [],
      rows,
      warnings: [
        ...warnings,
        crankshaft
          ? 'The compressor’s own shaft power comes off the crankshaft: a smaller ratio gives a little of the loss back. It is not modelled.'
          : 'Once wastegate, speed or surge margin is used up, power falls as the inlet pressure does. The turbine’s extra back pressure is not modelled.',
      ],
      charts: [
        {
          name: 'compressor-map',
          title: 'Operating points on the map',
          subtitle: map ? 'lines of one shaft speed, thousand rpm, and the edges' : 'no map loaded',
          x: { label: 'Corrected flow', unit: 'g/s' },
          y: { label: 'Pressure ratio', unit: '–' },
          lines: map
            ? [
                ...speedLines(map).map(({ speedRpm, points: line }) => ({
                  name: String(Math.round(speedRpm / 1000)),
                  guide: true,
                  x: line.map((p) => p.flowKgS),
                  y: line.map((p) => p.ratio),
                })),
                {
                  name: 'surge',
                  style: 'dash' as const,
                  x: speedLines(map).map(({ points: line }) => line[0]!.flowKgS),
                  y: speedLines(map).map(({ points: line }) => line[0]!.ratio),
                },
                {
                  name: 'choke',
                  style: 'dot' as const,
                  x: speedLines(map).map(({ points: line }) => line.at(-1)!.flowKgS),
                  y: speedLines(map).map(({ points: line }) => line.at(-1)!.ratio),
                },
              ]
            : [],
          points,
        },
      ],
    };
  },
};
