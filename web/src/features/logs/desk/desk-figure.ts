import { relationOf, seriesAt, type Relation } from '@gezeit/core';
import type { Data, Layout } from 'plotly.js';
import { plotText } from '../../../shared/charts/plot-text.js';
import { withOpacity } from '../../../shared/charts/plotly-theme.js';
import type { Tokens } from '../../../shared/charts/theme.js';
import type { CheckMark } from './check-marks.js';
import { byUnit, panelsOf, type DeskLine } from './desk-lines.js';

/** How high a panel is at least, and all of them together, px. */
const PANEL_PX = 96;
const LEAST_PX = 360;
const AXIS_PX = 46;

export interface DeskFigure {
  data: Data[];
  layout: Partial<Layout>;
  height: number;
}

interface Drawn {
  lines: readonly DeskLine[];
  /** What stands under the axis. */
  title: string;
  span: readonly [number, number] | null;
  /** Ends of the full throttle of each pull, on the axis; none where it is not one of time. */
  windows: readonly { endsAt: number }[];
  isDifference: boolean;
  /** Where the checks found something, on the axis of time. */
  marks: readonly CheckMark[];
  tokens: Tokens;
}

/** Lines over one axis, each unit a panel of its own, one above the other. */
export function linesFigure({ lines, title, span, windows, isDifference, marks, tokens }: Drawn): DeskFigure {
  const panels = panelsOf(lines);
  const count = Math.max(1, panels.length);
  const height = Math.max(LEAST_PX, count * PANEL_PX + AXIS_PX);
  const layout: Record<string, unknown> = {
    // Said in any case: left to itself an axis that was first drawn empty may stay as it was.
    xaxis: { title: { text: plotText(title) }, anchor: count === 1 ? 'y' : `y${count}`, range: [...(span ?? extentOf(lines))] },
    shapes: [] as object[],
    hovermode: false,
    margin: { l: 64, r: 14, t: 8, b: 40 },
  };
  const data = panels.flatMap((panel, index): Data[] => {
    const axis = index === 0 ? 'y' : `y${index + 1}`;
    layout[`yaxis${index === 0 ? '' : index + 1}`] = {
      title: { text: plotText(isDifference ? `Δ ${panel.unit}` : panel.unit) },
      domain: [1 - (index + 1) / count + 0.02, 1 - index / count - 0.02],
      ...(span ? rangeWithin(panel.lines, span) : {}),
      zeroline: isDifference,
      ...(isDifference ? { zerolinecolor: tokens.neutral } : {}),
    };
    return panel.lines.map((line) => ({
      type: 'scatter',
      mode: 'lines',
      x: line.series.at,
      y: line.series.values,
      name: plotText(`${line.pull} ${line.label}`),
      yaxis: axis as 'y',
      connectgaps: false,
      line: { color: line.colour, width: 1.6, dash: line.dash },
      opacity: line.opacity,
    }));
  });
  panels.forEach((panel, index) => {
    for (const { fromS, toS } of marksOn(panel.lines, marks))
      (layout['shapes'] as object[]).push({
        type: 'rect',
        xref: 'x',
        yref: `y${index === 0 ? '' : index + 1} domain`,
        x0: fromS,
        x1: toS,
        y0: 0,
        y1: 1,
        fillcolor: withOpacity(tokens.amber, 0.28),
        line: { width: 1, color: tokens.amber },
        layer: 'below',
      });
  });
  const longest = Math.max(...windows.map(({ endsAt }) => endsAt));
  if (Number.isFinite(longest))
    (layout['shapes'] as object[]).push({
      type: 'rect',
      xref: 'x',
      yref: 'paper',
      x0: 0,
      x1: longest,
      y0: 0,
      y1: 1,
      fillcolor: withOpacity(tokens.green, 0.1),
      line: { width: 1, color: tokens.green, dash: 'dot' },
      layer: 'below',
    });
  return { data, layout: layout as Partial<Layout>, height };
}

