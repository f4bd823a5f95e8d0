import { airDemandKgS, airDemandOfPowerKgS, AIR_PER_POWER, dryAirDensity, type Strokes } from '../../demand/air-demand.js';
import { ambientPressureField, numberField, shareField, temperatureField, type Values } from '../fields.js';
import { figure, steps, type Instrument } from '../instrument.js';

const VE_BY_SPEED = 0.18;

/** Volumetric efficiency over engine speed: a parabola about the speed of best filling. Assumption where nothing is logged. */
function volumetricEfficiencyAt(best: number, bestRpm: number, engineSpeedRpm: number): number {
  return best * Math.max(0.4, 1 - VE_BY_SPEED * ((engineSpeedRpm - bestRpm) / (0.5 * bestRpm)) ** 2);
}

const table = (values: Values) =>
  values
    .rows('logged')
    .map((row) => [row.number('engineSpeed'), row.number('airMassFlow')] as const)
    .sort((a, b) => a[0] - b[0]);

/** Air mass flow that the engine asks for at an engine speed, kg/s, by the chosen way; null beyond what was logged. */
export function demandAt(values: Values, engineSpeedRpm: number): number | null {
  const method = values.text('method');
  if (method === 'displacement') {
    const density = dryAirDensity(values.number('manifoldPressure'), values.number('manifoldTemperature'));
    const efficiency = volumetricEfficiencyAt(values.number('volumetricEfficiency'), values.number('bestFillingSpeed'), engineSpeedRpm);
    return airDemandKgS(efficiency, density, values.number('displacement'), engineSpeedRpm, Number(values.text('strokes')) as Strokes);
  }
  if (method === 'power') {
    const atPeak = airDemandOfPowerKgS(values.number('crankPower'), values.number('fuelConsumption'), values.number('airFuelRatio'));
    const shape = (rpm: number) => rpm * volumetricEfficiencyAt(1, values.number('bestFillingSpeed'), rpm);
    return (atPeak * shape(engineSpeedRpm)) / shape(values.number('powerSpeed'));
  }
  const logged = table(values);
  for (let i = 1; i < logged.length; i++) {
    const [before, after] = [logged[i - 1]!, logged[i]!];
    if (engineSpeedRpm < before[0] || engineSpeedRpm > after[0]) continue;
    return before[1] + ((after[1] - before[1]) * (engineSpeedRpm - before[0])) / (after[0] - before[0] || 1);
  }
  return null;
}

