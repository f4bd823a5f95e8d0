import type { Comparison, LevelledPull } from '@gezeit/contract';
import { CAUSE_WORDS, signed } from '@gezeit/core';
import type { Data, Layout } from 'plotly.js';
import { plotText } from '../../shared/charts/plot-text.js';
import type { Tokens } from '../../shared/charts/theme.js';
import type { DrawnSetup } from '../../model/programme-store.js';
import { habitMarks } from './habit-marks.js';

/** What the way from the pulls to the number is drawn from. */
export interface LevellingInput {
  comparison: Comparison;
  /** Pulls of the day in order of time, by id. */
  order: readonly string[];
  kinds: ReadonlyMap<string, string>;
  setups: ReadonlyMap<string, DrawnSetup>;
  selected: string | null;
  tokens: Tokens;
  /** The window is narrow: what stands beside the pulls has a larger share of it. */
  narrow: boolean;
}

const TAKEN = ['heatState', 'drift', 'learning', 'oil'] as const;
const DASHES = { heatState: 'dot', drift: 'solid', learning: 'dash', oil: 'dashdot' } as const;
/** A line that never leaves zero by so much is left out, per cent. */
const WORTH_A_LINE_PCT = 0.05;
const DOMAINS = { pulls: [0.36, 1], taken: [0, 0.27] };
/** More places than these get a number each only where there is room. */
const MOST_NARROW_TICKS = 8;
const PLOT_END = { narrow: 0.52, wide: 0.7 };

/** Every pull as run and levelled, what was taken out of them, and beside it what habits would have said. */
export function levellingFigure(input: LevellingInput): { data: Data[]; layout: Partial<Layout> } {
  const { comparison, tokens, order } = input;
  const pulls = comparison.levelling!.pulls;
  const x = ({ pull }: LevelledPull) => order.indexOf(pull);
  const taken = takenLines(input);
  const data: Data[] = [...takenStems(input), ...pullMarks(input), ...taken.data, ...habitMarks(comparison, tokens)];
  const shown = pulls.map(x).sort((a, b) => a - b);
  const setupNames = [comparison.reference, comparison.candidate];
  const plotEnd = input.narrow ? PLOT_END.narrow : PLOT_END.wide;
  const at = pulls.find(({ pull }) => pull === input.selected);
  const layout = {
    margin: { l: 52, r: 8, t: 22, b: 30 },
    hovermode: 'closest',
    xaxis: {
      domain: [0, plotEnd],
      anchor: 'y2',
      tickmode: 'array',
      tickvals: shown,
      ticktext: shown.map((place, i) => (input.narrow && shown.length > MOST_NARROW_TICKS && i % 2 === 1 ? '' : `${place + 1}`)),
      tickangle: 0,
      range: [shown[0]! - 0.6, shown.at(-1)! + 0.6],
      showgrid: false,
    },
    yaxis: { domain: DOMAINS.pulls, title: { text: `% of ${plotText(comparison.reference)} as run` }, zeroline: false },
    yaxis2: { domain: DOMAINS.taken, title: { text: 'taken out, %' }, zeroline: true, nticks: 4 },
    xaxis2: {
      domain: [plotEnd + 0.06, 1],
      anchor: 'y3',
      range: [-0.3, 3.4],
      showgrid: false,
      showticklabels: false,
      ticks: '',
      zeroline: false,
    },
    yaxis3: { domain: [DOMAINS.taken[0]!, 1], anchor: 'x2', showgrid: false, zeroline: true, ticks: 'outside', nticks: 5 },
    shapes: at
      ? [{ type: 'line', xref: 'x', x0: x(at), x1: x(at), yref: 'paper', y0: 0, y1: 1, line: { color: tokens.green, width: 1.2 } }]
      : [],
    annotations: [
      text(
        0,
        1,
        'left',
        `<b>${setupNames.map(plotText).join('</b>, <b>')}</b>: ${input.narrow ? 'hollow as run' : 'hollow as run, filled levelled'}`,
        tokens.muted,
      ),
      text(0, DOMAINS.taken[1]!, 'left', taken.legend, tokens.muted),
      text(1, 1, 'right', plotText(`${comparison.candidate} − ${comparison.reference}, %`), tokens.muted),
    ],
  };
  return { data, layout: layout as unknown as Partial<Layout> };
}

function text(x: number, y: number, xanchor: string, words: string, colour: string): object {
  return {
    xref: 'paper',
    yref: 'paper',
    x,
    y,
    xanchor,
    yanchor: 'bottom',
    text: words,
    showarrow: false,
    font: { size: 13, color: colour },
  };
}

/** From each pull as run to the same pull levelled. */
function takenStems({ comparison, order, tokens }: LevellingInput): Data[] {
  const [x, y]: [(number | null)[], (number | null)[]] = [[], []];
  for (const { pull, asRunPct, levelledPct } of comparison.levelling!.pulls) {
    if (levelledPct === null) continue;
    x.push(order.indexOf(pull), order.indexOf(pull), null);
    y.push(asRunPct, levelledPct, null);
  }
  return [{ type: 'scatter', mode: 'lines', x, y, line: { color: tokens.neutral, width: 1.2 }, hoverinfo: 'skip' } as Data];
}

