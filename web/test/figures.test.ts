import { curvesSchema, type Comparison, type Curves, type Findings } from '@gezeit/contract';
import { fromSi } from '@gezeit/core';
import type { Data, Layout } from 'plotly.js';
import { beforeEach, describe, expect, inject, it } from 'vitest';
import { curveFigure, type CurveInput } from '../src/features/verdict/curve-figure.js';
import { curveTable } from '../src/features/verdict/curve-table.js';
import { levellingFigure, levellingTable, type LevellingInput } from '../src/features/verdict/levelling-figure.js';
import { heatFigure, heatTable } from '../src/features/logs/heat/heat-figure.js';
import { benchLaws, restrictionFigure, restrictionTable } from '../src/features/logs/restriction/restriction-figure.js';
import { useProgramme, type DrawnSetup } from '../src/model/programme-store.js';
import { plotlyLayout } from '../src/shared/charts/plotly-theme.js';
import { TOKENS, type Tokens } from '../src/shared/charts/theme.js';
import { csvText } from '../src/shared/save.js';
import { Show } from '../src/shared/units/show.js';
import { UNIT_CHOICES, type ChosenUnits } from '../src/shared/units/units-store.js';
import { IMPERIAL, METRIC } from './support/mounting.js';
import { direct, page } from './support/page.js';

page();

/** Each unit that is offered is chosen at least once. */
const UNITS: ChosenUnits[] = [
  METRIC,
  IMPERIAL,
  { power: 'PS', torque: 'N·m', temperature: '°C', pressure: 'bar' },
  { power: 'kW', torque: 'lb·ft', temperature: '°F', pressure: 'inH2O' },
];
const WAYS = UNITS.flatMap((units, i) => [
  { units, tokens: i % 2 === 0 ? TOKENS.light : TOKENS.dark, narrow: false },
  { units, tokens: i % 2 === 0 ? TOKENS.dark : TOKENS.light, narrow: true },
]);

type Values = readonly (number | string | null)[];
type Series = { name?: string; x: Values; y: Values; yaxis?: string; mode?: string; text?: Values; customdata?: Values };
type Column = { header: string; values: Values };
const seriesOf = (data: readonly Data[]) => data as unknown as Series[];

/** Every text of a figure, wherever it stands. */
function textsOf(thing: unknown): string[] {
  if (typeof thing === 'string') return [thing];
  if (typeof thing !== 'object' || thing === null) return [];
  return Object.values(thing).flatMap(textsOf);
}