export const airDemandInstrument: Instrument = {
  id: 'air-demand',
  title: 'Air demand',
  question: 'How much air does the engine ask for?',
  sections: [],
  formulas: ['d1', 'd3', 'd4'],
  fields: [
    {
      kind: 'choice',
      name: 'method',
      label: 'From',
      why: 'A logged air mass flow is the best witness; displacement needs the manifold’s state; power needs fuel consumption and mixture.',
      choices: { displacement: 'displacement and filling', power: 'power', logged: 'logged air mass flow' },
      value: 'displacement',
    },
    numberField('engineSpeed', 'Engine speed', 'rpm', 'The budget stands at this engine speed.', {
      value: 6000,
      atMost: 20_000,
      believable: [1000, 12_000],
    }),
    numberField('displacement', 'Displacement', 'L', 'Swept volume of the whole engine.', {
      value: 2e-3,
      atMost: 0.03,
      believable: [0.3e-3, 8e-3],
    }),
    {
      kind: 'choice',
      name: 'strokes',
      label: 'Strokes',
      why: 'A rotary engine: use the volume drawn per output revolution and 2.',
      choices: { '4': '4', '2': '2' },
      value: '4',
    },
    shareField(
      'volumetricEfficiency',
      'Best filling',
      'Volumetric efficiency against the manifold’s density, at the speed of best filling.',
      {
        value: 0.95,
        atMost: 1.5,
        believable: [0.75, 1.15],
        assumption: [0.75, 1.1],
      },
    ),
    numberField('bestFillingSpeed', 'Speed of best filling', 'rpm', 'Filling falls off on both sides of it.', {
      value: 4800,
      atMost: 20_000,
      assumption: [3500, 6500],
    }),
    numberField(
      'manifoldPressure',
      'Manifold pressure, absolute',
      'kPa',
      'Naturally aspirated: ambient less the inlet loss. Boosted: absolute, not gauge.',
      {
        value: 97_000,
        atLeast: 20_000,
        atMost: 600_000,
        believable: [60_000, 350_000],
      },
    ),
    temperatureField('manifoldTemperature', 'Manifold temperature', 'After any cooler.', { value: 30, believable: [-10, 120] }),
    numberField('crankPower', 'Power at the crank', 'kW', 'Wheel power × 1.1 to 1.2.', { value: 120_000, atMost: 3e6 }),
    numberField('powerSpeed', 'at', 'rpm', 'Engine speed of that power.', { value: 6000, atMost: 20_000 }),
    numberField(
      'fuelConsumption',
      'Fuel consumption',
      'g/kWh',
      'Full load: spark ignition 270 to 300, boosted 290 to 340, diesel 205 to 240.',
      {
        value: 290,
        atMost: 1000,
        believable: [190, 400],
        assumption: [270, 340],
      },
    ),
    numberField('airFuelRatio', 'Air-fuel ratio', '–', 'kg of air per kg of fuel at full load, not the display’s own setting.', {
      value: 12.6,
      atMost: 60,
      believable: [8, 30],
      assumption: [11.3, 13.2],
    }),
    {
      kind: 'table',
      name: 'logged',
      label: 'Logged air mass flow',
      why: 'Pairs of engine speed and air mass flow from a pull.',
      atLeastRows: 0,
      columns: [
        numberField('engineSpeed', 'Engine speed', 'rpm', 'Of the reading.', { atMost: 20_000 }),
        numberField('airMassFlow', 'Air mass flow', 'g/s', 'As logged.', { atMost: 5 }),
      ],
    },
    ambientPressureField(),
    temperatureField('ambientTemperature', 'Ambient temperature', 'Of the air that the engine draws.', {
      value: 25,
      believable: [-20, 50],
    }),
  ],
  read(values) {
    const speed = values.number('engineSpeed');
    const flow = demandAt(values, speed);
    const density = dryAirDensity(values.number('ambientPressure'), values.number('ambientTemperature'));
    const grid = steps(1500, Math.max(7000, speed * 1.1), 56);
    const demand = grid.map((rpm) => demandAt(values, rpm));
    const warnings: string[] = [];
    if (flow === null) warnings.push('The logged readings do not reach this engine speed: add readings around it.');
    const power = flow === null ? null : flow / AIR_PER_POWER.kgSPerW;
    return {
      sentence:
        flow === null
          ? 'The air demand at this engine speed is not known.'
          : `At ${Math.round(speed)} rpm the engine draws ${(flow * 1000).toFixed(0)} g/s, ${((flow / density) * 1000).toFixed(0)} L/s of ambient air.`,
      figures: [
        figure('airMassFlow', 'Air mass flow', flow, 'g/s'),
        figure('volumeFlow', 'Volume flow, ambient', flow === null ? null : flow / density, 'm³/h'),
        figure(
          'powerOfIt',
          'Power that this air is usually worth, at the crank',
          power,
          'kW',
          power === null ? {} : { low: power * 0.9, high: power * 1.1 },
        ),
      ],
      warnings,
      charts: [
        {
          name: 'air-demand',
          title: 'Air demand over engine speed',
          subtitle: 'air mass flow, g/s',
          x: { label: 'Engine speed', unit: 'rpm' },
          y: { label: 'Air mass flow', unit: 'g/s', from: 0 },
          lines: [{ name: 'demand', x: grid, y: demand }],
          points: flow === null ? [] : [{ name: 'here', x: speed, y: flow }],
        },
      ],
    };
  },
};
