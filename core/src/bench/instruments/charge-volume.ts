import { DRIVE_FIELD, isCrankshaftDriven } from '../drive-field.js';
import { dryAirDensity } from '../../demand/air-demand.js';
import { numberField, temperatureField, type TableField } from '../fields.js';
import { figure, type Instrument } from '../instrument.js';

const table: TableField = {
  kind: 'table',
  name: 'variants',
  label: 'Volumes, the stock one first',
  why: 'Everything between compressor and valves that has to be filled before boost is there.',
  atLeastRows: 1,
  columns: [
    { kind: 'text', name: 'name', label: 'Variant', why: 'Setup or cooler.' },
    numberField('core', 'Core, inside', 'L', 'Internal volume with its tanks; fill it with water and weigh.', {
      atLeast: 0,
      atMost: 0.2,
      believable: [0.5e-3, 0.03],
    }),
    numberField('pipeBore', 'Pipe bore', 'mm', 'Inner diameter.', { atMost: 0.5, believable: [0.03, 0.12] }),
    numberField('pipeLength', 'Pipe length', 'm', 'Both sides together.', { atLeast: 0, atMost: 20, believable: [0.2, 6] }),
  ],
};

export const chargeVolumeInstrument: Instrument = {
  id: 'charge-volume',
  title: 'Volume and fill time',
  question: 'How much later does boost come?',
  sections: ['cooler'],
  formulas: ['d1'],
  fields: [
    DRIVE_FIELD,
    table,
    numberField('flow', 'Air into it', 'g/s', 'What the compressor delivers beyond what the engine draws while boost builds.', {
      value: 0.03,
      atMost: 5,
      assumption: [0.015, 0.08],
    }),
    numberField('pressureFrom', 'from, absolute', 'kPa', 'Before boost.', { value: 100_000, atLeast: 50_000, atMost: 600_000 }),
    numberField('pressureTo', 'to, absolute', 'kPa', 'Full boost.', { value: 200_000, atLeast: 60_000, atMost: 600_000 }),
    temperatureField('temperature', 'Charge temperature', 'Mean over the volume.', { value: 45, believable: [0, 150] }),
  ],
  read(values) {
    const mass =
      dryAirDensity(values.number('pressureTo'), values.number('temperature')) -
      dryAirDensity(values.number('pressureFrom'), values.number('temperature'));
    const rows = values.rows('variants').map((row) => {
      const pipes = (Math.PI / 4) * row.number('pipeBore') ** 2 * row.number('pipeLength');
      const volume = row.number('core') + pipes;
      return { name: row.text('name'), pipes, volume, fillS: (volume * mass) / values.number('flow') };
    });
    const [stock, ...others] = rows;
    return {
      sentence:
        mass <= 0
          ? 'The pressure does not rise: there is nothing to fill.'
          : others.length === 0
            ? `${stock!.name} takes ${(1000 * stock!.fillS).toFixed(0)} ms to fill.`
            : `${others.map(({ name, fillS }) => `${name} takes ${(1000 * Math.abs(fillS - stock!.fillS)).toFixed(0)} ms ${fillS < stock!.fillS ? 'less' : 'more'} than ${stock!.name}`).join('; ')}.`,
      figures: [],
      rows: rows.map(({ name, pipes, volume, fillS }) => ({
        row: name,
        figures: [
          figure('pipes', 'Pipes', pipes, 'L'),
          figure('volume', 'Together', volume, 'L'),
          figure('fill', 'Fill time', fillS, 'ms'),
        ],
      })),
      warnings:
        mass <= 0
          ? ['“to” must be above “from”.']
          : [
              isCrankshaftDriven(values)
                ? 'Filling alone; slip of the drive comes on top.'
                : 'Filling alone; the turbine’s own acceleration comes on top.',
            ],
      charts: [],
    };
  },
};
