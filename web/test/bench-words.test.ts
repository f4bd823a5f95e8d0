import { setupSchema, type Setup } from '@gezeit/contract';
import { restrictionBudget, fieldUnit } from '@gezeit/core';
import { describe, expect, it } from 'vitest';
import { TOKENS } from '../src/shared/charts/theme.js';
import { benchFigure } from '../src/shared/charts/bench-figure.js';
import { digitsFor, figureText } from '../src/shared/units/figure-text.js';
import { descent, pathColumns } from '../src/features/bench/path-geometry.js';
import { ratiosFromText, ratiosText } from '../src/features/question/ratios.js';
import { attributeRows, changeAttribute } from '../src/model/setup-rows.js';

const METRIC = { power: 'kW', torque: 'N·m', temperature: '°C', pressure: 'kPa' } as const;
const OTHER = { power: 'hp', torque: 'lb·ft', temperature: '°F', pressure: 'inH2O' } as const;

describe('a figure as it is shown', () => {
  it('has the chosen unit, its interval, and as many digits as that bears', () => {
    const drop = { name: 'd', label: 'Drop', value: 2491.1, unit: 'kPa', low: 2440, high: 2540 };
    expect(figureText(drop, METRIC)).toEqual({ value: '2.491', range: '2.440 to 2.540', unit: 'kPa' });
    expect(figureText(drop, OTHER)).toMatchObject({ value: '10.00', unit: 'inH2O' });
    expect(figureText({ name: 't', label: 'Rise', value: 10, unit: 'K', difference: true }, OTHER)).toEqual({
      value: '+18.0',
      range: null,
      unit: '°F',
    });
    expect(figureText({ name: 't', label: 'Out', value: 25, unit: '°C' }, OTHER)).toMatchObject({ value: '77.0', unit: '°F' });
    expect(figureText({ name: 'n', label: 'None', value: null, unit: '–' }, METRIC)).toEqual({ value: '–', range: null, unit: '' });
    expect(figureText({ name: 'a', label: 'Area', value: 23.4e-4, unit: 'cm²', low: 23.3e-4, high: 23.5e-4 }, METRIC)).toMatchObject({
      value: '23.40',
      unit: 'cm²',
    });
    expect([digitsFor(0), digitsFor(1234), digitsFor(1.234), digitsFor(0.0123)]).toEqual([0, 0, 2, 4]);
  });

  it('has fields in the chosen unit too, differences without a zero', () => {
    expect(fieldUnit('kPa', false, OTHER)).toBe('inH2O');
    expect(fieldUnit('K', true, OTHER)).toBe('°F');
    expect(fieldUnit('K', true, METRIC)).toBe('K');
    expect(fieldUnit('mm', false, OTHER)).toBe('mm');
  });
});

describe('a chart of the bench', () => {
  it('is drawn in the chosen units with its band, its names and its marks, and its data in one table', () => {
    const figure = benchFigure(
      {
        name: 'c',
        title: 'T',
        subtitle: 's',
        x: { label: 'Flow', unit: 'm³/h' },
        y: { label: 'Drop', unit: 'kPa', from: 0 },
        lines: [
          { name: 'A', x: [0.1, 0.2], y: [1000, 4000], low: [900, 3900], high: [1100, 4100] },
          { name: 'B', x: [0.1, 0.2], y: [1000, 3990] },
        ],
        points: [{ name: 'A', x: 0.1, y: 1000 }],
        region: {
          name: 'water',
          x: [0, 1],
          y: [0, 1],
          risk: [
            [0, 1],
            [0, 0],
          ],
        },
        marks: [{ axis: 'y', at: 2000, label: 'here' }],
      },
      TOKENS.light,
      OTHER,
      ['#111111', '#222222'],
    );
    expect(figure.data.map(({ type }) => type)).toContain('heatmap');
    expect((figure.layout.yaxis as { title: { text: string } }).title.text).toBe('Drop, inH2O');
    const line = figure.data.find((series) => series.name === 'A') as { x: number[]; y: number[] };
    expect(line.x[0]).toBeCloseTo(360, 6);
    expect(line.y[1]).toBeCloseTo(16.06, 2);
    const labels = (figure.layout.annotations as { text: string; yshift?: number }[]).filter(({ text }) => text === 'A' || text === 'B');
    expect(Math.abs(labels[0]!.yshift! - labels[1]!.yshift!)).toBeGreaterThan(10);
    expect(figure.table[0]!.values).toEqual(['A', 'A', 'B', 'B', 'A', 'water']);
  });
});

