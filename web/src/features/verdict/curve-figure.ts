import type { ChannelDifference, Curves, DifferenceCurve } from '@gezeit/contract';
import { channelWord } from '@gezeit/core';
import type { Data, Layout } from 'plotly.js';
import { plotText } from '../../shared/charts/plot-text.js';
import type { Tokens } from '../../shared/charts/theme.js';
import { withOpacity } from '../../shared/charts/plotly-theme.js';
import { drawn, type Show } from '../../shared/units/show.js';
import type { DrawnSetup } from '../../model/programme-store.js';
import { besideUnit, besideValue } from './beside-unit.js';

/** What the curve figure is drawn from. */
export interface CurveInput {
  curves: Curves;
  reference: DrawnSetup;
  candidate: DrawnSetup;
  difference: DifferenceCurve | null;
  /** The selected pull, drawn as a thin line over its setup's curve. */
  pull: string | null;
  /** The band that was asked about, and the part of it that was judged. */
  askedRpm: readonly [number, number];
  freeRpm: readonly [number, number];
  smallestPct: number;
  /** What stands in the lowest panel: torque, or a channel's difference. */
  beside: ChannelDifference | null;
  show: Show;
  tokens: Tokens;
  /** The window is narrow: there is no room for long words above the panels. */
  narrow: boolean;
}

const DOMAINS = { difference: [0.66, 1], power: [0.245, 0.6], torque: [0, 0.2] };

/** The difference, power and torque over one axis of engine speed, each with its band. The difference leads: it is what was asked. */
export function curveFigure(input: CurveInput): { data: Data[]; layout: Partial<Layout> } {
  const { tokens, show, askedRpm, freeRpm, smallestPct } = input;
  const data: Data[] = [];
  const annotations: object[] = [];
  for (const drawnSetup of [input.reference, input.candidate]) addSetup(data, annotations, input, drawnSetup);
  addPull(data, input);
  if (input.difference) addDifference(data, annotations, input.difference, input);
  if (input.beside) addBeside(data, annotations, input.beside, input);
  const [low, high] = freeRpm;
  const isCut = askedRpm[0] !== low || askedRpm[1] !== high;
  const across = (y: number, dash: 'solid' | 'dot', colour: string) => ({
    type: 'line',
    xref: 'paper',
    x0: 0,
    x1: 1,
    yref: 'y3',
    y0: y,
    y1: y,
    line: { color: colour, width: dash === 'solid' ? 1.4 : 1, dash },
  });
  const asked = `${askedRpm[0]} to ${askedRpm[1]} rpm`;
  annotations.push(
    besidePlot('left', 1, SECOND_LINE, `dotted: ±${smallestPct} %${input.narrow ? '' : ', the smallest that matters'}`, tokens.muted),
    besidePlot(
      'right',
      1,
      SECOND_LINE,
      isCut ? `free, ${Math.round(low)} to ${Math.round(high)}${input.narrow ? '' : ` (asked: ${asked})`}` : `asked, ${asked}`,
      tokens.green,
    ),
  );
  const shapes = [
    ...(isCut
      ? [
          {
            type: 'rect',
            xref: 'x',
            x0: askedRpm[0],
            x1: askedRpm[1],
            yref: 'paper',
            y0: 0,
            y1: 1,
            fillcolor: withOpacity(tokens.neutral, 0.08),
            line: { width: 0 },
            layer: 'below',
          },
        ]
      : []),
    {
      type: 'rect',
      xref: 'x',
      x0: low,
      x1: high,
      yref: 'paper',
      y0: 0,
      y1: 1,
      fillcolor: withOpacity(tokens.green, 0.08),
      line: { width: 0 },
      layer: 'below',
    },
    ...(input.difference?.real ?? []).map(({ fromRpm, toRpm, isLoss }) => ({
      type: 'rect',
      xref: 'x',
      x0: fromRpm,
      x1: toRpm,
      yref: 'y3 domain',
      y0: 0,
      y1: 0.05,
      fillcolor: isLoss ? tokens.brick : tokens.green,
      line: { width: 0 },
    })),
    across(0, 'solid', tokens.ink),
    across(smallestPct, 'dot', tokens.neutral),
    across(-smallestPct, 'dot', tokens.neutral),
  ];
  const layout = {
    margin: { l: 58, r: 12, t: 42, b: 38 },
    xaxis: { title: { text: 'engine speed, rpm' }, anchor: 'y2', tickformat: 'd' },
    yaxis: { title: { text: `power, ${show.units.power}` }, domain: DOMAINS.power },
    yaxis2: { title: { text: input.beside ? besideUnit(input.beside, show) : `torque, ${show.units.torque}` }, domain: DOMAINS.torque },
    yaxis3: { title: { text: 'difference, %' }, domain: DOMAINS.difference, zeroline: false },
    shapes,
    annotations,
  };
  return { data, layout: layout as unknown as Partial<Layout> };
}

/** A second line of text above a panel, px. */
const SECOND_LINE = 17;

/** A text above a panel at one of its ends: nothing is written over a curve. @param top of the panel, share of the height. */
function besidePlot(side: 'left' | 'right', top: number, yshift: number, text: string, colour: string): object {
  const place = { xref: 'paper', x: side === 'left' ? 0 : 1, xanchor: side, yref: 'paper', y: top, yanchor: 'bottom', yshift };
  return { ...place, text, showarrow: false, font: { size: 13, color: colour } };
}

