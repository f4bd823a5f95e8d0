import { orificeFlow, type PressureTaps } from '../../flow/orifice.js';
import { ambientPressureField, numberField, temperatureField } from '../fields.js';
import { figure, type Instrument } from '../instrument.js';

export const orificeMeterInstrument: Instrument = {
  id: 'orifice-meter',
  title: 'Flow by an orifice',
  question: 'How much air passes, as a check of the bench or the air meter?',
  sections: ['meter-housing'],
  formulas: ['e12'],
  fields: [
    numberField('pipe', 'Pipe, inside', 'mm', 'Long and straight before and after.', { value: 0.1, atMost: 2, believable: [0.05, 1] }),
    numberField('bore', 'Bore of the orifice', 'mm', 'Sharp-edged.', { value: 0.05, atMost: 2, believable: [0.0125, 0.75] }),
    {
      kind: 'choice',
      name: 'taps',
      label: 'Pressure taps',
      why: 'Where the drop is read.',
      choices: { corner: 'corner', D_D2: 'one and a half diameters', flange: 'flange' },
      value: 'D_D2',
    },
    numberField('drop', 'Drop', 'kPa', 'Across the taps.', { value: 1500, atMost: 90_000, believable: [50, 25_000] }),
    ambientPressureField(),
    temperatureField('temperature', 'Air before it', 'Upstream.', { value: 20, believable: [-10, 80] }),
  ],
  read(values) {
    const flow = orificeFlow({
      pipeDiameterM: values.number('pipe'),
      boreDiameterM: values.number('bore'),
      taps: values.text('taps') as PressureTaps,
      upstreamPa: values.number('ambientPressure'),
      upstreamC: values.number('temperature'),
      dropPa: values.number('drop'),
    });
    return {
      sentence: `${(1000 * flow.massFlowKgS).toFixed(1)} g/s pass the orifice.`,
      figures: [
        figure('flow', 'Air mass flow', flow.massFlowKgS, 'g/s'),
        figure('coefficient', 'Discharge coefficient', flow.dischargeCoefficient, '–'),
        figure('reynolds', 'Reynolds number', flow.reynolds, '–'),
      ],
      warnings: flow.outside.map((limit) => `Outside the standard: ${limit}.`),
      charts: [],
    };
  },
};
