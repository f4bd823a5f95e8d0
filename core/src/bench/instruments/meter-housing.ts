import { numberField, type Field } from '../fields.js';
import { figure, percentFigure, steps, type Instrument } from '../instrument.js';

const fields: Field[] = [
  numberField('oldDiameter', 'Bore of the stock housing', 'mm', 'At the sensing element.', {
    value: 0.07,
    atLeast: 0.005,
    atMost: 0.5,
    believable: [0.03, 0.15],
  }),
  numberField('newDiameter', 'Bore of the new housing', 'mm', 'At the sensing element.', {
    value: 0.073,
    atLeast: 0.005,
    atMost: 0.5,
    believable: [0.03, 0.15],
  }),
  numberField('lambda', 'Lambda now', 'λ', 'At full load with the stock housing.', { value: 0.88, atMost: 2, believable: [0.75, 1.1] }),
  numberField(
    'range',
    'Uncertainty of the area rule',
    '%',
    'Swirl, profile and straightener shift the meter beyond what the area alone says.',
    {
      value: 4,
      atLeast: 0,
      atMost: 50,
      assumption: [2, 8],
    },
  ),
];

export const meterHousingInstrument: Instrument = {
  id: 'meter-housing',
  title: 'Air meter housing',
  question: 'How far would the meter be off, and what would the mixture be?',
  sections: ['meter-housing'],
  formulas: ['d6'],
  cautions: () => [
    'A leaner mixture at full load destroys engines: set lambda and knock limits before the first pull, and watch a tailpipe probe.',
  ],
  fields,
  read(values) {
    const [old, next, lambda, range] = ['oldDiameter', 'newDiameter', 'lambda', 'range'].map((name) => values.number(name)) as [
      number,
      number,
      number,
      number,
    ];
    // The element reads the local velocity: a larger bore carries the same flow more slowly, and the meter reports less.
    const ratio = (diameter: number) => (old / diameter) ** 2;
    const shift = ratio(next) - 1;
    const band = range / 100;
    const limits = { low: (1 + shift) * (1 - band) - 1, high: (1 + shift) * (1 + band) - 1 };
    const mixture = (value: number) => lambda / (1 + value);
    const grid = steps(old * 0.9, old * 1.15, 41);
    const result = mixture(shift);
    return {
      sentence: `The meter would report ${(100 * Math.abs(shift)).toFixed(1)} % ${shift < 0 ? 'less' : 'more'} air than there is; with the calibration unchanged lambda would go from ${lambda.toFixed(2)} to ${result.toFixed(2)}.`,
      figures: [
        percentFigure('shift', 'Shift of the meter', shift, limits),
        figure('lambda', 'Lambda with the calibration unchanged', result, 'λ', { low: mixture(limits.high), high: mixture(limits.low) }),
        percentFigure('fuel', 'Fuel trim to hold lambda', 1 / (1 + shift) - 1),
      ],
      warnings: [
        'The closed loop hides it at part load: check lambda at the tailpipe at full load, and both trims after a drive.',
        'Keep whatever straightens the flow before the meter, and the distance to the last bend.',
        ...(result > 0.95 ? ['This is leaner than full load allows on most petrol engines: recalibrate before a full-throttle pull.'] : []),
      ],
      charts: [
        {
          name: 'meter-housing',
          title: 'Lambda over the bore',
          subtitle: 'calibration unchanged',
          x: { label: 'Bore at the sensing element', unit: 'mm' },
          y: { label: 'Lambda', unit: 'λ' },
          lines: [
            {
              name: 'lambda',
              x: grid,
              y: grid.map((d) => lambda / ratio(d)),
              low: grid.map((d) => lambda / ratio(d) / (1 + band)),
              high: grid.map((d) => lambda / ratio(d) / (1 - band)),
            },
          ],
          points: [{ name: 'new housing', x: next, y: result }],
          marks: [{ axis: 'x', at: old, label: 'stock' }],
        },
      ],
    };
  },
};