function pullMarks({ comparison, order, kinds, setups, tokens }: LevellingInput): Data[] {
  return [comparison.reference, comparison.candidate].flatMap((setup): Data[] => {
    const own = comparison.levelling!.pulls.filter((pull) => pull.setup === setup);
    const used = own.filter(({ levelledPct }) => levelledPct !== null);
    const out = own.filter(({ levelledPct }) => levelledPct === null);
    const colour = setups.get(setup)?.colour ?? tokens.ink;
    const place = ({ pull }: LevelledPull) => order.indexOf(pull);
    const marks = (
      name: string,
      pulls: LevelledPull[],
      y: (pull: LevelledPull) => number,
      marker: object,
      hover: (pull: LevelledPull) => string,
    ): Data =>
      ({
        name: plotText(`${setup} ${name}`),
        type: 'scatter',
        mode: 'markers',
        x: pulls.map(place),
        y: pulls.map(y),
        customdata: pulls.map(({ pull }) => pull),
        text: pulls.map(hover),
        hovertemplate: '%{text}<extra></extra>',
        marker,
      }) as Data;
    return [
      marks(
        'not counted',
        out,
        ({ asRunPct }) => asRunPct,
        {
          color: colour,
          size: 8,
          opacity: 0.4,
          symbol: out.map(({ pull }) => (kinds.get(pull) === 'measured' ? 'x-thin-open' : 'circle-open')),
        },
        (pull) =>
          `${plotText(`${pull.pull}, ${pull.setup}`)}: ${signed(pull.asRunPct)} % as run, ${kinds.get(pull.pull) === 'measured' ? 'left out' : (kinds.get(pull.pull) ?? '')}`,
      ),
      marks('as run', used, ({ asRunPct }) => asRunPct, { color: tokens.ground, size: 11, line: { color: colour, width: 2 } }, takenText),
      marks(
        'levelled',
        used,
        ({ levelledPct }) => levelledPct!,
        { color: colour, size: 11, opacity: used.map(({ badChance }) => Math.max(0.25, 1 - (badChance ?? 0))) },
        takenText,
      ),
    ];
  });
}

/** What was taken out of a pull, and by what. */
function takenText({ pull, setup, asRunPct, levelledPct, takenPct, badChance }: LevelledPull): string {
  const rows = TAKEN.flatMap((cause) => {
    const pct = takenPct[cause];
    return pct === undefined ? [] : [`${CAUSE_WORDS[cause].label} ${signed(pct, 2)} %`];
  });
  const bad = badChance !== null && badChance >= 0.05 ? `<br>bad with a chance of ${Math.round(100 * badChance)} %` : '';
  return `<b>${plotText(pull)}</b>, ${plotText(setup)}: as run ${signed(asRunPct, 2)} %<br>taken out: ${rows.join(', ')}<br>levelled ${signed(levelledPct!, 2)} %${bad}`;
}

/** The fitted heat, drift, learning and oil through the used pulls. */
function takenLines({ comparison, order, tokens }: LevellingInput): { data: Data[]; legend: string } {
  const used = comparison.levelling!.pulls.filter(({ levelledPct }) => levelledPct !== null);
  const names: string[] = [];
  const data = TAKEN.flatMap((cause): Data[] => {
    const y = used.map(({ takenPct }) => takenPct[cause] ?? 0);
    if (Math.max(...y.map(Math.abs)) < WORTH_A_LINE_PCT) return [];
    names.push(`${CAUSE_WORDS[cause].label} ${{ dot: '⋯', solid: '—', dash: '– –', dashdot: '– ·' }[DASHES[cause]]}`);
    return [
      {
        type: 'scatter',
        mode: 'lines+markers',
        x: used.map(({ pull }) => order.indexOf(pull)),
        y,
        yaxis: 'y2',
        line: { color: tokens.muted, width: 1.5, dash: DASHES[cause] },
        marker: { color: tokens.muted, size: 4 },
        customdata: used.map(({ pull }) => pull),
        text: used.map(({ pull }) => plotText(pull)),
        hovertemplate: `%{text}: ${CAUSE_WORDS[cause].label} %{y:+.2f} %<extra></extra>`,
      } as Data,
    ];
  });
  return { data, legend: names.length > 0 ? names.join('   ') : 'nothing worth a line' };
}

/** The figures behind it, for CSV. */
export function levellingTable({ comparison, kinds }: LevellingInput): { header: string; values: (number | string | null)[] }[] {
  const { pulls } = comparison.levelling!;
  return [
    { header: 'pull', values: pulls.map(({ pull }) => pull) },
    { header: 'setup', values: pulls.map(({ setup }) => setup) },
    { header: 'kind', values: pulls.map(({ pull }) => kinds.get(pull) ?? '') },
    { header: 'as run [%]', values: pulls.map(({ asRunPct }) => asRunPct) },
    ...TAKEN.map((cause) => ({ header: `${CAUSE_WORDS[cause].label} [%]`, values: pulls.map(({ takenPct }) => takenPct[cause] ?? null) })),
    { header: 'levelled [%]', values: pulls.map(({ levelledPct }) => levelledPct) },
    { header: 'chance of being bad', values: pulls.map(({ badChance }) => badChance) },
  ];
}
