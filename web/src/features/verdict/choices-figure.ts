import type { Choice, ComparisonChoices } from '@gezeit/contract';
import { choiceText, READS_AS, signed, type Formatter } from '@gezeit/core';
import type { Data, Layout } from 'plotly.js';
import { plotText } from '../../shared/charts/plot-text.js';
import type { Tokens } from '../../shared/charts/theme.js';

/** What the ordered choices are drawn from. */
export interface ChoicesInput {
  own: ComparisonChoices;
  words: Formatter;
  tokens: Tokens;
}

type Tried = Choice & { estimate: NonNullable<Choice['estimate']> };
const triedOf = ({ choices }: ComparisonChoices) =>
  choices.filter((choice): choice is Tried => choice.estimate !== null).sort((a, b) => a.estimate.pct - b.estimate.pct);

const told = ({ changes }: Choice, words: Formatter) => changes.map((change) => choiceText(change, words)).join(', ');

/** Every choice as an interval, from the least to the greatest; those that read otherwise in ink, what was chosen in green. */
export function choicesFigure({ own, words, tokens }: ChoicesInput): { data: Data[]; layout: Partial<Layout> } {
  const tried = triedOf(own);
  const base = own.base!;
  const place = tried.filter(({ estimate }) => estimate.pct < base.estimate.pct).length;
  const marks = (name: string, which: readonly { choice: Tried; at: number }[], colour: string, width: number): Data =>
    ({
      name,
      type: 'scatter',
      mode: 'markers',
      x: which.map(({ at }) => at),
      y: which.map(({ choice }) => choice.estimate.pct),
      error_y: {
        type: 'data',
        symmetric: false,
        array: which.map(({ choice: { estimate } }) => estimate.high - estimate.pct),
        arrayminus: which.map(({ choice: { estimate } }) => estimate.pct - estimate.low),
        color: colour,
        thickness: width,
        width: 0,
      },
      marker: { color: colour, size: 3 + width },
      text: which.map(
        ({ choice }) =>
          `${plotText(told(choice, words))}<br>${signed(choice.estimate.pct)} % (${signed(choice.estimate.low)} to ${signed(choice.estimate.high)}): ${READS_AS[choice.answer!]}`,
      ),
      hovertemplate: '%{text}<extra></extra>',
    }) as Data;
  const placed = tried.map((choice, i) => ({ choice, at: i < place ? i : i + 1 }));
  const chosen: Tried = { changes: [], estimate: base.estimate, answer: base.answer };
  const across = (y: number, dash: 'solid' | 'dot') => ({
    type: 'line',
    xref: 'paper',
    x0: 0,
    x1: 1,
    yref: 'y',
    y0: y,
    y1: y,
    line: { color: dash === 'solid' ? tokens.ink : tokens.neutral, width: 1, dash },
  });
  const layout = {
    margin: { l: 52, r: 12, t: 8, b: 24 },
    hovermode: 'closest',
    xaxis: { showticklabels: false, ticks: '', showgrid: false, zeroline: false, title: { text: 'every other choice, in order' } },
    yaxis: { title: { text: 'difference, %' }, zeroline: false },
    shapes: [across(0, 'solid'), across(own.smallestPct, 'dot'), across(-own.smallestPct, 'dot')],
  };
  return {
    data: [
      marks(
        'reads the same',
        placed.filter(({ choice }) => choice.answer === base.answer),
        tokens.neutral,
        0.8,
      ),
      marks(
        'reads otherwise',
        placed.filter(({ choice }) => choice.answer !== base.answer),
        tokens.ink,
        2.2,
      ),
      marks('chosen', [{ choice: chosen, at: place }], own.withheld ? tokens.muted : tokens.green, 4),
    ],
    layout: layout as unknown as Partial<Layout>,
  };
}

/** The figures behind it, for CSV. */
export function choicesTable({ own, words }: ChoicesInput): { header: string; values: (number | string | null)[] }[] {
  return [
    { header: 'chosen otherwise', values: own.choices.map((choice) => told(choice, words)) },
    { header: 'difference [%]', values: own.choices.map(({ estimate }) => estimate?.pct ?? null) },
    { header: 'low [%]', values: own.choices.map(({ estimate }) => estimate?.low ?? null) },
    { header: 'high [%]', values: own.choices.map(({ estimate }) => estimate?.high ?? null) },
    { header: 'reads as', values: own.choices.map(({ answer }) => (answer ? READS_AS[answer] : 'nothing')) },
  ];
}