/** Marks of which a panel draws the channel of the pull. */
const marksOn = (lines: readonly DeskLine[], marks: readonly CheckMark[]) =>
  marks.filter(({ pull, channel }) => lines.some((line) => line.pull === pull && line.checkedAs === channel));

/** From where to where lines reach on their axis. */
function extentOf(lines: readonly DeskLine[]): [number, number] {
  const ends = lines.flatMap(({ series: { at } }) => (at.length > 0 ? [at[0]!, at.at(-1)!] : []));
  return ends.length > 0 ? [Math.min(...ends), Math.max(...ends)] : [0, 1];
}

/** The values that are seen between two places decide how far a panel reaches. */
function rangeWithin(lines: readonly DeskLine[], [from, to]: readonly [number, number]): { range?: [number, number] } {
  let [low, high] = [Infinity, -Infinity];
  for (const { series } of lines) {
    for (const value of seriesAt(series, [from, to]))
      if (Number.isFinite(value)) [low, high] = [Math.min(low, value), Math.max(high, value)];
    for (let i = 0; i < series.at.length; i += 1) {
      if (series.at[i]! < from || series.at[i]! > to) continue;
      low = Math.min(low, series.values[i]!);
      high = Math.max(high, series.values[i]!);
    }
  }
  if (!(high >= low)) return {};
  const room = 0.06 * (high - low || Math.abs(high) || 1);
  return { range: [low - room, high + room] };
}

/** A line and what it is drawn against, with the straight line through them. */
export interface DeskRelation {
  line: DeskLine;
  relation: Relation;
}

/** Each line against another channel of its own pull, at the same moments. */
export function relationsOf(lines: readonly DeskLine[], against: readonly DeskLine[]): DeskRelation[] {
  return lines.flatMap((line) => {
    const other = against.find(({ pull }) => pull === line.pull);
    return other ? [{ line, relation: relationOf(line.series, other.series) }] : [];
  });
}

/** Points of every line against the other channel, and the straight lines through them. */
export function relationFigure(
  relations: readonly DeskRelation[],
  title: string,
  span: readonly [number, number] | null,
  tokens: Tokens,
): DeskFigure {
  const panels = byUnit(relations, ({ line }) => line.unit);
  const count = Math.max(1, panels.length);
  const height = Math.max(LEAST_PX, count * 1.6 * PANEL_PX + AXIS_PX);
  const layout: Record<string, unknown> = {
    xaxis: { title: { text: plotText(title) }, anchor: count === 1 ? 'y' : `y${count}`, ...(span ? { range: [...span] } : {}) },
    hovermode: false,
    margin: { l: 64, r: 14, t: 8, b: 40 },
  };
  const data = panels.flatMap(([unit, own], index): Data[] => {
    const axis = (index === 0 ? 'y' : `y${index + 1}`) as 'y';
    layout[`yaxis${index === 0 ? '' : index + 1}`] = {
      title: { text: plotText(unit) },
      domain: [1 - (index + 1) / count + 0.02, 1 - index / count - 0.02],
    };
    return own.flatMap(({ line, relation: { x, y, line: fit } }): Data[] => {
      const points: Data = {
        type: 'scatter',
        mode: 'markers',
        x,
        y,
        name: plotText(`${line.pull} ${line.label}`),
        yaxis: axis,
        marker: { color: withOpacity(line.colour, 0.45), size: 4 },
      };
      if (!fit) return [points];
      const ends = [x.reduce((a, b) => Math.min(a, b)), x.reduce((a, b) => Math.max(a, b))];
      return [
        points,
        {
          type: 'scatter',
          mode: 'lines',
          x: ends,
          y: ends.map((at) => fit.intercept + fit.slope * at),
          name: plotText(`${line.pull} ${line.label}, fitted`),
          yaxis: axis,
          line: { color: line.colour === tokens.ink ? tokens.green : line.colour, width: 2, dash: line.dash },
        },
      ];
    });
  });
  return { data, layout: layout as Partial<Layout>, height };
}
