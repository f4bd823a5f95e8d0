import { differenceFromSi, fromSi, type BenchChart, type ChartAxis, type UnitName, fieldUnit } from '@gezeit/core';
import type { Data, Layout } from 'plotly.js';
import { plotText } from './plot-text.js';
import type { Tokens } from './theme.js';
import type { ChosenUnits } from '../units/units-store.js';
import { withOpacity } from './plotly-theme.js';

/** A chart of the bench as Plotly draws it, and its figures for CSV. */
export interface BenchFigure {
  data: Data[];
  layout: Partial<Layout>;
  table: { header: string; values: (number | string | null)[] }[];
}

const convert = (axis: ChartAxis, unit: UnitName) => (value: number | null | undefined) =>
  value == null ? null : axis.difference ? differenceFromSi(value, unit) : fromSi(value, unit);

/**
 * Draws what an instrument computed: lines with their bands, points with their names, a region of risk. Series of one name share a
 * colour; names stand at the lines instead of in a legend.
 */
export function benchFigure(chart: BenchChart, tokens: Tokens, units: ChosenUnits, colours: readonly string[]): BenchFigure {
  const [xUnit, yUnit] = [
    fieldUnit(chart.x.unit, chart.x.difference ?? false, units),
    fieldUnit(chart.y.unit, chart.y.difference ?? false, units),
  ];
  const [x, y] = [convert(chart.x, xUnit), convert(chart.y, yUnit)];
  const names = [...new Set([...chart.lines.filter(({ guide }) => !guide), ...chart.points].map(({ name }) => name))];
  const colour = (name: string) => colours[Math.max(0, names.indexOf(name)) % colours.length]!;
  const data: Data[] = [];
  if (chart.region) {
    data.push({
      type: 'heatmap',
      name: chart.region.name,
      x: chart.region.x.map(x),
      y: chart.region.y.map(y),
      z: chart.region.risk.map((row) => [...row]),
      zmin: 0,
      zmax: 1,
      showscale: false,
      hoverinfo: 'skip',
      colorscale: [
        [0, withOpacity(tokens.brick, 0)],
        [0.5, withOpacity(tokens.brick, 0)],
        [0.5, withOpacity(tokens.brick, 0.28)],
        [1, withOpacity(tokens.brick, 0.28)],
      ],
    } as Data);
  }
  for (const line of chart.lines) {
    const shade = line.guide ? tokens.neutral : colour(line.name);
    if (line.low && line.high) {
      const band = { type: 'scatter', mode: 'lines', x: line.x.map(x), line: { width: 0 }, hoverinfo: 'skip' } as const;
      data.push(
        { ...band, name: '', y: line.low.map(y) } as Data,
        { ...band, name: '', y: line.high.map(y), fill: 'tonexty', fillcolor: withOpacity(shade, 0.18) } as Data,
      );
    }
    data.push({
      type: 'scatter',
      mode: 'lines',
      name: plotText(line.name),
      x: line.x.map(x),
      y: line.y.map(y),
      line: { color: shade, width: line.guide ? 1 : 2.2, dash: line.style ?? 'solid' },
      hoverinfo: line.guide ? 'skip' : 'x+y+name',
    } as Data);
  }
  const many = chart.points.length > 12;
  for (const name of new Set(chart.points.map((point) => point.name))) {
    const own = chart.points.filter((point) => point.name === name);
    data.push({
      type: 'scatter',
      mode: name && !many ? 'text+markers' : 'markers',
      name: plotText(name),
      x: own.map((point) => x(point.x)),
      y: own.map((point) => y(point.y)),
      text: own.map((_, i) => (i === own.length - 1 && !chart.lines.some((line) => line.name === name) ? plotText(name) : '')),
      textposition: 'top center',
      textfont: { color: tokens.ink, size: 13 },
      marker: { color: colour(name), size: 8, line: { color: tokens.ground, width: 1 } },
      hoverinfo: 'x+y+name',
      cliponaxis: false,
    } as Data);
  }
  const label = (axis: ChartAxis, unit: UnitName) => (unit === '–' ? axis.label : `${axis.label}, ${unit}`);
  const range = (axis: ChartAxis, to: (value: number) => number | null, highest: number | null) =>
    axis.from === undefined && axis.to === undefined ? {} : { range: [to(axis.from ?? 0), axis.to === undefined ? highest : to(axis.to)] };
  const highest =
    Math.max(...data.flatMap((series) => ((series as { y?: (number | null)[] }).y ?? []).filter((value) => value !== null))) * 1.08;
  const widest = Math.max(...data.flatMap((series) => ((series as { x?: (number | null)[] }).x ?? []).filter((value) => value !== null)));
  return {
    data,
    layout: {
      hovermode: 'closest',
      margin: { l: 56, r: labelRoom(chart), t: 10, b: 40 },
      xaxis: { title: { text: plotText(label(chart.x, xUnit)) }, ...range(chart.x, x as (value: number) => number, widest) },
      yaxis: { title: { text: plotText(label(chart.y, yUnit)) }, ...range(chart.y, y as (value: number) => number, highest) },
      annotations: lineLabels(chart, x, y, tokens, colour, highest),
      shapes: (chart.marks ?? []).map(({ axis, at }) => ({
        type: 'line',
        ...(axis === 'x'
          ? { x0: x(at)!, x1: x(at)!, yref: 'paper', y0: 0, y1: 1 }
          : { y0: y(at)!, y1: y(at)!, xref: 'paper', x0: 0, x1: 1 }),
        line: { color: tokens.ink, width: 1, dash: 'dot' },
      })),
    },
    table: tableOf(chart, label(chart.x, xUnit), label(chart.y, yUnit), x, y),
  };
}

