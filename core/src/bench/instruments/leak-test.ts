import { leakAtPressure, leakRateKgS } from '../../flow/pressure-decay.js';
import { dryAirDensity } from '../../demand/air-demand.js';
import { impossible } from '../../errors.js';
import { ambientPressureField, numberField, temperatureField } from '../fields.js';
import { figure, type Instrument, type Reading } from '../instrument.js';
import type { Values } from '../fields.js';

/** Highest gauge pressure that the instrument takes, Pa: tanks and hoses are not built for more. */
export const MOST_TEST_GAUGE_PA = 250_000;
/** What a water-to-air core is tested at, at most, Pa gauge. */
export const MOST_WATER_CORE_GAUGE_PA = 150_000;

function immersion(values: Values): Reading {
  const passage = values.text('passage').trim();
  const bubbles = values.text('bubbles').trim();
  const none = /^(none|no|no bubbles|nothing)$/i.test(bubbles);
  return {
    sentence: none
      ? `No bubbles at ${(values.number('testPressure') / 1000).toFixed(0)} kPa: ${passage} is tight as far as the eye sees.`
      : `Bubbles at ${bubbles}: ${passage} leaks there.`,
    figures: [
      figure('testPressure', 'Test pressure, gauge', values.number('testPressure'), 'kPa'),
      figure('passed', 'Passed (1) or failed (0)', none ? 1 : 0, '–'),
    ],
    warnings: ['Immersion says where, not how much: a decay test gives the rate.'],
    charts: [],
  };
}

export const leakTestInstrument: Instrument = {
  id: 'leak-test',
  title: 'Leak and pressure test',
  question: 'Is it tight at a safe pressure, and how much does it lose?',
  sections: ['hose', 'coupler', 'cooler', 'box-outlet'],
  formulas: ['e15', 'e10'],
  cautions: [
    'Low limit, slow rise, a relief valve set to the limit. Behind a shield; never stand in line with plugs or hoses.',
    'Compressed air stores far more energy than water: where the part allows it, prove its strength with water first.',
    'Local codes and the maker’s own limits come first; work on pressure vessels belongs to licensed practice.',
  ],
  fields: [
    {
      kind: 'choice',
      name: 'method',
      label: 'By',
      why: 'Decay gives a rate; immersion shows the place.',
      choices: { decay: 'pressure decay', immersion: 'immersion' },
      value: 'decay',
    },
    {
      kind: 'choice',
      name: 'object',
      label: 'Of',
      why: 'A water-to-air core has a lower limit: a leak puts coolant into the engine.',
      choices: { tract: 'intake tract or charge pipes', core: 'air-to-air core', waterCore: 'coolant side of a water-to-air core' },
      value: 'tract',
    },
    { kind: 'text', name: 'passage', label: 'Passage', why: 'What was closed and tested.', value: 'charge side' },
    numberField('testPressure', 'Test pressure, gauge', 'kPa', 'Never above the limit: 250 kPa, or 150 kPa for a water-to-air core.', {
      value: 100_000,
      atMost: MOST_TEST_GAUGE_PA,
      believable: [5000, 200_000],
    }),
    numberField('volume', 'Closed volume', 'L', 'With the hoses up to the valve; soft hoses creep like a leak.', {
      value: 8e-3,
      atMost: 1,
      believable: [0.2e-3, 0.1],
    }),
    numberField('limit', 'Allowed leak', 'mg/s', 'The stated limit; say where it is from in the note.', { value: 1e-5, atMost: 1 }),
    numberField('operating', 'In use, gauge', 'kPa', 'The leak is carried to this pressure.', { value: 120_000, atMost: 500_000 }),
    {
      kind: 'table',
      name: 'decay',
      label: 'Decay',
      why: 'Let it settle first: 1 K of air is 0.34 % of the absolute pressure, often more than the leak.',
      atLeastRows: 0,
      columns: [
        numberField('time', 'Time', 's', 'Since the valve closed.', { atLeast: 0, atMost: 1e6 }),
        numberField('pressure', 'Pressure, gauge', 'kPa', 'Read.', { atLeast: 0, atMost: MOST_TEST_GAUGE_PA }),
        temperatureField('temperature', 'Air inside', 'Empty: constant.', { optional: true, believable: [0, 60] }),
      ],
    },
    { kind: 'text', name: 'bubbles', label: 'Bubbles at', why: 'Immersion only: the place, or “none”.', optional: true, value: 'none' },
    ambientPressureField(),
    temperatureField('temperature', 'Air temperature', 'Where no row says it.', { value: 20, believable: [0, 45] }),
  ],
  read(values) {
    const limit = values.text('object') === 'waterCore' ? MOST_WATER_CORE_GAUGE_PA : MOST_TEST_GAUGE_PA;
    if (values.number('testPressure') > limit)
      throw impossible(
        'test pressure',
        `must not exceed the limit of ${limit / 1000} kPa for this object`,
        values.number('testPressure') / 1000,
      );
    if (values.text('method') === 'immersion') return immersion(values);
    const ambient = values.number('ambientPressure');
    const rows = values.rows('decay');
    const readings = rows.map((row) => ({
      timeS: row.number('time'),
      pressurePa: ambient + row.number('pressure'),
      temperatureC: row.optional('temperature') ?? values.number('temperature'),
    }));
    const rate = leakRateKgS(values.number('volume'), readings);
    const carried = leakAtPressure(Math.max(0, rate.value), Math.max(1, rows[0]!.number('pressure')), values.number('operating'));
    const allowed = values.number('limit');
    const verdict = rate.high <= allowed ? 'passes' : rate.low > allowed ? 'fails' : 'cannot be decided';
    const logged = rows.every((row) => row.optional('temperature') !== null);
    const warnings = [
      ...(logged ? [] : ['The air’s temperature was not logged: 1 K of it looks like a leak. Let it settle, or log it.']),
      ...(rate.value < 0 ? ['The pressure rises: the air is warming up. Wait, and start again.'] : []),
    ];
    return {
      sentence:
        verdict === 'cannot be decided'
          ? `Whether it keeps to ${milligrams(allowed)} mg/s cannot be decided: read longer.`
          : `It ${verdict}: ${milligrams(rate.value)} mg/s (${milligrams(rate.low)} to ${milligrams(rate.high)}) against ${milligrams(allowed)} allowed.`,
      figures: [
        figure('leak', 'Leak rate', rate.value, 'mg/s', { low: rate.low, high: rate.high }),
        figure('leakVolume', 'At ambient', rate.value / dryAirDensity(ambient, values.number('temperature')), 'L/min'),
        figure('leakInUse', 'At the pressure in use', carried, 'mg/s'),
        figure('passed', 'Passed (1), failed (0)', verdict === 'passes' ? 1 : verdict === 'fails' ? 0 : null, '–'),
      ],
      warnings,
      charts: [
        {
          name: 'pressure-decay',
          title: 'Pressure over time',
          subtitle: 'gauge, as read',
          x: { label: 'Time', unit: 's' },
          y: { label: 'Pressure, gauge', unit: 'kPa' },
          lines: [{ name: 'read', x: readings.map(({ timeS }) => timeS), y: readings.map(({ pressurePa }) => pressurePa - ambient) }],
          points: readings.map(({ timeS, pressurePa }) => ({ name: '', x: timeS, y: pressurePa - ambient })),
        },
      ],
    };
  },
};

const milligrams = (kgS: number) => Number((kgS * 1e6).toPrecision(2));
