import { coreAfter, fitRecovery, timeToGoalS } from '../../cooler/core-mass.js';
import { correctedTrace } from '../../cooler/sensor-lag.js';
import { GezeitError } from '../../errors.js';
import { numberField, shareField, temperatureField } from '../fields.js';
import { figure, steps, type Instrument } from '../instrument.js';

export const coreRecoveryInstrument: Instrument = {
  id: 'core-recovery',
  title: 'Heat in the core',
  question: 'How fast does the core warm in a pull, and when is it ready again?',
  sections: ['cooler'],
  formulas: ['i6', 'i7', 'i8'],
  fields: [
    {
      kind: 'table',
      name: 'cooling',
      label: 'Cooling after a pull',
      why: 'From the maximum on; the fan as in use.',
      atLeastRows: 3,
      columns: [
        numberField('time', 'Time', 's', 'After the pull.', { atLeast: 0, atMost: 1e5 }),
        temperatureField('temperature', 'Core', 'As the sensor reads.', { believable: [-10, 150] }),
      ],
    },
    temperatureField('end', 'It cools towards', 'From its own sensor: ambient, or a hot bay.', { value: 25, believable: [-20, 70] }),
    temperatureField('goal', 'Ready at', 'The gate of the next pull.', { value: 30, believable: [-10, 90] }),
    numberField('sensorLag', 'Time constant of the sensor', 's', 'Exposed thermistor 1 to 4, sheathed couple 3 to 12 at full flow.', {
      value: 3,
      atLeast: 0,
      atMost: 120,
      assumption: [0.3, 12],
    }),
    numberField('capacity', 'Heat capacity of the core', 'J/K', 'Mass times 900 for aluminium, 4180 for water.', {
      value: 4500,
      atMost: 1e6,
      assumption: [1500, 12_000],
    }),
    numberField('flow', 'Charge air in the pull', 'g/s', 'Air mass flow.', { value: 0.15, atMost: 5 }),
    shareField('effectiveness', 'Charge to core', 'Effectiveness between charge and core, not ambient.', {
      value: 0.75,
      assumption: [0.5, 0.95],
    }),
    temperatureField('chargeIn', 'Charge in the pull', 'After the compressor.', { value: 125, believable: [40, 200] }),
    numberField('pullTime', 'Length of the pull', 's', 'Full throttle.', { value: 12, atMost: 600 }),
  ],
  read(values, f) {
    const rows = values.rows('cooling').map((row) => [row.number('time'), row.number('temperature')] as const);
    const times = rows.map(([time]) => time);
    if (times.some((time, i) => i > 0 && time <= times[i - 1]!))
      throw new GezeitError('time-order', 'The times do not advance.', 'Put the rows in order.');
    const sensed = rows.map(([, temperature]) => temperature);
    const gas = correctedTrace(times, sensed, values.number('sensorLag'));
    const end = values.number('end');
    const recovery = fitRecovery(times, gas, end);
    const left = timeToGoalS(recovery, gas.at(-1)!, values.number('goal'));
    const conductance = values.number('capacity') / recovery.timeConstantS;
    const core = coreAfter(
      {
        heatCapacityJPerK: values.number('capacity'),
        massFlowKgS: values.number('flow'),
        effectiveness: values.number('effectiveness'),
        toAmbientWPerK: conductance,
        chargeInC: values.number('chargeIn'),
        ambientC: end,
      },
      values.number('goal'),
      values.number('pullTime'),
    );
    const grid = steps(times[0]!, times.at(-1)! + 2 * recovery.timeConstantS, 60);
    const warnings: string[] = [];
    if (times.at(-1)! - times[0]! < recovery.timeConstantS)
      warnings.push('The record is shorter than one time constant: a second, slower mass (box, bay) would show only later.');
    if (recovery.residualK > 1)
      warnings.push(`The readings lie ${f.temperatureSpan(recovery.residualK)} about one exponential: two masses are at work.`);
    if (left === null) warnings.push('The goal lies at or beyond the end: it will not be reached.');
    return {
      sentence:
        left === null
          ? 'It will not get there: the goal lies beyond what it cools towards.'
          : `Half the heat is gone in ${recovery.halfTimeS.toFixed(0)} s; ready ${left === 0 ? 'now' : `in another ${left.toFixed(0)} s`}.`,
      figures: [
        figure('timeConstant', 'Time constant', recovery.timeConstantS, 's'),
        figure('left', 'Time left', left, 's'),
        figure('conductance', 'Core to ambient', conductance, 'W/K'),
        figure('coreEnd', 'Core at the end of a pull', core.coreC, '°C'),
        figure('chargeEnd', 'Charge behind it then', core.chargeOutC, '°C'),
        figure('residual', 'Scatter about the curve', recovery.residualK, 'K', { difference: true }),
      ],
      warnings,
      charts: [
        {
          name: 'core-recovery',
          title: 'Cooling down',
          subtitle: 'read, with the sensor’s lag taken out, and the fitted curve',
          x: { label: 'Time', unit: 's' },
          y: { label: 'Core', unit: '°C' },
          lines: [
            {
              name: 'fitted',
              style: 'dash',
              x: grid,
              y: grid.map((t) => end + recovery.amplitudeK * Math.exp(-(t - times[0]!) / recovery.timeConstantS)),
            },
          ],
          points: times.map((time, i) => ({ name: '', x: time, y: gas[i]! })),
          marks: [{ axis: 'y', at: values.number('goal'), label: 'ready' }],
        },
      ],
    };
  },
};
