import { describe, expect, it } from 'vitest';
import {
  deskChannels,
  known,
  overSpeed,
  readFormula,
  relationOf,
  seriesAt,
  seriesDifference,
  stretchOf,
  UNITS,
  type DeskLog,
  type FormulaChannel,
  type Series,
} from '../src/index.js';
import { Random } from '../src/simulate/index.js';
import { DIMENSIONS } from '../src/formula/dimensions.js';

const series = (at: number[], values: number[]): Series => ({ at: Float64Array.from(at), values: Float64Array.from(values) });
const CHANNELS: FormulaChannel[] = [
  { name: 'engineSpeed', dimension: 'rotation' },
  { name: 'torque', dimension: 'torque' },
  { name: 'power', dimension: 'power' },
  { name: 'pressureDrop', dimension: 'pressure' },
  { name: 'ambientPressure', dimension: 'pressure' },
  { name: 'airMassFlow', dimension: 'massFlow' },
  { name: 'intakeAirTemperature', dimension: 'temperature' },
  { name: 'ambientTemperature', dimension: 'temperature' },
  { name: 'throttle', dimension: 'ratio' },
  { name: 'lambda', dimension: 'lambda' },
  { name: 'oddColumn', dimension: 'factor' },
];
const AT = [0, 1, 2];
const VALUES: Record<string, number[]> = {
  engineSpeed: [3000, 4500, 6000],
  torque: [200, 210, 190],
  power: [60_000, 90_000, 120_000],
  pressureDrop: [1000, 2000, 4000],
  ambientPressure: [100_000, 100_000, 100_000],
  airMassFlow: [0.05, 0.1, 0.2],
  intakeAirTemperature: [30, 40, 50],
  ambientTemperature: [20, 20, 20],
  throttle: [10, 50, 100],
  lambda: [1, 0.9, 0.85],
  oddColumn: [1, 2, 3],
};
const given = new Map(Object.entries(VALUES).map(([name, values]) => [name, series(AT, values)]));
const gives = (text: string) => {
  const formula = readFormula(text, CHANNELS);
  return { unit: formula.unitText, values: [...formula.evaluate(given).values] };
};

