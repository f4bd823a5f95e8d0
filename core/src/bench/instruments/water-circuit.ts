import { DRY_AIR_SPECIFIC_HEAT } from '../../air/moist-air.js';
import { coolerTest } from '../../cooler/effectiveness.js';
import { numberField, temperatureField } from '../fields.js';
import { figure, percentFigure, type Instrument } from '../instrument.js';

/** Heat balance further off than this is a measurement to be doubted. Assumption. */
const BALANCE_LIMIT = 0.15;

export const waterCircuitInstrument: Instrument = {
  id: 'water-circuit',
  title: 'Water-to-air cooler',
  question: 'Does the heat that leaves the air arrive in the coolant, and where does the circuit end?',
  sections: ['cooler'],
  formulas: ['i1', 'i6'],
  cautions: () => ['A leak puts coolant into the engine: do the pressure-decay test with its low limit before the first start.'],
  fields: [
    temperatureField('chargeIn', 'Charge before the core', 'Late in the pull.', { value: 130, believable: [40, 200] }),
    temperatureField('chargeOut', 'Charge behind the core', 'At the same moment.', { value: 42, believable: [0, 120] }),
    numberField('chargeFlow', 'Charge air', 'g/s', 'Air mass flow.', { value: 0.12, atMost: 5 }),
    temperatureField('coolantIn', 'Coolant into the core', 'At the core.', { value: 31, believable: [-10, 80] }),
    temperatureField('coolantOut', 'Coolant out of the core', 'At the core.', { value: 39, believable: [-10, 95] }),
    numberField('coolantFlow', 'Coolant flow', 'L/min', 'Measured in the circuit, not the pump’s label.', {
      value: 20 / 60000,
      atMost: 0.01,
      believable: [4 / 60000, 60 / 60000],
    }),
    numberField('coolantHeat', 'Specific heat of the coolant', 'J/(kg·K)', 'Water 4180; half-and-half glycol about 3500.', {
      value: 3500,
      atLeast: 2000,
      atMost: 4300,
      assumption: [3300, 4180],
    }),
    numberField('coolantDensity', 'Density of the coolant', 'kg/m³', 'Water 998; half-and-half about 1065.', {
      value: 1065,
      atLeast: 700,
      atMost: 1400,
      assumption: [990, 1090],
    }),
    temperatureField('ambient', 'Ambient', 'At the front radiator’s face.', { value: 24, believable: [-20, 50] }),
    numberField('volume', 'Coolant in the circuit', 'L', 'Tank, hoses, core and radiator.', {
      value: 6e-3,
      atMost: 0.2,
      believable: [1e-3, 0.04],
    }),
    numberField('radiator', 'Front radiator', 'W/K', 'Heat it gives off per kelvin above ambient, as in use.', {
      value: 450,
      atLeast: 0,
      atMost: 20_000,
      assumption: [150, 1200],
    }),
    numberField('pullTime', 'Length of the pull', 's', 'Full throttle.', { value: 12, atMost: 3600, believable: [4, 60] }),
  ],
  read(values, f) {
    const number = (name: string) => values.number(name);
    const test = coolerTest({
      chargeInC: number('chargeIn'),
      chargeOutC: number('chargeOut'),
      coldInC: number('coolantIn'),
      chargeFlowKgS: number('chargeFlow'),
      chargeSpecificHeat: DRY_AIR_SPECIFIC_HEAT,
      coldFlowKgS: number('coolantFlow') * number('coolantDensity'),
      coldSpecificHeat: number('coolantHeat'),
    });
    const toCoolant =
      number('coolantFlow') * number('coolantDensity') * number('coolantHeat') * (number('coolantOut') - number('coolantIn'));
    const balance = toCoolant / test.heatW - 1;
    const capacity = number('volume') * number('coolantDensity') * number('coolantHeat');
    const rise = (test.heatW * number('pullTime')) / capacity;
    const recoveryS = number('radiator') > 0 ? capacity / number('radiator') : null;
    const system = (number('chargeIn') - number('chargeOut')) / (number('chargeIn') - number('ambient'));
    const warnings: string[] = [];
    if (number('chargeOut') >= number('chargeIn')) warnings.push('The charge does not get cooler: check which sensor is which.');
    if (number('coolantOut') <= number('coolantIn'))
      warnings.push('The coolant does not get warmer: check which sensor is which, or the flow.');
    if (Math.abs(balance) > BALANCE_LIMIT)
      warnings.push(
        `Air and coolant disagree by ${(100 * Math.abs(balance)).toFixed(0)} %: in a pull part of it is heat stored in the core; beyond that check the coolant flow.`,
      );
    if (rise > 10) warnings.push(`One pull warms the circuit by ${f.temperatureSpan(rise)}: the second pull starts hot.`);
    return {
      sentence: `${f.power(test.heatW)} leave the air, ${f.power(toCoolant)} arrive in the coolant; each pull warms the circuit by ${f.temperatureSpan(rise)}.`,
      figures: [
        percentFigure('effectiveness', 'Effectiveness, to coolant', test.effectiveness),
        percentFigure('system', 'Temperature ratio, whole system to ambient', system),
        figure('heatAir', 'Heat out of the air', test.heatW, 'kW'),
        figure('heatCoolant', 'Heat into the coolant', toCoolant, 'kW'),
        percentFigure('balance', 'Coolant against air', balance),
        figure('rise', 'Circuit warmer by, a pull', rise, 'K', { difference: true }),
        figure('recovery', 'Time constant of the recovery', recoveryS, 'min'),
      ],
      warnings,
      charts: [],
    };
  },
};