describe('the path', () => {
  const setup = (id: string, kinds: string[]): Setup =>
    setupSchema.parse({
      id,
      name: id,
      path: kinds.map((kind) => ({ id: kind, kind, name: kind, geometry: { areaCm2: 30, lengthMm: 300 } })),
    });

  it('joins the sections of two setups in the order of the way, and falls from one to the next', () => {
    const [a, b] = [setup('A', ['duct', 'hose']), setup('B', ['opening', 'hose'])];
    const columns = pathColumns(a, b);
    expect(columns.map(({ id, reference, candidate }) => [id, reference !== null, candidate !== null])).toEqual([
      ['opening', false, true],
      ['duct', true, false],
      ['hose', true, true],
    ]);
    const budget = restrictionBudget(a, { massFlowKgS: 0.15, ambientPa: 1e5, ambientC: 25, charge: null, aspiration: 'na' }, null);
    const steps = descent(columns, budget);
    expect(steps[0]).toMatchObject({ fromPa: 0, toPa: 0, section: null });
    expect(steps[2]!.toPa).toBeCloseTo(budget.totalPa, 9);
    expect(pathColumns(null, null)).toEqual([]);
  });
});

describe('setups as they are written', () => {
  const setup = setupSchema.parse({
    id: 'A',
    name: 'A',
    parts: ['box'],
    state: { bonnet: 'closed', tyrePressureKPa: 230 },
    sensorPlaces: { intakeAirTemperature: 'manifold' },
  });
  const show = (kPa: number) => `${kPa} kPa`;

  it('take parts by commas, pressures with their unit, and forget what is emptied', () => {
    expect(changeAttribute(setup, { kind: 'parts', key: 'parts' }, 'box , duct,').parts).toEqual(['box', 'duct']);
    expect(changeAttribute(setup, { kind: 'state', key: 'tyrePressureKPa' }, '2.4 bar').state['tyrePressureKPa']).toBe(240);
    expect(changeAttribute(setup, { kind: 'state', key: 'ethanolPct' }, '5 %').state['ethanolPct']).toBe(5);
    expect(changeAttribute(setup, { kind: 'state', key: 'bonnet' }, '').state).not.toHaveProperty('bonnet');
    expect(changeAttribute(setup, { kind: 'sensor', key: 'intakeAirTemperature' }, 'box').sensorPlaces).toEqual({
      intakeAirTemperature: 'box',
    });
    expect(changeAttribute(setup, { kind: 'sensor', key: 'intakeAirTemperature' }, '').sensorPlaces).toEqual({});
  });

  it('stand side by side with what differs and what only one says', () => {
    const other: Setup = { ...setup, id: 'B', state: { bonnet: 'open' } };
    const rows = attributeRows([setup, other], show, ['sensor:lambda', 'gate']);
    const row = (label: string) => rows.find((entry) => entry.label === label)!;
    expect(row('Bonnet')).toMatchObject({ differs: true, values: ['closed', 'open'] });
    expect(row('Tyre pressure')).toMatchObject({ differs: false, unknown: true, values: ['230 kPa', 'not said'] });
    expect(row('Sensor: lambda').values).toEqual(['not said', 'not said']);
    expect(row('Gate').edits).toEqual([null, null]);
  });

  it('have gear ratios from a line of text', () => {
    expect(ratiosFromText('3,6 2.1 / 1.4')).toEqual([3.6, 2.1, 1.4]);
    expect(ratiosFromText('none')).toBeNull();
    expect(ratiosText([3.6, 2.1])).toBe('3.6 2.1');
    expect(ratiosText(null)).toBe('');
  });
});