/** Room for the longest name at a line's end, px. */
const labelRoom = ({ lines }: BenchChart) =>
  lines.length < 2 && !lines[0]?.guide ? 16 : Math.min(170, 18 + 7 * Math.max(...lines.map(({ name }) => name.length)));

type Conversion = (value: number | null | undefined) => number | null;

/** Height of a label and of the plot, px: labels at the lines' ends keep apart by the first. */
const LABEL_PX = 15;
const PLOT_PX = 215;

function lineLabels(
  chart: BenchChart,
  x: Conversion,
  y: Conversion,
  tokens: Tokens,
  colour: (name: string) => string,
  highest: number,
): Layout['annotations'] {
  const lowest = chart.y.from === undefined ? 0 : (y(chart.y.from) ?? 0);
  const top = chart.y.to === undefined ? highest : y(chart.y.to)!;
  const labels = chart.lines
    .flatMap((line) => {
      const last = line.y.findLastIndex((value) => value !== null);
      if (last < 0 || (chart.lines.length === 1 && !line.guide)) return [];
      return [
        {
          x: x(line.x[last])!,
          y: y(line.y[last])!,
          text: plotText(line.name),
          shade: line.guide ? tokens.muted : colour(line.name),
          yshift: 0,
        },
      ];
    })
    .sort((a, b) => a.y - b.y);
  // From the lowest up: one that would sit on another moves above it.
  const pixel = (value: number) => ((value - lowest) / (top - lowest || 1)) * PLOT_PX;
  for (let i = 1; i < labels.length; i++) {
    const [below, own] = [labels[i - 1]!, labels[i]!];
    if (Math.abs(below.x - own.x) > 0.05 * Math.abs(own.x || 1)) continue;
    own.yshift = Math.max(0, pixel(below.y) + below.yshift + LABEL_PX - pixel(own.y));
  }
  const drawn = labels.map(
    ({ shade, ...label }) => ({ ...label, showarrow: false, xanchor: 'left', xshift: 4, font: { size: 13, color: shade } }) as const,
  );
  const marks = (chart.marks ?? []).map(({ axis, at, label }) =>
    axis === 'x'
      ? ({
          x: x(at)!,
          yref: 'paper',
          y: 1,
          text: plotText(label),
          showarrow: false,
          xanchor: 'left',
          xshift: 4,
          yanchor: 'top',
          font: { size: 13, color: tokens.muted },
        } as const)
      : ({
          y: y(at)!,
          xref: 'paper',
          x: 0,
          text: plotText(label),
          showarrow: false,
          xanchor: 'left',
          xshift: 4,
          yanchor: 'bottom',
          font: { size: 13, color: tokens.muted },
        } as const),
  );
  return [...drawn, ...marks] as unknown as Layout['annotations'];
}

/** Every figure of a chart in one long table: series, kind, x, y, limits. */
function tableOf(chart: BenchChart, xLabel: string, yLabel: string, x: Conversion, y: Conversion): BenchFigure['table'] {
  const rows = [
    ...chart.lines.flatMap((line) =>
      line.x.map((value, i) => [line.name, 'line', x(value), y(line.y[i]), y(line.low?.[i]), y(line.high?.[i])] as const),
    ),
    ...chart.points.map((point) => [point.name, 'point', x(point.x), y(point.y), y(point.low), y(point.high)] as const),
    ...(chart.region
      ? chart.region.risk.flatMap((row, j) =>
          row.flatMap((risk, i) =>
            risk ? [[chart.region!.name, 'region', x(chart.region!.x[i]), y(chart.region!.y[j]), null, null] as const] : [],
          ),
        )
      : []),
  ];
  return ['series', 'kind', xLabel, yLabel, 'low', 'high'].map((header, i) => ({ header, values: rows.map((row) => row[i] ?? null) }));
}
