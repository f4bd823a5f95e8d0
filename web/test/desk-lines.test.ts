import { differenceFromSi, fromSi, readFormula, type DeskChannel } from '@gezeit/core';
import { describe, expect, it } from 'vitest';
import { linesFigure, relationFigure, relationsOf } from '../src/features/logs/desk/desk-figure.js';
import { deskLines, panelsOf, type DeskLine, type LineOptions } from '../src/features/logs/desk/desk-lines.js';
import { deskTable } from '../src/features/logs/desk/desk-table.js';
import { checkMarks } from '../src/features/logs/desk/check-marks.js';
import { sampleKey } from '../src/features/logs/desk/use-desk-samples.js';
import { TOKENS } from '../src/shared/charts/theme.js';
import { Show } from '../src/shared/units/show.js';
import { IMPERIAL, METRIC } from './support/mounting.js';

const channel = (quantity: DeskChannel['quantity'], label: string, more: Partial<DeskChannel> = {}): DeskChannel => ({
  key: label,
  device: 'daq',
  label,
  quantity,
  section: null,
  unitText: null,
  formulaName: quantity ?? label,
  columns: new Map(),
  ...more,
});
const SPEED = channel('engineSpeed', 'Engine speed');
const AIR = channel('intakeAirTemperature', 'Intake air');
const DROP = channel('pressureDrop', 'Drop <filter>', { section: 'filter', formulaName: 'pressureDrop_filter' });
const ODD = channel(null, 'Counter', { unitText: 'ticks' });
const pulls = ['p01', 'p02', 'p03', 'p04'].map((id, i) => ({ id, setup: i < 3 ? 'A' : 'B', logs: [], lastsS: 10, startOn: () => 0 }));

const at = Float64Array.from({ length: 21 }, (_, i) => i / 2);
const series = (of: (s: number) => number) => ({ at, values: at.map(of) });
const SAMPLES = new Map(
  pulls.flatMap(({ id }, i) => [
    [sampleKey(id, SPEED.key), series((s) => 2000 + 400 * s)] as const,
    [sampleKey(id, AIR.key), series((s) => 25 + s + i)] as const,
    [sampleKey(id, DROP.key), series((s) => 200 * s + 10 * i)] as const,
    // One pull has not logged it.
    ...(i === 2 ? [] : [[sampleKey(id, ODD.key), series((s) => s)] as const]),
  ]),
);
const options = (more: Partial<LineOptions> = {}): LineOptions => ({
  pulls,
  channels: [SPEED, AIR, DROP, ODD],
  formulas: [],
  byFormulaName: new Map([SPEED, AIR, DROP].map(({ formulaName, key }) => [formulaName, key])),
  axis: 'time',
  less: null,
  samples: SAMPLES,
  show: new Show(METRIC),
  colourOf: (pull) => (pull.setup === 'A' ? TOKENS.light.ink : TOKENS.light.green),
  ...more,
});
const line = (lines: readonly DeskLine[], pull: string, label: string) => lines.find((own) => own.pull === pull && own.label === label);
const SHOWS = [METRIC, IMPERIAL].map((units) => new Show(units));

