import type { Strokes } from '../../demand/air-demand.js';
import { airOfFuelKgS, fuelFlowKgS, meterShift } from '../../demand/injector-witness.js';
import { numberField, type Values } from '../fields.js';
import { figure, percentFigure, type Instrument } from '../instrument.js';

function airOf(row: Values, values: Values): number {
  const fuel = fuelFlowKgS({
    injectors: values.number('injectors'),
    engineSpeedRpm: row.number('engineSpeed'),
    strokes: Number(values.text('strokes')) as Strokes,
    staticFlowKgS: values.number('staticFlow'),
    statedDropPa: values.number('statedDrop'),
    dropPa: row.number('drop'),
    openS: row.number('open'),
    deadS: values.number('dead'),
  });
  return airOfFuelKgS(fuel, row.number('lambda'), values.number('stoichiometric'));
}

export const fuelWitnessInstrument: Instrument = {
  id: 'fuel-witness',
  title: 'Fuel as a second witness',
  question: 'Has the air meter shifted, or does the engine really draw more?',
  sections: ['meter-housing'],
  formulas: ['d6'],
  fields: [
    {
      kind: 'table',
      name: 'setups',
      label: 'Readings, the reference first',
      why: 'At the same engine speed in a pull.',
      atLeastRows: 1,
      columns: [
        { kind: 'text', name: 'name', label: 'Setup', why: 'Letter or name.' },
        numberField('engineSpeed', 'Engine speed', 'rpm', 'Of the reading.', { atMost: 20_000 }),
        numberField('meter', 'Air meter', 'g/s', 'As logged.', { atMost: 5 }),
        numberField('open', 'Injector open', 'ms', 'Logged injector time.', { atMost: 1, believable: [0.5e-3, 0.04] }),
        numberField('lambda', 'Lambda', 'λ', 'Measured at the tailpipe.', { atMost: 3, believable: [0.7, 1.2] }),
        numberField('drop', 'Rail over manifold', 'kPa', 'Rail minus manifold pressure; direct injection: minus cylinder pressure.', {
          atMost: 5e7,
          believable: [150_000, 2e7],
        }),
      ],
    },
    numberField('injectors', 'Injectors', '–', 'One injection a cycle each.', { value: 4, atMost: 32 }),
    { kind: 'choice', name: 'strokes', label: 'Strokes', why: 'Of the engine.', choices: { '4': '4', '2': '2' }, value: '4' },
    numberField('staticFlow', 'Static flow of one', 'g/s', 'Held open, at the stated drop.', {
      value: 6e-3,
      atMost: 0.5,
      believable: [1e-3, 0.05],
    }),
    numberField('statedDrop', 'stated at', 'kPa', 'Pressure drop of that figure.', { value: 300_000, atMost: 5e7 }),
    numberField('dead', 'Dead time', 'ms', 'At the logged battery voltage.', {
      value: 0.9e-3,
      atLeast: 0,
      atMost: 0.01,
      assumption: [0.4e-3, 1.5e-3],
    }),
    numberField('stoichiometric', 'Stoichiometric ratio', '–', '14.7 petrol, about 14.1 with a tenth of ethanol, 14.5 diesel.', {
      value: 14.1,
      atLeast: 5,
      atMost: 20,
      assumption: [9.8, 14.7],
    }),
  ],
  read(values) {
    const rows = values.rows('setups').map((row) => ({ name: row.text('name'), meter: row.number('meter'), air: airOf(row, values) }));
    const [reference, ...others] = rows;
    const shifts = others.map(({ name, meter, air }) => ({
      name,
      shift: meterShift({ meterKgS: reference!.meter, fuelKgS: reference!.air }, { meterKgS: meter, fuelKgS: air }),
    }));
    const far = rows.filter(({ meter, air }) => Math.abs(meter / air - 1) > 0.2).map(({ name }) => name);
    return {
      sentence:
        shifts.length === 0
          ? `Fuel speaks of ${(1000 * reference!.air).toFixed(0)} g/s of air, the meter of ${(1000 * reference!.meter).toFixed(0)}.`
          : `${shifts.map(({ name, shift }) => (Math.abs(shift) < 0.025 ? `${name}: meter and fuel agree` : `${name}: the meter reads ${(100 * Math.abs(shift)).toFixed(1)} % ${shift > 0 ? 'more' : 'less'} than the fuel says`)).join('; ')}.`,
      figures: shifts.map(({ name, shift }) =>
        percentFigure(`${name}/shift`, `Shift of the meter, ${name} against ${reference!.name}`, shift),
      ),
      rows: rows.map(({ name, meter, air }) => ({
        row: name,
        figures: [
          figure('air', 'Air from fuel', air, 'g/s'),
          figure('meter', 'Air meter', meter, 'g/s'),
          percentFigure('ratio', 'Meter against fuel', meter / air - 1),
        ],
      })),
      warnings: far.map(
        (name) =>
          `${name}: meter and fuel are more than 20 % apart; injector data or stoichiometric ratio are off. Between setups that cancels.`,
      ),
      charts: [],
    };
  },
};