/** What holds of every figure. */
function expectSound({ data, layout }: { data: Data[]; layout: Partial<Layout> }, units: ChosenUnits, tokens: Tokens): void {
  for (const { x, y, text, customdata, name } of seriesOf(data)) {
    expect(y, name).toHaveLength(x.length);
    for (const more of [text, customdata]) if (Array.isArray(more)) expect(more, name).toHaveLength(x.length);
    // An expectation a series, not one a point: they are a million, and each costs more than what it looks at.
    expect(
      [...x, ...y].filter((value) => typeof value === 'number' && !Number.isFinite(value)),
      name,
    ).toEqual([]);
  }
  expect(textsOf([data, layout]).filter((text) => /\bNaN\b|undefined|Infinity|\[object|\bnull\b/.test(text))).toEqual([]);
  // No unit stands anywhere that nobody chose.
  const foreign = Object.entries(UNIT_CHOICES).flatMap(([kind, choices]) =>
    choices.filter((unit) => unit !== units[kind as keyof ChosenUnits]),
  );
  for (const axis of ['xaxis', 'yaxis', 'yaxis2', 'yaxis3'] as const) {
    const title = (layout[axis]?.title as { text?: string } | undefined)?.text ?? '';
    const words = title.split(/[ ,]+/);
    expect(
      foreign.filter((unit) => words.includes(unit)),
      title,
    ).toEqual([]);
  }
  // Every axis takes the theme, and keeps what is its own.
  const themed = plotlyLayout(tokens, layout, 300);
  for (const [key, own] of Object.entries(layout)) {
    if (!/^[xy]axis\d*$/.test(key)) continue;
    expect(themed[key as 'xaxis']).toMatchObject({ gridcolor: tokens.line, fixedrange: true });
    const title = (own as { title?: { text?: string } }).title?.text;
    if (title !== undefined) expect(themed[key as 'xaxis']!.title).toMatchObject({ text: title, font: { color: tokens.muted } });
  }
}

/** What holds of every table of figures: a name of its own for each column, and no value that is none. */
async function expectTable(columns: readonly Column[]): Promise<void> {
  expect(new Set(columns.map(({ header }) => header)).size).toBe(columns.length);
  for (const { header, values } of columns)
    expect(
      values.filter((value) => value !== null && typeof value !== 'string' && !Number.isFinite(value)),
      header,
    ).toEqual([]);
  const rows = (await csvText(columns.map(({ header, values }) => ({ header, values })))).trimEnd().split('\n');
  expect(rows).toHaveLength(1 + Math.max(0, ...columns.map(({ values }) => values.length)));
}
const column = (columns: readonly Column[], header: string) => {
  const found = columns.find((entry) => entry.header === header);
  if (!found) throw new Error(`no ${header} among ${columns.map((entry) => entry.header).join(', ')}`);
  return found.values;
};

interface Opened {
  findings: Findings;
  curves: Curves;
  setups: ReadonlyMap<string, DrawnSetup>;
  order: readonly string[];
  kinds: ReadonlyMap<string, string>;
}
async function opened(folder: string): Promise<Opened> {
  const programme = useProgramme();
  await programme.open(inject('demo')[folder]!);
  const curves = curvesSchema.parse(await direct('GET', `/api/programmes/${inject('demo')[folder]!}/curves`));
  return {
    findings: programme.view!.findings,
    curves,
    setups: programme.setupById,
    order: programme.pullIds,
    kinds: new Map(programme.view!.bundle.pulls.map(({ id, kind }) => [id, kind])),
  };
}
const curveInput = ({ curves, setups }: Opened, comparison: Comparison, way: (typeof WAYS)[number]): CurveInput => ({
  curves,
  reference: setups.get(comparison.reference)!,
  candidate: setups.get(comparison.candidate)!,
  difference:
    curves.differences.find(({ reference, candidate }) => reference === comparison.reference && candidate === comparison.candidate) ?? null,
  pull: null,
  askedRpm: comparison.bandUsedRpm,
  freeRpm: comparison.bandUsedRpm,
  smallestPct: 1,
  beside: null,
  show: new Show(way.units),
  tokens: way.tokens,
  narrow: way.narrow,
});

describe.each(Object.keys(inject('demo')))('the figures of %s', (folder) => {
  let day: Opened;
  beforeEach(async () => {
    day = await opened(folder);
  });

  it('over engine speed: both setups, the chosen pull, the difference and every channel beside it, in every unit', async () => {
    for (const way of WAYS)
      for (const comparison of day.findings.comparisons) {
        const input = curveInput(day, comparison, way);
        const own = day.curves.pulls.filter(({ setup }) => [comparison.reference, comparison.candidate].includes(setup));
        for (const beside of [null, ...(input.difference?.channels ?? [])])
          for (const pull of [null, own[0]?.id ?? null, 'nobody’s']) {
            const figure = curveFigure({ ...input, beside, pull });
            expectSound(figure, way.units, way.tokens);
            const names = seriesOf(figure.data).map(({ name }) => name);
            expect(names.filter((name) => name?.startsWith('pull '))).toEqual(own[0] && pull === own[0].id ? [`pull ${pull}`] : []);
            // Torque gives its place to what is chosen.
            expect(names.some((name) => name?.endsWith(' torque'))).toBe(beside === null && day.curves.setups.length > 0);
          }
        const [low, high] = comparison.bandUsedRpm;
        const cut = curveFigure({ ...input, askedRpm: [low - 200, high + 300] });
        expectSound(cut, way.units, way.tokens);
        expect(textsOf(cut.layout.annotations).join('\n')).toContain(`free, ${Math.round(low)} to ${Math.round(high)}`);
        expect((cut.layout.shapes ?? []).length).toBe((curveFigure(input).layout.shapes ?? []).length + 1);
        const table = curveTable(input);
        await expectTable(table);
        for (const { setup } of [input.reference, input.candidate]) {
          const curve = day.curves.setups.find((entry) => entry.setup === setup.id);
          if (!curve) continue;
          const drawn = seriesOf(curveFigure(input).data).find(({ name }) => name === `${setup.id} ${setup.name}`)!;
          expect(drawn.y).toEqual(curve.powerW.map((watt) => fromSi(watt, way.units.power)));
          expect(column(table, `${setup.id} power [${way.units.power}]`)).toEqual(drawn.y);
          expect(column(table, `${setup.id} torque [${way.units.torque}]`)).toEqual(
            curve.torqueNm.map((torque) => fromSi(torque, way.units.torque)),
          );
        }
      }
  });

  it('from the pulls to the number: every pull once, what was taken out adding up, habits side by side', async () => {
    for (const comparison of day.findings.comparisons) {
      if (!comparison.levelling) continue;
      const { pulls, habits } = comparison.levelling;
      for (const { units, tokens, narrow } of WAYS)
        for (const selected of [null, pulls[0]!.pull, 'nobody’s']) {
          const input: LevellingInput = { comparison, order: day.order, kinds: day.kinds, setups: day.setups, selected, tokens, narrow };
          const figure = levellingFigure(input);
          expectSound(figure, units, tokens);
          const marks = seriesOf(figure.data).filter(({ name }) => /(not counted|as run)$/.test(name ?? ''));
          expect(marks.flatMap(({ customdata }) => customdata as string[]).sort()).toEqual(pulls.map(({ pull }) => pull).sort());
          expect(figure.layout.shapes).toHaveLength(selected === pulls[0]!.pull ? 1 : 0);
          // Those that lie close are moved apart, in their order.
          const written = seriesOf(figure.data).find(({ mode }) => mode === 'text+markers')!;
          const places = habits.map(({ pct }, i) => ({ pct, at: written.y[i] as number })).sort((a, b) => a.pct - b.pct);
          places.slice(1).forEach(({ at }, i) => expect(at - places[i]!.at).toBeGreaterThan(0.27));
          const { tickvals, ticktext } = figure.layout.xaxis as { tickvals: number[]; ticktext: string[] };
          expect(ticktext).toHaveLength(tickvals.length);
          expect(new Set(tickvals).size).toBe(pulls.length);
        }
      const table = levellingTable({
        comparison,
        order: day.order,
        kinds: day.kinds,
        setups: day.setups,
        selected: null,
        tokens: TOKENS.light,
        narrow: false,
      });
      await expectTable(table);
      expect(column(table, 'pull')).toEqual(pulls.map(({ pull }) => pull));
      expect(column(table, 'levelled [%]')).toEqual(pulls.map(({ levelledPct }) => levelledPct));
    }
  });

  it('of the heat: a start and an end for every pull of which it is known, and the same figures in the file', async () => {
    const { pulls } = day.findings;
    const tide = useProgramme().view!.tide.pulls;
    const known = pulls.filter(({ heat }) => heat?.startAboveAmbientK != null);
    for (const { units, tokens } of WAYS) {
      const show = new Show(units);
      const figure = heatFigure({ pulls, order: tide, setups: day.setups, selected: known[0]?.id ?? null, show, tokens });
      expectSound(figure, units, tokens);
      expect((figure.layout.xaxis as { ticktext: string[] }).ticktext).toEqual(
        tide.map(({ id }) => id).filter((id) => known.some((pull) => pull.id === id)),
      );
      const starts = seriesOf(figure.data).filter(({ name }) => name?.endsWith(' start'));
      const drawn = new Map(starts.flatMap(({ customdata, y }) => customdata!.map((id, i) => [id, y[i]])));
      const table = heatTable({ pulls, show });
      await expectTable(table);
      const ids = column(table, 'pull');
      const above = column(table, `start above ambient [${show.differenceUnit}]`);
      for (const { id, heat } of known) {
        expect(drawn.get(id), id).toBe(show.differenceOf(heat!.startAboveAmbientK!));
        expect(above[ids.indexOf(id)]).toBe(drawn.get(id));
        expect(column(table, `start [${units.temperature}]`)[ids.indexOf(id)]).toBe(fromSi(heat!.startC, units.temperature));
      }
    }
  });

  it('of every section: each used pull, the law, what the bench says, and the same points in the file', async () => {
    const { restriction } = day.findings;
    const { bundle } = useProgramme().view!;
    for (const section of new Set(restriction.map((entry) => entry.section)))
      for (const { units, tokens } of WAYS) {
        const curves = day.curves.sections;
        const input = { section, curves, findings: restriction, setups: day.setups, unit: units.pressure, tokens };
        const own = curves.points.filter((entry) => entry.section === section);
        const most = Math.max(0, ...own.flatMap(({ flowKgS }) => flowKgS));
        const bench = benchLaws(section, bundle.setups, most);
        for (const { flowKgS, dropPa } of bench) {
          expect(flowKgS.at(-1)).toBeCloseTo(most, 9);
          dropPa.slice(1).forEach((drop, i) => expect(drop).toBeGreaterThan(dropPa[i]!));
        }
        const figure = restrictionFigure(input, bench);
        expectSound(figure, units, tokens);
        expect((figure.layout.yaxis!.title as { text: string }).text).toBe(units.pressure);
        const points = seriesOf(figure.data).filter(({ mode }) => mode === 'markers');
        const table = restrictionTable(input);
        await expectTable(table);
        expect(column(table, `pressure drop [${units.pressure}]`)).toEqual(points.flatMap(({ y }) => y));
        expect(column(table, 'air mass flow [g/s]')).toEqual(points.flatMap(({ x }) => x));
        const steps = restriction.filter((entry) => entry.section === section && entry.step);
        expect(figure.layout.annotations).toHaveLength(steps.length);
      }
  });
});

describe('names that hold markup', () => {
  const NAME = '<b>Rack & <i>cone</i> <10 µm';
  const ID = '<u>A';

  it('are shown as they are, in every figure of a comparison', async () => {
    const day = await opened('sealed-airbox');
    const renamed = <T>(thing: T): T => JSON.parse(JSON.stringify(thing).replaceAll('"A"', JSON.stringify(ID))) as T;
    const [comparison] = renamed(day.findings.comparisons);
    const curves = renamed(day.curves);
    const setups = new Map(
      [...day.setups].map(([id, entry]) => {
        const own = id === 'A' ? ID : id;
        return [own, { ...entry, setup: { ...entry.setup, id: own, name: NAME } }];
      }),
    );
    const named = { ...day, curves, setups };
    const way = WAYS[0]!;
    const beside = curveInput(named, comparison!, way).difference!.channels[0] ?? null;
    const figures = [
      curveFigure({ ...curveInput(named, comparison!, way), pull: curves.pulls[0]!.id }),
      curveFigure({ ...curveInput(named, comparison!, way), beside }),
      levellingFigure({
        comparison: comparison!,
        order: day.order,
        kinds: day.kinds,
        setups,
        selected: null,
        tokens: way.tokens,
        narrow: false,
      }),
    ];
    const texts = figures.flatMap(({ data, layout }) =>
      textsOf([data.map(({ name, ...rest }: { name?: string; text?: unknown }) => [name, rest.text]), layout]),
    );
    expect(texts.filter((text) => text.includes('&lt;u>A')).length).toBeGreaterThan(3);
    expect(texts.some((text) => text.includes('&lt;b>Rack &amp; &lt;i>cone&lt;/i> &lt;10 µm'))).toBe(true);
    for (const text of texts) {
      expect(text).not.toContain(ID);
      expect(text).not.toContain('<i>');
    }
  });
});
