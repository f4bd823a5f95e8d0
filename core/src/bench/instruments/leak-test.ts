import { leakAtPressure, leakRateKgS } from '../../flow/pressure-decay.js';
import { dryAirDensity } from '../../demand/air-demand.js';
import { GezeitError } from '../../errors.js';
import { ambientPressureField, fieldText, numberField, temperatureField } from '../fields.js';
import { figure, type Instrument, type Reading } from '../instrument.js';
import type { Values } from '../fields.js';
import type { Formatter } from '../../format/formatter.js';

/** Highest gauge pressure that the instrument takes, Pa: compressed air above it belongs to licensed practice. */
const MOST_TEST_GAUGE_PA = 150_000;
/** Above this a test is made with water, not with air, Pa gauge. */
const MOST_AIR_GAUGE_PA = 70_000;

const limitText = (pascal: number, f: Formatter) => fieldText({ unit: 'kPa' }, pascal, f);

function byEye(values: Values, f: Formatter): Reading {
  const passage = values.text('passage').trim();
  const seen = values.text('bubbles').trim();
  const water = values.text('filled') === 'water';
  const what = water ? 'drops' : 'bubbles';
  const none = /^(none|no|no bubbles|no drops|nothing)$/i.test(seen);
  return {
    sentence: none
      ? `No ${what} at ${limitText(values.number('testPressure'), f)}: ${passage} is tight as far as the eye sees.`
      : `${water ? 'Drops' : 'Bubbles'} at ${seen}: ${passage} leaks there.`,
    figures: [
      figure('testPressure', 'Test pressure, gauge', values.number('testPressure'), 'kPa'),
      figure('passed', 'Passed (1) or failed (0)', none ? 1 : 0, '–'),
    ],
    warnings: ['The eye says where, not how much: a decay test with air gives the rate.'],
    charts: [],
  };
}

/** A pressure typed in another unit may round a little above a limit. */
const ROUNDING = 1.002;

function tooHigh(message: string, f: Formatter): GezeitError {
  return new GezeitError(
    'pressure-too-high',
    message,
    `Test lower, or fill the part with water (never above ${limitText(MOST_TEST_GAUGE_PA, f)}); local codes and licensed practice come first.`,
  );
}

const beginLow = (f: Formatter) =>
  `Begin at ${limitText(MOST_AIR_GAUGE_PA, f)}; more only with water, never above ${limitText(MOST_TEST_GAUGE_PA, f)}.`;

export const leakTestInstrument: Instrument = {
  id: 'leak-test',
  title: 'Leak and pressure test',
  question: 'Is it tight at a safe pressure, and how much does it lose?',
  sections: ['hose', 'coupler', 'cooler', 'box-outlet'],
  formulas: ['e15', 'e10'],
  cautions: (f) => [
    'Low limit, slow rise, a relief valve set to the limit. Behind a shield; never stand in line with plugs or hoses.',
    `Compressed air stores far more energy than water: begin at ${limitText(MOST_AIR_GAUGE_PA, f)}; more only filled with water, and never above ${limitText(MOST_TEST_GAUGE_PA, f)}.`,
    'Local codes and the maker’s own limits come first; work on pressure vessels belongs to licensed practice.',
  ],
  fields: [
    {
      kind: 'choice',
      name: 'method',
      label: 'By',
      why: 'Decay of air gives a rate; bubbles or drops show the place.',
      choices: { decay: 'pressure decay', immersion: 'eye: bubbles, or drops with water' },
      value: 'decay',
    },
    {
      kind: 'choice',
      name: 'object',
      label: 'Of',
      why: 'A leak of a water-to-air core puts coolant into the engine.',
      choices: { tract: 'intake tract or charge pipes', core: 'air-to-air core', waterCore: 'coolant side of a water-to-air core' },
      value: 'tract',
    },
    { kind: 'text', name: 'passage', label: 'Passage', why: 'What was closed and tested.', value: 'charge side' },
    {
      kind: 'choice',
      name: 'filled',
      label: 'Filled with',
      why: (f) => `Above ${limitText(MOST_AIR_GAUGE_PA, f)} only with water: a part that bursts with air in it throws pieces.`,
      choices: { air: 'air', water: 'water' },
      value: 'air',
    },
    numberField('testPressure', 'Test pressure, gauge', 'kPa', beginLow, {
      value: MOST_AIR_GAUGE_PA,
      atMost: MOST_TEST_GAUGE_PA,
      believable: [5000, MOST_TEST_GAUGE_PA],
    }),
    numberField('volume', 'Closed volume', 'L', 'With the hoses up to the valve; soft hoses creep like a leak.', {
      value: 8e-3,
      atMost: 1,
      believable: [0.2e-3, 0.1],
    }),
    numberField('limit', 'Allowed leak', 'mg/s', 'The stated limit; say where it is from in the note.', { value: 1e-5, atMost: 1 }),
    numberField('operating', 'In use, gauge', 'kPa', 'The leak is carried to this pressure: computed, not tested.', {
      value: 120_000,
      atMost: MOST_TEST_GAUGE_PA,
    }),
    {
      kind: 'table',
      name: 'decay',
      label: 'Decay',
      why: (f) => `Let it settle first: ${f.temperatureSpan(1)} of air is 0.34 % of the absolute pressure, often more than the leak.`,
      atLeastRows: 0,
      columns: [
        numberField('time', 'Time', 's', 'Since the valve closed.', { atLeast: 0, atMost: 1e6 }),
        numberField('pressure', 'Pressure, gauge', 'kPa', 'Read.', { atLeast: 0, atMost: MOST_TEST_GAUGE_PA }),
        temperatureField('temperature', 'Air inside', 'Empty: constant.', { optional: true, believable: [0, 60] }),
      ],
    },
    {
      kind: 'text',
      name: 'bubbles',
      label: 'Bubbles or drops at',
      why: 'By eye only: the place, or “none”.',
      optional: true,
      value: 'none',
    },
    ambientPressureField(),
    temperatureField('temperature', 'Air temperature', 'Where no row says it.', { value: 20, believable: [0, 45] }),
  ],
  read(values, f) {
    const limit = values.text('filled') === 'water' ? MOST_TEST_GAUGE_PA : MOST_AIR_GAUGE_PA;
    const highest = Math.max(values.number('testPressure'), ...values.rows('decay').map((row) => row.number('pressure')));
    if (highest > limit * ROUNDING)
      throw tooHigh(
        values.text('filled') === 'water'
          ? `A test above ${limitText(MOST_TEST_GAUGE_PA, f)} is no work for this bench.`
          : `With air it goes up to ${limitText(MOST_AIR_GAUGE_PA, f)} only.`,
        f,
      );
    if (values.text('method') === 'immersion') return byEye(values, f);
    if (values.text('filled') === 'water')
      throw new GezeitError(
        'no-decay-of-water',
        'Water does not give way as air does: its decay tells no leak rate.',
        'Look for drops, and say where: by eye.',
      );
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
      ...(logged
        ? []
        : [`The air’s temperature was not logged: ${f.temperatureSpan(1)} of it looks like a leak. Let it settle, or log it.`]),
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
