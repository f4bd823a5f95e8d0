import type { LogView, PullDetail, PullFinding } from '@gezeit/contract';
import { dimensionOf, QUANTITY_UNITS, unitFromText, type UnitName } from '@gezeit/core';
import type { Data, Layout } from 'plotly.js';
import type { Tokens } from '../../shared/charts/theme.js';
import type { TraceSamples } from '../../shared/api/traces.js';
import { withOpacity } from '../../shared/charts/plotly-theme.js';
import { drawn, type Show } from '../../shared/units/show.js';

type Column = LogView['columns'][number];

/** The full-throttle window of a pull on a log's own clock, s. */
export function windowOn(log: LogView, finding: PullFinding | undefined, detail: PullDetail | undefined): [number, number] | null {
  const alignment = detail?.alignments.find(({ file }) => file === log.file);
  if (!alignment || finding?.startS == null || finding.endS == null) return null;
  return [finding.startS + alignment.offsetS, finding.endS + alignment.offsetS];
}

/** The unit in which a column is drawn. */
export function columnUnit(column: Column, show: Show): UnitName | null {
  if (!column.quantity) return null;
  const { dimension, implied } = QUANTITY_UNITS[column.quantity];
  const own = column.unitText ? unitFromText(column.unitText) : null;
  const fallback = own && dimensionOf(own) === dimension ? own : implied;
  const unit = show.unitFor(dimension, fallback ?? 's');
  return dimensionOf(unit) === dimension ? unit : fallback;
}

/** A panel of the trace chart: columns that share a unit. */
export interface Panel {
  unit: string;
  columns: Column[];
}

/** At most three panels, by unit, in the order of the columns. */
export function panelsOf(columns: Column[], show: Show): Panel[] {
  const panels: Panel[] = [];
  for (const column of columns) {
    const unit = columnUnit(column, show) ?? column.unitText ?? 'as written';
    const known = panels.find((panel) => panel.unit === unit);
    if (known) known.columns.push(column);
    else if (panels.length < 3) panels.push({ unit, columns: [column] });
  }
  return panels;
}

const LINE_PATTERNS = ['solid', 'dash', 'dot', 'dashdot'] as const;

/** Data and layout of the traces of one log, panels one above the other, the pull's window shaded. */
export function traceFigure(
  panels: Panel[],
  samples: ReadonlyMap<string, TraceSamples>,
  window: [number, number] | null,
  show: Show,
  tokens: Tokens,
): { data: Data[]; layout: Partial<Layout> } {
  const count = Math.max(1, panels.length);
  const data: Data[] = [];
  const layout: Record<string, unknown> = {
    xaxis: { title: { text: 'logger clock, s' }, anchor: count === 1 ? 'y' : `y${count}` },
    shapes: [],
    annotations: [],
  };
  panels.forEach((panel, index) => {
    const axis = index === 0 ? 'y' : `y${index + 1}`;
    layout[`yaxis${index === 0 ? '' : index + 1}`] = {
      title: { text: panel.unit },
      domain: [1 - (index + 1) / count + 0.025, 1 - index / count - 0.025],
    };
    panel.columns.forEach((column, k) => {
      const trace = samples.get(column.id);
      if (!trace) return;
      const unit = columnUnit(column, show);
      const y = unit ? drawn(trace.values, unit) : Array.from(trace.values);
      const name = column.section ? `${column.name}` : column.name;
      data.push({
        type: 'scatter',
        mode: 'lines',
        x: Array.from(trace.timeS),
        y,
        name,
        yaxis: axis as 'y',
        line: { color: k % 2 === 0 ? tokens.green : tokens.ink, width: 1.6, dash: LINE_PATTERNS[k % 4] },
        hovertemplate: `%{y:.4~g} ${panel.unit}`,
      });
      (layout['annotations'] as object[]).push({
        x: 1,
        xref: 'paper',
        xanchor: 'right',
        y: y.at(-1) ?? 0,
        yref: axis,
        yanchor: 'bottom',
        yshift: 13 * k,
        text: name,
        showarrow: false,
        font: { size: 13, color: k % 2 === 0 ? tokens.green : tokens.ink },
      });
    });
  });
  if (window) {
    const [from, to] = window;
    (layout['shapes'] as object[]).push({
      type: 'rect',
      xref: 'x',
      yref: 'paper',
      x0: from,
      x1: to,
      y0: 0,
      y1: 1,
      fillcolor: withOpacity(tokens.green, 0.12),
      line: { width: 1, color: tokens.green, dash: 'dot' },
      layer: 'below',
    });
    (layout['annotations'] as object[]).push({
      x: from,
      xanchor: 'left',
      yref: 'paper',
      y: 1,
      yanchor: 'bottom',
      text: 'full throttle',
      showarrow: false,
      font: { size: 13, color: tokens.muted },
    });
    layout['margin'] = { l: 58, r: 12, t: 22, b: 38 };
  }
  return { data, layout: layout as Partial<Layout> };
}