function band(x: number[], low: (number | null)[], high: (number | null)[], yaxis: string, colour: string, opacity: number): Data[] {
  if (low.some((value) => value === null) || high.some((value) => value === null)) return [];
  const edge = { type: 'scatter', mode: 'lines', x, yaxis, line: { width: 0 }, hoverinfo: 'skip', showlegend: false };
  return [
    { ...edge, y: low },
    { ...edge, y: high, fill: 'tonexty', fillcolor: withOpacity(colour, opacity) },
  ] as Data[];
}

function addSetup(
  data: Data[],
  annotations: object[],
  { curves, show, reference, beside }: CurveInput,
  { setup, colour, dash }: DrawnSetup,
): void {
  const curve = curves.setups.find((entry) => entry.setup === setup.id);
  if (!curve) return;
  const x = curve.engineSpeedRpm;
  const convert = (values: (number | null)[], unit: 'power' | 'torque') =>
    values.some((value) => value === null) ? values : drawn(values as number[], show.units[unit]);
  const line = { color: colour, width: 2.2, dash };
  const power = drawn(curve.powerW, show.units.power);
  data.push(...band(x, convert(curve.powerLowW, 'power'), convert(curve.powerHighW, 'power'), 'y', colour, 0.18));
  data.push({
    type: 'scatter',
    mode: 'lines',
    x,
    y: power,
    name: plotText(`${setup.id} ${setup.name}`),
    line,
    hovertemplate: `%{y:.1f} ${show.units.power}`,
  });
  const side = setup.id === reference.setup.id ? 'left' : 'right';
  annotations.push(besidePlot(side, DOMAINS.power[1]!, 0, `<b>${plotText(setup.id)}</b> ${plotText(setup.name)}`, colour));
  if (beside) return;
  data.push(...band(x, convert(curve.torqueLowNm, 'torque'), convert(curve.torqueHighNm, 'torque'), 'y2', colour, 0.18));
  data.push({
    type: 'scatter',
    mode: 'lines',
    x,
    y: drawn(curve.torqueNm, show.units.torque),
    yaxis: 'y2',
    name: plotText(`${setup.id} torque`),
    line,
    hovertemplate: `%{y:.1f} ${show.units.torque}`,
  });
}

/** A channel's difference over the same axis, with the same two bands. */
function addBeside(
  data: Data[],
  annotations: object[],
  beside: ChannelDifference,
  { show, tokens, reference, candidate }: CurveInput,
): void {
  const convert = besideValue(beside, show);
  const shown = (values: readonly (number | null)[]) => values.map((value) => (value === null ? null : convert(value)));
  const x = beside.engineSpeedRpm;
  data.push(...band(x, shown(beside.wholeLow), shown(beside.wholeHigh), 'y2', tokens.neutral, 0.14));
  data.push(...band(x, shown(beside.low), shown(beside.high), 'y2', tokens.neutral, 0.25));
  data.push({
    type: 'scatter',
    mode: 'lines',
    x,
    y: shown(beside.value),
    yaxis: 'y2',
    name: plotText(channelWord(beside.key)),
    line: { color: tokens.ink, width: 2 },
    hovertemplate: `%{y:+.2f} ${besideUnit(beside, show)}`,
  } as Data);
  const text = `${channelWord(beside.key)}: ${candidate.setup.id} − ${reference.setup.id}, plain means`;
  annotations.push(besidePlot('left', DOMAINS.torque[1]!, 0, plotText(text), tokens.muted));
}

function addPull(data: Data[], { curves, pull, show, tokens, reference, candidate }: CurveInput): void {
  const curve = curves.pulls.find(({ id }) => id === pull);
  if (!curve || ![reference.setup.id, candidate.setup.id].includes(curve.setup)) return;
  const line = { color: tokens.ink, width: 1.4, dash: curve.used ? ('solid' as const) : ('dot' as const) };
  data.push({
    type: 'scatter',
    mode: 'lines',
    x: curve.engineSpeedRpm,
    y: drawn(curve.powerW, show.units.power),
    name: plotText(`pull ${curve.id}`),
    line,
    hovertemplate: `%{y:.1f} ${show.units.power}`,
  });
}

function addDifference(data: Data[], annotations: object[], difference: DifferenceCurve, { tokens, narrow }: CurveInput): void {
  const x = difference.engineSpeedRpm;
  data.push(...band(x, difference.wholeLowPct, difference.wholeHighPct, 'y3', tokens.green, 0.14));
  data.push(...band(x, difference.lowPct, difference.highPct, 'y3', tokens.green, 0.25));
  data.push({
    type: 'scatter',
    mode: 'lines',
    x,
    y: difference.pct,
    yaxis: 'y3',
    name: 'difference',
    line: { color: tokens.green, width: 2.2 },
    hovertemplate: '%{y:+.1f} %',
  });
  const start = difference.of === 'ownStart' ? 'own start' : 'same start';
  const bands = narrow ? 'dark a speed, pale all' : 'dark at each speed by itself, pale the whole curve';
  const text = `${difference.candidate} − ${difference.reference}, ${start}; 95 %: ${bands}`;
  annotations.push(besidePlot('left', 1, 0, plotText(text), tokens.muted));
}
