import { viscosityPaS } from '../../air/moist-air.js';
import { dryAirDensity } from '../../demand/air-demand.js';
import { dropAtOtherFlowPa } from '../../flow/drop-law.js';
import { ambientPressureField, numberField, temperatureField } from '../fields.js';
import { figure, steps, type Instrument } from '../instrument.js';

/** Largest factor of flow over what was measured that is no extrapolation. */
const MOST_FLOW_FACTOR = 1.2;

export const powerLevelInstrument: Instrument = {
  id: 'power-level',
  title: 'Another power level',
  question: 'What would the measured restriction cost at another air demand?',
  sections: [],
  formulas: ['e13'],
  fields: [
    numberField('drop', 'Measured drop', 'kPa', 'Of the section or the whole tract.', {
      value: 2200,
      atMost: 60_000,
      believable: [20, 15_000],
    }),
    numberField('flow', 'at', 'g/s', 'Air mass flow at which it was measured.', { value: 0.15, atMost: 5 }),
    numberField('otherFlow', 'Other air demand', 'g/s', 'Of the engine at the other power.', { value: 0.17, atMost: 5 }),
    ambientPressureField(),
    temperatureField('temperature', 'Air when measured', 'Density and viscosity follow from it.', { value: 25, believable: [-20, 60] }),
    temperatureField('otherTemperature', 'Air then', 'Of the other case.', { value: 25, believable: [-20, 60] }),
    numberField('lowExponent', 'Exponent, low', '–', '1: all friction in a medium; 2: all turbulent. Filters 1.2 to 1.9.', {
      value: 1.6,
      atLeast: 1,
      atMost: 2,
      assumption: [1.2, 1.9],
    }),
    numberField('highExponent', 'Exponent, high', '–', '2 for sharp losses.', { value: 2, atLeast: 1, atMost: 2, assumption: [1.8, 2] }),
  ],
  read(values, f) {
    const pressure = values.number('ambientPressure');
    const point = (massFlowKgS: number, temperature: string) => ({
      massFlowKgS,
      densityKgM3: dryAirDensity(pressure, values.number(temperature)),
      viscosityPaS: viscosityPaS(values.number(temperature)),
    });
    const measured = point(values.number('flow'), 'temperature');
    const drop = values.number('drop');
    const exponents = [values.number('lowExponent'), values.number('highExponent')];
    const at = (flow: number) =>
      exponents.map((exponent) => dropAtOtherFlowPa(drop, measured, point(flow, 'otherTemperature'), exponent)) as [number, number];
    const other = values.number('otherFlow');
    const [a, b] = at(other);
    const factor = other / measured.massFlowKgS;
    const grid = steps(measured.massFlowKgS * 0.4, Math.max(other, measured.massFlowKgS) * 1.15, 40);
    const ends = grid.map(at);
    return {
      sentence: `At ${(1000 * other).toFixed(0)} g/s it would be ${f.level('pressureDifference', Math.min(a, b))} to ${f.level('pressureDifference', Math.max(a, b))}${factor > MOST_FLOW_FACTOR ? ', extrapolated' : ''}.`,
      figures: [
        figure('drop', 'Drop then', (a + b) / 2, 'kPa', { low: Math.min(a, b), high: Math.max(a, b) }),
        figure('factor', 'Flow, times the measured', factor, '–'),
      ],
      warnings:
        factor > MOST_FLOW_FACTOR
          ? [
              `This is an extrapolation: ${factor.toFixed(2)} times the measured flow, and only up to ${MOST_FLOW_FACTOR} times is it covered.`,
            ]
          : [],
      charts: [
        {
          name: 'power-level',
          title: 'Drop over air demand',
          subtitle: 'range between the two exponents',
          x: { label: 'Air mass flow', unit: 'g/s' },
          y: { label: 'Pressure drop', unit: 'kPa', from: 0 },
          lines: [
            {
              name: 'drop',
              x: grid,
              y: ends.map(([low, high]) => (low + high) / 2),
              low: ends.map((pair) => Math.min(...pair)),
              high: ends.map((pair) => Math.max(...pair)),
            },
          ],
          points: [{ name: 'measured', x: measured.massFlowKgS, y: drop }],
          marks: [{ axis: 'x', at: MOST_FLOW_FACTOR * measured.massFlowKgS, label: 'beyond: extrapolated' }],
        },
      ],
    };
  },
};
