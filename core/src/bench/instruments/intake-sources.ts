import { dryAirDensity } from '../../demand/air-demand.js';
import { ambientPressureField, numberField, temperatureField } from '../fields.js';
import { figure, percentFigure, steps, type Instrument } from '../instrument.js';

export const intakeSourcesInstrument: Instrument = {
  id: 'intake-sources',
  title: 'Intake sources',
  question: 'Which place gives the densest air: cooler, or with less loss?',
  sections: ['opening', 'snorkel'],
  formulas: ['i4', 'b6'],
  cautions: () => ['Water in a low scoop can lock an engine: keep a way for water to leave, and no opening below the wading line.'],
  fields: [
    {
      kind: 'table',
      name: 'sources',
      label: 'Sources',
      why: 'Each place the air could come from, measured on the car at the same speed and load.',
      atLeastRows: 1,
      columns: [
        { kind: 'text', name: 'name', label: 'Source', why: 'Snorkel, grille, scoop, flap, bay…' },
        numberField('rise', 'Above ambient', 'K', 'Inlet temperature above ambient in the pull.', {
          difference: true,
          atLeast: -5,
          atMost: 120,
          believable: [0, 60],
        }),
        numberField('loss', 'Pressure loss', 'kPa', 'From ambient to the filter’s dirty side.', {
          atLeast: 0,
          atMost: 30_000,
          believable: [0, 6000],
        }),
      ],
    },
    ambientPressureField(),
    temperatureField('ambientTemperature', 'Ambient temperature', 'Of the day of the measurement.', { value: 25, believable: [-20, 50] }),
  ],
  read(values) {
    const [pressure, temperature] = [values.number('ambientPressure'), values.number('ambientTemperature')];
    const ambient = dryAirDensity(pressure, temperature);
    const sources = values.rows('sources').map((row) => {
      const [rise, loss] = [row.number('rise'), row.number('loss')];
      return { name: row.text('name'), rise, loss, density: dryAirDensity(pressure - loss, temperature + rise) / ambient };
    });
    const best = sources.reduce((a, b) => (b.density > a.density ? b : a));
    const riseTo = Math.max(10, ...sources.map(({ rise }) => rise)) * 1.2;
    const grid = steps(0, riseTo, 31);
    const lossTo = Math.max(1500, ...sources.map(({ loss }) => loss)) * 1.2;
    const lines = [0.99, 0.98, 0.96, 0.94, 0.92, 0.9, 0.86, 0.82].map((density) => ({
      name: `${Math.round(100 * density)} %`,
      guide: true,
      x: grid,
      y: grid.map((rise) => {
        const loss = pressure - density * ambient * (pressure / ambient) * ((temperature + rise + 273.15) / (temperature + 273.15));
        return loss >= 0 && loss <= lossTo ? loss : null;
      }),
    }));
    return {
      sentence: `${best.name} gives the densest air: ${(100 * best.density).toFixed(1)} % of ambient density.`,
      figures: [percentFigure('bestDensity', `Density at ${best.name}, of ambient`, best.density)],
      rows: sources.map(({ name, density, rise, loss }) => ({
        row: name,
        figures: [
          percentFigure('density', 'Density, of ambient', density),
          figure('rise', 'Above ambient', rise, 'K', { difference: true }),
          figure('loss', 'Loss', loss, 'kPa'),
        ],
      })),
      warnings: sources.some(({ loss }) => loss > 0.05 * pressure)
        ? ['A loss above 5 % of ambient pressure: check its zero and unit.']
        : [],
      charts: [
        {
          name: 'intake-sources',
          title: 'Warm against throttled',
          subtitle: 'lines of equal air density, per cent of ambient',
          x: { label: 'Inlet air above ambient', unit: 'K', difference: true, from: 0, to: riseTo },
          y: { label: 'Pressure loss', unit: 'kPa', from: 0, to: lossTo },
          lines,
          points: sources.map(({ name, rise, loss }) => ({ name, x: rise, y: loss })),
        },
      ],
    };
  },
};