describe('lines on the desk', () => {
  it('are every channel of every pull that has logged it, in the chosen unit', () => {
    for (const show of SHOWS) {
      const lines = deskLines(options({ show }));
      expect(lines).toHaveLength(4 * 4 - 1);
      expect(line(lines, 'p03', 'Counter')).toBeUndefined();
      expect(line(lines, 'p01', 'Counter')).toMatchObject({ unit: 'ticks', checkedAs: null });
      const air = line(lines, 'p02', 'Intake air')!;
      expect([air.unit, air.series.values[4]]).toEqual([show.units.temperature, fromSi(28, show.units.temperature)]);
      const drop = line(lines, 'p01', DROP.label)!;
      expect([drop.unit, drop.checkedAs, drop.series.values[10]]).toEqual([
        show.units.pressure,
        'pressureDrop/filter',
        fromSi(1000, show.units.pressure),
      ]);
      expect(new Set(lines.map(({ key }) => key)).size).toBe(lines.length);
    }
  });

  it('less one of them are differences, without a zero of temperature, and without that one', () => {
    for (const show of SHOWS) {
      const lines = deskLines(options({ show, less: pulls[0]! }));
      expect(lines.some(({ pull }) => pull === 'p01')).toBe(false);
      const air = line(lines, 'p02', 'Intake air')!;
      expect(air.unit).toBe(show.differenceUnit);
      for (const value of air.series.values) expect(value).toBeCloseTo(differenceFromSi(1, show.units.temperature), 9);
    }
    // Without the one that is taken away nothing is left to draw.
    const alone = deskLines(options({ pulls: pulls.slice(0, 1), less: pulls[0]! }));
    expect(alone).toEqual([]);
    const unlogged = deskLines(options({ channels: [ODD], less: pulls[2]! }));
    expect(unlogged).toEqual([]);
  });

  it('over engine speed stand at their own speed, and engine speed is not drawn over itself', () => {
    const lines = deskLines(options({ axis: 'engineSpeed' }));
    expect(lines.some(({ label }) => label === SPEED.label)).toBe(false);
    const air = line(lines, 'p01', 'Intake air')!;
    air.series.at.forEach((rpm, i) => expect(air.series.values[i]).toBeCloseTo(25 + (rpm - 2000) / 400, 6));
    const without = deskLines(options({ axis: 'engineSpeed', byFormulaName: new Map() }));
    expect(without).toEqual([]);
  });

  it('of a formula are computed from what each pull has logged', () => {
    const formula = readFormula('pressureDrop_filter / 2', [{ name: 'pressureDrop_filter', dimension: 'pressure' }]);
    const lines = deskLines(
      options({
        channels: [],
        formulas: [
          { name: 'half', formula },
          { name: 'unreadable', formula: null },
        ],
      }),
    );
    expect(lines.map(({ label }) => label)).toEqual(['half', 'half', 'half', 'half']);
    expect(line(lines, 'p01', 'half')!.series.values[10]).toBeCloseTo(fromSi(500, 'kPa'), 9);
  });

  it('of one setup are told apart by their strength, lines of one unit by their dashes, and each unit has its panel', () => {
    const lines = deskLines(
      options({
        channels: [AIR, channel('oilTemperature', 'Oil'), DROP],
        samples: new Map([...SAMPLES, [sampleKey('p01', 'Oil'), series(() => 80)]]),
      }),
    );
    expect(pulls.map(({ id }) => line(lines, id, 'Intake air')!.opacity)).toEqual([1, 0.62, 0.4, 1]);
    expect(line(lines, 'p01', 'Oil')!.dash).not.toBe(line(lines, 'p01', 'Intake air')!.dash);
    expect(panelsOf(lines).map(({ unit, lines: own }) => [unit, own.length])).toEqual([
      ['°C', 5],
      ['kPa', 4],
    ]);
  });
});