describe('a formula', () => {
  it.each([
    ['pressureDrop / ambientPressure', '–', [0.01, 0.02, 0.04]],
    ['ambientPressure - pressureDrop', 'kPa', [99_000, 98_000, 96_000]],
    ['2 * pressureDrop', 'kPa', [2000, 4000, 8000]],
    ['pressureDrop - 2 * kPa', 'kPa', [-1000, 0, 2000]],
    ['intakeAirTemperature - ambientTemperature', 'K', [10, 20, 30]],
    ['ambientTemperature + (intakeAirTemperature - ambientTemperature) / 2', '°C', [25, 30, 35]],
    ['intakeAirTemperature - 5 * K', '°C', [25, 35, 45]],
    ['smooth(intakeAirTemperature, 0.5)', '°C', [30, 40, 50]],
    ['max(intakeAirTemperature, ambientTemperature)', '°C', [30, 40, 50]],
    ['rate(intakeAirTemperature)', 'K·s⁻¹', [10, 10, 10]],
    ['-pressureDrop ^ 1', 'kPa', [-1000, -2000, -4000]],
    ['throttle + throttle', '%', [20, 100, 200]],
    ['throttle * power', 'kW', [6000, 45_000, 120_000]],
    ['smooth(engineSpeed, 0.1)', 'rpm', [3000, 4500, 6000]],
    ['sqrt(pressureDrop * pressureDrop)', 'kPa', [1000, 2000, 4000]],
    ['abs(1 * pressureDrop - ambientPressure)', 'kPa', [99_000, 98_000, 96_000]],
    ['lambda * 14.7', 'λ', [14.7, 13.23, 12.495]],
    ['exp(ln(lambda))', '–', [1, 0.9, 0.85]],
    ['2 ^ 3 * lambda', 'λ', [8, 7.2, 6.8]],
    ['oddColumn * pressureDrop', 'kPa', [1000, 4000, 12_000]],
  ])('%s gives %s', (text, unit, values) => {
    const result = gives(text);
    expect(result.unit).toBe(unit);
    result.values.forEach((value, i) => expect(value).toBeCloseTo(values[i]!, 6));
  });

  it('multiplies as physics does: torque and speed are power, a temperature counts from absolute zero', () => {
    expect(gives('torque * engineSpeed')).toMatchObject({ unit: 'kW' });
    expect(gives('torque * engineSpeed').values[0]).toBeCloseTo((200 * 3000 * 2 * Math.PI) / 60, 6);
    expect(gives('intakeAirTemperature / ambientTemperature').values[0]).toBeCloseTo(303.15 / 293.15, 12);
    const area = gives('airMassFlow / sqrt(2 * 1.2 * kg / (m * m * m) * pressureDrop)');
    expect(area.unit).toBe('cm²');
    expect(area.values[0]).toBeCloseTo(0.05 / Math.sqrt(2.4 * 1000), 12);
    expect(gives('pressureDrop / airMassFlow ^ 2').unit).toBe('kg⁻¹·m⁻¹');
  });

  it.each([
    ['', 'nothing'],
    ['3 + 4', 'names no channel'],
    ['boost', 'no channel boost'],
    ['pressure', 'Perhaps pressureDrop'],
    ['pressureDrop + torque', 'cannot be put together'],
    ['intakeAirTemperature + ambientTemperature', 'no sum'],
    ['5 * K - intakeAirTemperature', 'Turn it round'],
    ['ln(pressureDrop)', 'plain number'],
    ['max(torque, power)', 'same unit'],
    ['pressureDrop ^ lambda', 'after ^'],
    ['2 ^ 3 ^ 2 * lambda', 'after ^'],
    ['smooth(torque)', 'two things'],
    ['smooth(torque, lambda)', 'so many seconds'],
    ['torque.constructor', 'something else'],
    ['constructor(torque)', 'no function'],
    ['toString(torque)', 'no function'],
    ['torque["x"]', 'something else'],
    ['[torque]', 'something else'],
    ['torque; power', 'something else'],
    ['torque power', 'something else'],
    ['torque ? 1 : 2', 'something else'],
    ['torque % 2', '% is not known'],
    ['torque && 1', 'not known'],
    ['!torque', 'not known'],
    ['"torque"', 'no number'],
    ['torque + true', 'no number'],
    ['(torque', 'cannot be read'],
    ['torque +', 'cannot be read'],
    ['1 2 torque', 'something else'],
    ['torque + '.repeat(40) + 'torque', 'longer'],
    ['a('.repeat(60), 'cannot be read'],
    [`${'-'.repeat(150)}torque`, 'too much'],
  ])('%j is refused with what is wrong and what to write', (text, words) => {
    let said = '';
    try {
      readFormula(text, CHANNELS);
    } catch (error) {
      said = (error as { line: string }).line;
    }
    expect(said).toContain(words);
    expect(said.split('. ').length).toBeGreaterThan(1);
  });

  it('has a dimension in SI for every unit there is', () => {
    for (const { dimension } of Object.values(UNITS)) expect(DIMENSIONS[dimension].powers).toHaveLength(4);
  });

  it('brings channels of different devices to the moments of the one that is logged most often', () => {
    const formula = readFormula('pressureDrop / ambientPressure', CHANNELS);
    const fast = series([0, 0.5, 1, 1.5, 2], [1000, 1000, 2000, 2000, 3000]);
    const result = formula.evaluate(
      new Map([
        ['pressureDrop', fast],
        ['ambientPressure', series([0, 2], [100_000, 80_000])],
      ]),
    );
    expect([...result.at]).toEqual([0, 0.5, 1, 1.5, 2]);
    expect(result.values[2]).toBeCloseTo(2000 / 90_000, 12);
  });
});

describe('series', () => {
  it('have no value outside of them, and none in a gap', () => {
    const a = series([0, 1, 2, 3, 40, 41], [0, 1, 2, 3, 40, 41]);
    expect([...seriesAt(a, [-1, 0, 0.5, 2, 20, 40.5, 42])]).toEqual([Number.NaN, 0, 0.5, 2, Number.NaN, 40.5, Number.NaN]);
    expect(seriesAt(series([], []), [1])[0]).toBeNaN();
    expect([...known(series([0, 1, Number.NaN, 3], [1, Number.NaN, 2, 4])).at]).toEqual([0, 3]);
  });

  it('are taken from each other where both are known', () => {
    const difference = seriesDifference(series([0, 1, 2, 3], [10, 11, 12, 13]), series([1, 3], [1, 3]));
    expect([...difference.at]).toEqual([1, 2, 3]);
    expect([...difference.values]).toEqual([10, 10, 10]);
  });

  it('over engine speed count what is passed first', () => {
    const over = overSpeed(series([0, 1, 2, 3, 4], [1, 2, 3, 4, 5]), series([0, 1, 2, 3, 4], [2000, 3000, 2900, 3100, 3050]));
    expect([...over.at]).toEqual([2000, 3000, 3100]);
    expect([...over.values]).toEqual([1, 2, 4]);
  });
});

