import type { Curves, Findings, Setup } from '@gezeit/contract';
import { dropOfLaw, dryAirDensity, fromSi, sectionLoss, viscosityPaS, type UnitName } from '@gezeit/core';
import type { Data, Layout } from 'plotly.js';
import { plotText } from '../../../shared/charts/plot-text.js';
import type { DrawnSetup } from '../../../model/programme-store.js';
import { withOpacity } from '../../../shared/charts/plotly-theme.js';
import type { Tokens } from '../../../shared/charts/theme.js';

/** What a section's drop over flow is drawn from. */
export interface RestrictionInput {
  section: string;
  curves: Curves['sections'];
  findings: Findings['restriction'];
  setups: ReadonlyMap<string, DrawnSetup>;
  unit: UnitName;
  tokens: Tokens;
}

/** The air at which drops are stated. */
const STATED = { viscosityPaS: viscosityPaS(25), densityKgM3: dryAirDensity(100_000, 25) };
const PREDICTED_POINTS = 40;

/** What the bench says of a section beside the car: estimated from its geometry, or its law on the flow bench. */
export interface BenchLaw {
  setup: string;
  source: 'geometry' | 'bench';
  flowKgS: number[];
  dropPa: number[];
}

/** Laws of the bench for a section, over the flow that was met in the car. */
export function benchLaws(section: string, setups: readonly Setup[], mostKgS: number): BenchLaw[] {
  return setups.flatMap(({ id, path }) => {
    const own = path?.find(({ name, car }) => name === section || car?.section === section);
    if (!own) return [];
    // What the car has measured is drawn already: beside it stands what was known without it.
    const source = own.bench ? 'bench' : 'geometry';
    const loss = sectionLoss({ ...own, source }, id, null);
    if ('missing' in loss) return [];
    const flowKgS = Array.from({ length: PREDICTED_POINTS }, (_, i) => (mostKgS * (i + 1)) / PREDICTED_POINTS);
    return [{ setup: id, source, flowKgS, dropPa: flowKgS.map((flow) => dropOfLaw(loss.law, flow / STATED.densityKgM3, STATED).dropPa) }];
  });
}

/** Drop over air mass flow: every used pull, the law through them, where it steps, and what the bench says. */
export function restrictionFigure(input: RestrictionInput, bench: readonly BenchLaw[]): { data: Data[]; layout: Partial<Layout> } {
  const { section, curves, findings, setups, unit, tokens } = input;
  const gS = (values: readonly number[]) => values.map((value) => value * 1000);
  const shown = (values: readonly number[]) => values.map((value) => fromSi(value, unit));
  const colourOf = (setup: string) => setups.get(setup)?.colour ?? tokens.ink;
  const points = curves.points
    .filter((entry) => entry.section === section)
    .map((entry): Data => ({
      type: 'scatter',
      mode: 'markers',
      x: gS(entry.flowKgS),
      y: shown(entry.dropPa),
      name: plotText(`${entry.setup} ${entry.pull}`),
      marker: { size: 3.5, color: withOpacity(colourOf(entry.setup), 0.35) },
      hoverinfo: 'skip',
    }));
  const laws = curves.laws
    .filter((entry) => entry.section === section)
    .map((entry): Data => ({
      type: 'scatter',
      mode: 'lines',
      x: gS(entry.flowKgS),
      y: shown(entry.dropPa),
      name: plotText(`${entry.setup}, law`),
      line: { color: colourOf(entry.setup), width: 2.2, dash: setups.get(entry.setup)?.dash === 'dash' ? 'dash' : 'solid' },
      hoverinfo: 'skip',
    }));
  const predicted = bench.map((entry): Data => ({
    type: 'scatter',
    mode: 'lines',
    x: gS(entry.flowKgS),
    y: shown(entry.dropPa),
    name: plotText(`${entry.setup}, ${entry.source === 'bench' ? 'flow bench' : 'estimated'}`),
    line: { color: colourOf(entry.setup), width: 1.2, dash: 'dot' },
    hoverinfo: 'skip',
  }));
  const steps = findings.flatMap(({ setup, section: own, step }) => (own === section && step ? [{ setup, step }] : []));
  const layout = {
    margin: { l: 56, r: 10, t: 8, b: 40 },
    hovermode: false,
    xaxis: { title: { text: 'air mass flow, g/s' }, rangemode: 'tozero' },
    yaxis: { title: { text: unit }, rangemode: 'tozero' },
    shapes: steps.map(({ setup, step }) => ({
      type: 'line',
      xref: 'x',
      x0: step.atFlowKgS * 1000,
      x1: step.atFlowKgS * 1000,
      yref: 'paper',
      y0: 0,
      y1: 1,
      line: { color: colourOf(setup), width: 1, dash: 'dashdot' },
    })),
    annotations: steps.map(({ setup, step }) => ({
      x: step.atFlowKgS * 1000,
      y: 0.02,
      xref: 'x',
      yref: 'paper',
      xanchor: 'left',
      yanchor: 'bottom',
      showarrow: false,
      text: ` ${plotText(setup)} changes at ${Math.round(step.atRpm)} rpm`,
      font: { size: 13, color: colourOf(setup) },
    })),
  };
  return { data: [...points, ...predicted, ...laws], layout: layout as unknown as Partial<Layout> };
}

/** Every point that is drawn, in the units of the chart, for CSV. */
export function restrictionTable({ section, curves, unit }: Pick<RestrictionInput, 'section' | 'curves' | 'unit'>) {
  const own = curves.points.filter((entry) => entry.section === section);
  return [
    { header: 'pull', values: own.flatMap(({ pull, flowKgS }) => flowKgS.map(() => pull)) },
    { header: 'setup', values: own.flatMap(({ setup, flowKgS }) => flowKgS.map(() => setup)) },
    { header: 'engine speed [rpm]', values: own.flatMap(({ engineSpeedRpm }) => engineSpeedRpm) },
    { header: 'air mass flow [g/s]', values: own.flatMap(({ flowKgS }) => flowKgS.map((value) => value * 1000)) },
    { header: `pressure drop [${unit}]`, values: own.flatMap(({ dropPa }) => dropPa.map((value) => fromSi(value, unit))) },
  ];
}
