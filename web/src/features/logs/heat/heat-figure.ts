import type { Findings, PullHeat, Tide } from '@gezeit/contract';
import { fromSi } from '@gezeit/core';
import type { Data, Layout } from 'plotly.js';
import { plotText } from '../../../shared/charts/plot-text.js';
import { withOpacity } from '../../../shared/charts/plotly-theme.js';
import type { Tokens } from '../../../shared/charts/theme.js';
import type { Show } from '../../../shared/units/show.js';
import type { DrawnSetup } from '../../../model/programme-store.js';

/** What the heat of the pulls is drawn from. */
export interface HeatInput {
  pulls: readonly Findings['pulls'][number][];
  order: Tide['pulls'];
  setups: ReadonlyMap<string, DrawnSetup>;
  selected: string | null;
  show: Show;
  tokens: Tokens;
}

/** Each pull's intake air above ambient, from the start to the end of its sweep, in the order of the day. */
export function heatFigure({ pulls, order, setups, selected, show, tokens }: HeatInput): { data: Data[]; layout: Partial<Layout> } {
  const drawn = heated(pulls, order);
  const byPull = (id: string) => drawn.findIndex((entry) => entry.id === id);
  const data = [...new Set(drawn.map(({ setup }) => setup))].flatMap((setup): Data[] => {
    const own = drawn.filter((entry) => entry.setup === setup);
    const colour = setups.get(setup)?.colour ?? tokens.ink;
    const faded = own.map(({ used }) => withOpacity(colour, used ? 1 : 0.4));
    const marks = (values: number[], filled: boolean): Data => ({
      type: 'scatter',
      mode: 'markers',
      x: own.map(({ id }) => byPull(id)),
      y: values,
      customdata: own.map(({ id }) => id),
      name: plotText(`${setup} ${filled ? 'end' : 'start'}`),
      marker: { size: 8, color: filled ? faded : tokens.ground, line: { width: 1.6, color: faded } },
      hoverinfo: 'none',
    });
    const stems: Data = {
      type: 'scatter',
      mode: 'lines',
      x: own.flatMap(({ id }) => [byPull(id), byPull(id), null]),
      y: own.flatMap(({ startK, endK }) => [show.differenceOf(startK), show.differenceOf(endK), null]),
      line: { color: colour, width: 2 },
      name: plotText(`${setup} rise`),
      hoverinfo: 'skip',
    };
    return [
      stems,
      marks(
        own.map(({ startK }) => show.differenceOf(startK)),
        false,
      ),
      marks(
        own.map(({ endK }) => show.differenceOf(endK)),
        true,
      ),
    ];
  });
  const at = selected === null ? -1 : byPull(selected);
  const layout = {
    margin: { l: 52, r: 8, t: 8, b: 30 },
    hovermode: 'closest',
    xaxis: {
      tickmode: 'array',
      tickvals: drawn.map((_, i) => i),
      ticktext: drawn.map(({ id }) => plotText(id)),
      range: [-0.6, drawn.length - 0.4],
      showgrid: false,
    },
    yaxis: { title: { text: show.differenceUnit }, rangemode: 'tozero' },
    shapes:
      at >= 0 ? [{ type: 'line', xref: 'x', x0: at, x1: at, yref: 'paper', y0: 0, y1: 1, line: { color: tokens.green, width: 1.2 } }] : [],
  };
  return { data, layout: layout as unknown as Partial<Layout> };
}

/** Pulls of which the heat above ambient is known, in the order of the day. */
function heated(pulls: HeatInput['pulls'], order: Tide['pulls']) {
  return order.flatMap(({ id, kind }) => {
    const pull = pulls.find((entry) => entry.id === id);
    const heat = pull?.heat;
    if (!pull || heat?.startAboveAmbientK == null) return [];
    return [
      {
        id,
        setup: pull.setup,
        startK: heat.startAboveAmbientK,
        endK: heat.startAboveAmbientK + heat.riseK,
        used: pull.status === 'used' || kind !== 'measured',
      },
    ];
  });
}

/** The figures of every pull, in the units of the chart, for CSV. */
export function heatTable({ pulls, show }: Pick<HeatInput, 'pulls' | 'show'>): { header: string; values: (number | string | null)[] }[] {
  const own = pulls.flatMap(({ id, setup, heat }) => (heat ? [{ id, setup, heat }] : []));
  const kelvin = (of: (heat: PullHeat) => number | null) =>
    own.map(({ heat }) => {
      const value = of(heat);
      return value === null ? null : show.differenceOf(value);
    });
  const celsius = (of: (heat: PullHeat) => number) => own.map(({ heat }) => fromSi(of(heat), show.units.temperature));
  const unit = show.differenceUnit;
  return [
    { header: 'pull', values: own.map(({ id }) => id) },
    { header: 'setup', values: own.map(({ setup }) => setup) },
    { header: `start [${show.units.temperature}]`, values: celsius(({ startC }) => startC) },
    { header: `peak [${show.units.temperature}]`, values: celsius(({ peakC }) => peakC) },
    { header: `rise [${unit}]`, values: kelvin(({ riseK }) => riseK) },
    { header: `rise [${unit}/s]`, values: kelvin(({ risePerS }) => risePerS) },
    { header: `rise [${unit}/kJ at the wheel]`, values: kelvin(({ risePerWheelKJ }) => risePerWheelKJ) },
    { header: `start above ambient [${unit}]`, values: kelvin(({ startAboveAmbientK }) => startAboveAmbientK) },
    { header: 'recovery [s]', values: own.map(({ heat }) => heat.recovery?.tauS ?? null) },
    { header: 'recovery low [s]', values: own.map(({ heat }) => heat.recovery?.lowS ?? null) },
    { header: 'recovery high [s]', values: own.map(({ heat }) => heat.recovery?.highS ?? null) },
  ];
}