describe('the desk as it is drawn', () => {
  const drawn = (lines: readonly DeskLine[], more: Partial<Parameters<typeof linesFigure>[0]> = {}) =>
    linesFigure({
      lines,
      title: 'time, s',
      span: null,
      windows: [{ endsAt: 8 }],
      isDifference: false,
      marks: [],
      tokens: TOKENS.light,
      ...more,
    });

  it('has a panel a unit from top to bottom, that lie apart and fill the height', () => {
    const { layout, height, data } = drawn(deskLines(options()));
    const domains = [1, 2, 3, 4].map(
      (n) => (layout as unknown as Record<string, { domain: number[] }>)[`yaxis${n === 1 ? '' : n}`]!.domain,
    );
    domains.slice(1).forEach(([, top], i) => expect(top!).toBeLessThan(domains[i]![0]!));
    expect(height).toBeGreaterThan(4 * 90);
    expect(data).toHaveLength(15);
    expect(data.map((entry) => (entry as { name: string }).name)).toContain('p01 Drop &lt;filter>');
  });

  it('reaches as far as what is seen, and without anything stays an axis', () => {
    const all = drawn(deskLines(options())).layout.xaxis as { range: number[] };
    expect(all.range).toEqual([0, 10]);
    const near = drawn(deskLines(options({ channels: [AIR], pulls: pulls.slice(0, 1) })), { span: [2, 4] });
    expect((near.layout.xaxis as { range: number[] }).range).toEqual([2, 4]);
    const [low, high] = (near.layout.yaxis as { range: number[] }).range as [number, number];
    expect(low).toBeLessThan(27);
    expect(low).toBeGreaterThan(26);
    expect(high).toBeGreaterThan(29);
    expect(high).toBeLessThan(30);
    const nothing = drawn([]);
    expect((nothing.layout.xaxis as { range: number[] }).range).toEqual([0, 1]);
    expect(nothing.data).toEqual([]);
  });

  it('says a difference as one, and marks what a check found on the channel and the pull of which it is', () => {
    const lines = deskLines(options({ less: pulls[0]! }));
    expect((drawn(lines, { isDifference: true }).layout.yaxis as { title: { text: string } }).title.text).toMatch(/^Δ /);
    const marks = checkMarks([
      { id: 'p02', flags: [{ where: [{ channel: 'intakeAirTemperature', fromS: 3, toS: 3 }] }, { where: [] }] },
      { id: 'p99', flags: [{ where: [{ channel: 'intakeAirTemperature', fromS: 1, toS: 2 }] }] },
    ] as never);
    expect(marks[0]).toMatchObject({ fromS: 2.95, toS: 3.05 });
    const amber = (shapes: unknown) => (shapes as { fillcolor?: string }[]).filter(({ fillcolor }) => fillcolor?.includes('143,91,0'));
    expect(amber(drawn(deskLines(options()), { marks }).layout.shapes)).toHaveLength(1);
    expect(amber(drawn(deskLines(options({ channels: [SPEED] })), { marks }).layout.shapes)).toHaveLength(0);
  });

  it('of one channel against another has the straight line through its points, for each pull', () => {
    const lines = deskLines(options({ channels: [DROP], pulls: pulls.slice(0, 2) }));
    const against = deskLines(options({ channels: [AIR], pulls: pulls.slice(0, 2) }));
    const relations = relationsOf(lines, against);
    expect(relations.map(({ line: { pull } }) => pull)).toEqual(['p01', 'p02']);
    for (const { relation } of relations) expect(relation.line!.slope).toBeCloseTo(0.2, 6);
    const { data } = relationFigure(relations, 'Intake air, °C', null, TOKENS.light);
    expect(data).toHaveLength(4);
    const [points, fit] = data as unknown as { x: number[]; y: number[]; mode: string }[];
    expect([points!.mode, fit!.mode]).toEqual(['markers', 'lines']);
    expect(fit!.y[1]! - fit!.y[0]!).toBeCloseTo(0.2 * (fit!.x[1]! - fit!.x[0]!), 9);
    expect(relationsOf(lines, [])).toEqual([]);
  });

  it('is a table in which what was logged at the same moments shares its time, and only what is seen', () => {
    const later = new Map(SAMPLES).set(sampleKey('p02', AIR.key), { at: at.map((s) => s + 0.1), values: at });
    const lines = deskLines(options({ channels: [AIR], pulls: pulls.slice(0, 3), samples: later }));
    const table = deskTable(lines, 'time [s]', [2, 4]);
    expect(table.map(({ header }) => header)).toEqual([
      'time [s]',
      'p01 Intake air [°C]',
      'p03 Intake air [°C]',
      'time [s]',
      'p02 Intake air [°C]',
    ]);
    for (const { values } of table) expect(values.length).toBeGreaterThan(3);
    expect(table[0]!.values).toEqual([2, 2.5, 3, 3.5, 4]);
    expect(deskTable([], 'time [s]', null)).toEqual([]);
  });
});
