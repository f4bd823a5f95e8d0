import { plain, signed, tied } from '../../format/values.js';
import { DRY_AIR_SPECIFIC_HEAT } from '../../air/moist-air.js';
import { breakEvenDropPa, densityRatio } from '../../cooler/density-recovery.js';
import { coolerTest, crossflowEffectiveness } from '../../cooler/effectiveness.js';
import { numberField, shareField, temperatureField, type Values } from '../fields.js';
import { figure, percentFigure, steps, type Instrument } from '../instrument.js';

/** Charge less than this above the cooling air has nothing to gain from a bigger core, K. Assumption. */
const LEAST_HEADROOM_K = 8;

interface Candidate {
  name: string;
  outC: number;
  dropPa: number;
  effectiveness: number;
  byGeometry: boolean;
}

function candidate(row: Values, values: Values): Candidate {
  const [inC, coldC] = [values.number('chargeIn'), values.number('coldIn')];
  const outC = row.optional('chargeOut');
  if (outC !== null) {
    const test = coolerTest({
      chargeInC: inC,
      chargeOutC: outC,
      coldInC: coldC,
      chargeFlowKgS: values.number('flow'),
      chargeSpecificHeat: DRY_AIR_SPECIFIC_HEAT,
      coldFlowKgS: values.optional('coldFlow'),
      coldSpecificHeat: DRY_AIR_SPECIFIC_HEAT,
    });
    return { name: row.text('name'), outC, dropPa: row.number('drop'), effectiveness: test.effectiveness, byGeometry: false };
  }
  const charge = values.number('flow') * DRY_AIR_SPECIFIC_HEAT;
  const cold = (values.optional('coldFlow') ?? values.number('flow') * 3) * DRY_AIR_SPECIFIC_HEAT;
  const smaller = Math.min(charge, cold);
  const effectiveness = crossflowEffectiveness(
    (row.number('faceArea') * row.number('transfer')) / smaller,
    smaller / Math.max(charge, cold),
  );
  return {
    name: row.text('name'),
    outC: inC - (effectiveness * smaller * (inC - coldC)) / charge,
    dropPa: row.number('drop'),
    effectiveness,
    byGeometry: true,
  };
}