describe('a relation', () => {
  /** A seeded source of scatter of first order. */
  function scattered(seed: number, n: number, correlation: number): number[] {
    let state = seed;
    const uniform = () => (state = (state * 1_103_515_245 + 12_345) % 2_147_483_648) / 2_147_483_648;
    const normal = () => Math.sqrt(-2 * Math.log(uniform() + 1e-12)) * Math.cos(2 * Math.PI * uniform());
    const values: number[] = [];
    for (let i = 0; i < n; i += 1) values.push(correlation * (values[i - 1] ?? 0) + Math.sqrt(1 - correlation ** 2) * normal());
    return values;
  }

  it.each([0, 0.6, 0.9])('holds the true slope on about 95 of 100, also where neighbours repeat each other by %s', (correlation) => {
    let held = 0;
    for (let seed = 1; seed <= 300; seed += 1) {
      const at = Array.from({ length: 250 }, (_, i) => i / 25);
      const noise = scattered(seed * 7919, at.length, correlation);
      const x = series(
        at,
        at.map((t) => 3 * t),
      );
      const { line } = relationOf(
        series(
          at,
          at.map((t, i) => 4 + 0.5 * 3 * t + noise[i]!),
        ),
        x,
      );
      if (line!.low <= 0.5 && 0.5 <= line!.high) held += 1;
    }
    expect(held / 300).toBeGreaterThan(correlation > 0.8 ? 0.86 : 0.92);
  });

  it('says nothing where there is nothing to say', () => {
    expect(relationOf(series([0, 1, 2], [1, 2, 3]), series([0, 1, 2], [1, 2, 3])).line).toBeNull();
    const at = Array.from({ length: 100 }, (_, i) => i);
    expect(
      relationOf(
        series(at, at),
        series(
          at,
          at.map(() => 7),
        ),
      ).line,
    ).toBeNull();
    expect(relationOf(series([], []), series(at, at))).toMatchObject({ line: null });
  });
});

describe('channels on the desk', () => {
  let number = 0;
  const column = (name: string, quantity: DeskLog['columns'][number]['quantity'], section: string | null = null) => {
    number += 1;
    return { id: `c${number}`, position: number, name, quantity, unitText: null, section };
  };
  const time = () => ({ ...column('Time', 'time'), position: 0 });

  it('are the same over the logs of several pulls, told apart by device and name, with names that formulas can use', () => {
    const logs: DeskLog[] = [
      {
        id: 'l1',
        device: 'ecu',
        columns: [time(), column('RPM', 'engineSpeed'), column('IAT 1', 'intakeAirTemperature'), column('IAT 2', 'intakeAirTemperature')],
      },
      {
        id: 'l2',
        device: 'dyno',
        columns: [time(), column('Engine Speed', 'engineSpeed'), column('Δp', 'pressureDrop', 'filter'), column('Temp. [?] 3', null)],
      },
      {
        id: 'l3',
        device: 'ecu',
        columns: [time(), column('rpm', 'engineSpeed'), column('IAT 1', 'intakeAirTemperature'), column('IAT 2', 'intakeAirTemperature')],
      },
    ];
    const channels = deskChannels(logs);
    expect(channels.map(({ formulaName }) => formulaName)).toEqual([
      'engineSpeed_ecu',
      'intakeAirTemperature_ecu',
      'intakeAirTemperature_ecu_2',
      'engineSpeed_dyno',
      'pressureDrop_filter',
      'Temp_3',
    ]);
    expect([...channels[0]!.columns.keys()]).toEqual(['l1', 'l3']);
    expect(new Set(channels.map(({ key }) => key)).size).toBe(channels.length);
    for (const { formulaName } of channels)
      expect(
        readFormula(
          `${formulaName} * 2`,
          channels.map((channel) => ({ name: channel.formulaName, dimension: 'factor' })),
        ).names,
      ).toEqual([formulaName]);
  });
});

describe('mean and drift over a stretch, as of a steady load', () => {
  it('holds both on nine of ten at least, where neighbours repeat each other', () => {
    let [means, drifts] = [0, 0];
    const runs = 200;
    for (let seed = 1; seed <= runs; seed += 1) {
      const random = new Random(seed);
      const [level, perMinute] = [random.between(10, 90), random.between(-2, 2)];
      let noise = 0;
      const at = Float64Array.from({ length: 400 }, (_, i) => 5 + i / 4);
      const values = at.map((time) => {
        noise = 0.7 * noise + random.normal(0.2);
        return level + (perMinute * (time - 55)) / 60 + noise;
      });
      const found = stretchOf({ at, values }, 5, 105)!;
      const truth = level + (perMinute * (at.reduce((sum, time) => sum + time, 0) / at.length - 55)) / 60;
      if (found.mean.low <= truth && truth <= found.mean.high) means += 1;
      if (found.drift.low <= perMinute && perMinute <= found.drift.high) drifts += 1;
    }
    expect(means).toBeGreaterThan(0.9 * runs);
    expect(drifts).toBeGreaterThan(0.9 * runs);
  });

  it('says nothing of a few samples', () => {
    expect(stretchOf({ at: Float64Array.of(0, 1, 2), values: Float64Array.of(1, 2, 3) }, 0, 2)).toBeNull();
    expect(stretchOf({ at: Float64Array.of(), values: Float64Array.of() }, 0, 2)).toBeNull();
  });
});
