import { condensation, type AirState } from '../../air/moist-air.js';
import { dewPointC } from '../../air/saturation.js';
import { compressedVapourPressurePa, vapourPressurePa } from '../../air/moist-air.js';
import { ambientPressureField, numberField, shareField, temperatureField, type Values } from '../fields.js';
import { figure, steps, type BenchChart, type Instrument } from '../instrument.js';

const GRID = 121;
const HEAT_OF_CONDENSATION_J_KG = 2.4e6;
/** So near the dew point a cold spot is likely to be below it. */
const NEAR_DEW_POINT_K = 3;

const ambient = (values: Values, temperatureC: number, relativeHumidity: number): AirState => ({
  temperatureC,
  relativeHumidity,
  pressurePa: values.number('ambientPressure'),
});

/** Dew point of the charge, °C, at ambient air; null below −60 °C. */
function chargeDewPointC(values: Values, air: AirState): number | null {
  return dewPointC(
    compressedVapourPressurePa(vapourPressurePa(air.relativeHumidity, air.temperatureC), air.pressurePa, values.number('chargePressure')),
  );
}

/** Cooler-out temperature, °C, at another ambient: the same effectiveness keeps the same distance above it. */
const outletAt = (values: Values, temperatureC: number) =>
  values.number('coolerOut') + (temperatureC - values.number('temperature')) * values.number('follows');

function riskChart(values: Values): BenchChart {
  const temperatures = steps(0, 45, GRID);
  const humidities = steps(0.05, 1, GRID);
  const risk = humidities.map((humidity) =>
    temperatures.map((temperature) => {
      const dew = chargeDewPointC(values, ambient(values, temperature, humidity));
      return dew !== null && dew > outletAt(values, temperature) ? 1 : 0;
    }),
  );
  return {
    name: 'condensation-risk',
    title: 'Where water falls out',
    subtitle: 'region: the charge leaves the cooler below its dew point',
    x: { label: 'Ambient temperature', unit: '°C', from: 0, to: 45 },
    y: { label: 'Relative humidity', unit: '%', from: 5, to: 100 },
    lines: [],
    points: [{ name: 'today', x: values.number('temperature'), y: 100 * values.number('humidity') }],
    region: { name: 'water', x: temperatures, y: humidities.map((humidity) => 100 * humidity), risk },
  };
}

export const condensationInstrument: Instrument = {
  id: 'condensation',
  title: 'Condensation',
  question: 'Does the cooler make water?',
  sections: ['cooler'],
  formulas: ['b8', 'b9', 'b10'],
  cautions: () => [
    'Water gathers in the low tank and can reach the cylinders in lumps: give it a way out before a long full-load run in humid air.',
  ],
  fields: [
    temperatureField('temperature', 'Ambient temperature', 'Where the humidity is measured.', { value: 25, believable: [-20, 45] }),
    shareField('humidity', 'Relative humidity', 'At that sensor, not the weather service’s.', { value: 0.6, atMost: 1 }),
    ambientPressureField(),
    numberField('chargePressure', 'Charge pressure, absolute', 'kPa', 'Behind the cooler.', {
      value: 205_000,
      atLeast: 80_000,
      atMost: 600_000,
      believable: [110_000, 350_000],
    }),
    temperatureField('coolerOut', 'Charge behind the cooler', 'Mean of the mixed air.', { value: 38, believable: [0, 120] }),
    temperatureField(
      'wall',
      'Coldest wall',
      'Of the core; empty: not known. A wall below the dew point condenses although the mixed air does not.',
      { optional: true, believable: [-20, 100] },
    ),
    numberField('flow', 'Charge air', 'g/s', 'Air mass flow.', { value: 0.15, atMost: 5 }),
    shareField('follows', 'Cooler-out follows ambient by', 'Kelvin per kelvin: near 1 for air-to-air, less for a chilled circuit.', {
      value: 1,
      assumption: [0.5, 1],
    }),
  ],
  sweep: (values) => [riskChart(values)],
  read(values, f) {
    const air = ambient(values, values.number('temperature'), values.number('humidity'));
    const out = values.number('coolerOut');
    const result = condensation(air, values.number('chargePressure'), out, values.number('flow'));
    const wall = values.optional('wall');
    const wallWet = wall !== null && result.dewPointAfterC !== null && wall < result.dewPointAfterC;
    const margin = result.dewPointAfterC === null ? null : out - result.dewPointAfterC;
    const warnings: string[] = [];
    if (result.condenses)
      warnings.push(
        `The water takes about ${f.power(result.condensateKgS * HEAT_OF_CONDENSATION_J_KG)} of the heat: an effectiveness from temperatures hides it.`,
      );
    if (wallWet && !result.condenses)
      warnings.push('The wall is below the dew point although the mixed air is above it: it condenses there.');
    if (margin !== null && margin >= 0 && margin < NEAR_DEW_POINT_K)
      warnings.push(`Less than ${f.temperatureSpan(NEAR_DEW_POINT_K)} above the dew point: droplets from a cold spot are likely.`);
    return {
      sentence: result.condenses
        ? `Water falls out: ${(result.condensateKgS * 3.6e6).toFixed(0)} g an hour at full load.`
        : wallWet
          ? 'The mixed air stays dry, but the coldest wall is wet.'
          : `No water: the charge stays ${margin === null ? 'far' : f.temperatureSpan(margin)} above its dew point.`,
      figures: [
        figure('dewPointAmbient', 'Dew point of the ambient air', result.dewPointBeforeC, '°C'),
        figure('dewPointCharge', 'Dew point at charge pressure', result.dewPointAfterC, '°C'),
        figure('margin', 'Charge above its dew point', margin, 'K', { difference: true }),
        figure('water', 'Water, fully mixed', result.condensateKgS, 'g/s'),
      ],
      warnings,
      charts: [],
    };
  },
};