export const coolerInstrument: Instrument = {
  id: 'cooler',
  title: 'Charge cooler',
  question: 'Is there anything to gain, and which core cools more than it throttles?',
  sections: ['cooler'],
  formulas: ['i1', 'i2', 'i4', 'i5', 'j1'],
  fields: [
    temperatureField('chargeIn', 'Charge before the cooler', 'After the compressor, late in the pull.', {
      value: 125,
      believable: [40, 200],
    }),
    temperatureField(
      'coldIn',
      'Cooling air at the core’s face',
      'Not the weather station’s: recirculated or preheated air counts. Water-to-air: coolant entering the core.',
      {
        value: 28,
        believable: [-10, 70],
      },
    ),
    numberField('flow', 'Charge air', 'g/s', 'Air mass flow.', { value: 0.15, atMost: 5 }),
    numberField(
      'coldFlow',
      'Cooling air',
      'g/s',
      'Empty: three times the charge, as on the road. In front of a weak fan it can be the smaller side: measure it.',
      { optional: true, atMost: 50 },
    ),
    numberField('pressureIn', 'Pressure before the cooler, absolute', 'kPa', 'After the compressor.', {
      value: 220_000,
      atLeast: 90_000,
      atMost: 600_000,
      believable: [120_000, 350_000],
    }),
    {
      kind: 'table',
      name: 'coolers',
      label: 'Coolers, the stock one first',
      why: 'By test: temperature behind it. By geometry: face area and heat transfer per face area.',
      atLeastRows: 1,
      columns: [
        { kind: 'text', name: 'name', label: 'Cooler', why: 'Name and revision.' },
        temperatureField('chargeOut', 'Charge behind it', 'By test; empty: by geometry.', { optional: true, believable: [0, 120] }),
        numberField('drop', 'Pressure drop', 'kPa', 'At this flow.', { atLeast: 0, atMost: 100_000, believable: [500, 40_000] }),
        numberField('faceArea', 'Face area', 'm²', 'Width by height of the core.', {
          optional: true,
          value: 0.12,
          atMost: 3,
          believable: [0.01, 0.6],
        }),
        numberField(
          'transfer',
          'Transfer per m²',
          'W/K',
          'W/K per m² of face; tube-and-fin some 1500 to 3000, bar-and-plate 2000 to 4000.',
          {
            optional: true,
            value: 2200,
            atMost: 20_000,
            assumption: [1500, 4000],
          },
        ),
      ],
    },
    shareField('headroomShare', 'Share of a temperature that becomes power', '0.7 at a held manifold pressure.', {
      value: 0.7,
      assumption: [0.5, 1],
    }),
  ],
  read(values, f) {
    const [inC, coldC, pressure] = [values.number('chargeIn'), values.number('coldIn'), values.number('pressureIn')];
    const coolers = values.rows('coolers').map((row) => candidate(row, values));
    const [stock, ...others] = coolers as [Candidate, ...Candidate[]];
    const headroom = stock.outC - coldC;
    const exponent = values.number('headroomShare');
    const atMost = ((stock.outC + 273.15) / (coldC + 273.15)) ** exponent - 1;
    const warnings: string[] = [];
    if (headroom < LEAST_HEADROOM_K)
      warnings.push(
        `Behind the stock cooler the charge is only ${f.level('temperatureDifference', headroom)} above what cools it: a bigger core cannot help.`,
      );
    for (const { name, outC, dropPa, effectiveness, byGeometry } of coolers) {
      if (outC < coldC - 0.5) warnings.push(`${name}: colder than what cools it. Check the sensors, or their lag.`);
      if (effectiveness > 0.95)
        warnings.push(
          `${name}: an effectiveness of ${(100 * effectiveness).toFixed(0)} % in a pull is heat stored in the core, not rejected.`,
        );
      if (dropPa > breakEvenDropPa(pressure, inC, outC)) warnings.push(`${name}: it costs more density than it gains.`);
      if (byGeometry) warnings.push(`${name}: estimated from geometry, not measured.`);
    }
    const density = (outC: number, dropPa: number) => densityRatio(pressure, pressure - dropPa, inC, outC);
    const own = density(stock.outC, stock.dropPa);
    const dropTo = Math.max(...coolers.map(({ dropPa }) => dropPa), 8000) * 1.35;
    const outFrom = Math.min(coldC, ...coolers.map(({ outC }) => outC)) - 5;
    const outTo = Math.max(...coolers.map(({ outC }) => outC)) + 20;
    const grid = steps(0, dropTo, 33);
    const lines = [-0.06, -0.04, -0.02, 0, 0.02, 0.04, 0.06, 0.08, 0.1].map((gain) => ({
      name: gain === 0 ? 'as stock' : `${gain > 0 ? '+' : '−'}${Math.abs(100 * gain).toFixed(0)} %`,
      guide: true,
      style: gain === 0 ? ('solid' as const) : ('dot' as const),
      x: grid,
      y: grid.map((dropPa) => {
        const outC = (((pressure - dropPa) / pressure) * (inC + 273.15)) / (own * (1 + gain)) - 273.15;
        return outC >= outFrom && outC <= outTo ? outC : null;
      }),
    }));
    const rows = coolers.map(({ name, outC, dropPa, effectiveness }) => ({
      row: name,
      figures: [
        figure('out', 'Charge behind it', outC, '°C'),
        percentFigure('effectiveness', 'Effectiveness', effectiveness),
        figure('drop', 'Pressure drop', dropPa, 'kPa'),
        figure('heat', 'Heat rejected', values.number('flow') * DRY_AIR_SPECIFIC_HEAT * (inC - outC), 'kW'),
        percentFigure('densityBehind', 'Density against stock, same compressor outlet', density(outC, dropPa) / own - 1),
        percentFigure('densityHeld', 'Density against stock, manifold held', (stock.outC + 273.15) / (outC + 273.15) - 1),
      ],
    }));
    const best = others.length > 0 ? others.reduce((a, b) => (density(b.outC, b.dropPa) > density(a.outC, a.dropPa) ? b : a)) : null;
    return {
      sentence:
        headroom < LEAST_HEADROOM_K
          ? 'The charge is not hot to begin with: there is next to nothing to gain.'
          : `The charge is ${tied(plain(f.shownValue(headroom, 'K', true), 0), f.shownUnit('K', true))} above what cools it: at most ${(100 * atMost).toFixed(1)} % of power is to be had${
              best ? `; ${best.name} makes ${signed(100 * (density(best.outC, best.dropPa) / own - 1))} % of density` : ''
            }.`,
      figures: [
        figure('headroom', 'Headroom above the cooling air', headroom, 'K', { difference: true }),
        percentFigure('atMost', 'Power to be had at most', atMost, {
          low: ((stock.outC + 273.15) / (coldC + 273.15)) ** 0.5 - 1,
          high: (stock.outC + 273.15) / (coldC + 273.15) - 1,
        }),
        figure('breakEven', 'Drop at which stock gains no density', breakEvenDropPa(pressure, inC, stock.outC), 'kPa'),
      ],
      rows,
      warnings,
      charts: [
        {
          name: 'cooling-against-flow',
          title: 'Cooling against flow',
          subtitle: 'lines of equal charge density at the same compressor outlet, against stock',
          x: { label: 'Pressure drop', unit: 'kPa', from: 0, to: dropTo },
          y: { label: 'Charge behind the cooler', unit: '°C', from: outFrom, to: outTo },
          lines,
          points: coolers.map(({ name, outC, dropPa }) => ({ name, x: dropPa, y: outC })),
          marks: [{ axis: 'y', at: coldC, label: 'cooling air' }],
        },
      ],
    };
  },
};
