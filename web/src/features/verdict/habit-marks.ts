import type { Comparison } from '@gezeit/contract';
import { HABIT_WORDS, isPowerWithheld, signed } from '@gezeit/core';
import type { Data } from 'plotly.js';
import type { Tokens } from '../../shared/charts/theme.js';

/** What the habits would have said, beside what is levelled with its interval. */
export function habitMarks(comparison: Comparison, tokens: Tokens): Data[] {
  // What is withheld leads nowhere: its figure stands without the green.
  const colour = isPowerWithheld(comparison) ? tokens.neutral : tokens.green;
  const { levelling, levelled, ownStart, leading } = comparison;
  const led = leading === 'ownStart' ? ownStart : levelled;
  const habits = levelling!.habits;
  const marks: Data = {
    type: 'scatter',
    mode: 'text+markers',
    x: habits.map(() => 0.9),
    y: spread(habits.map(({ pct }) => pct)),
    xaxis: 'x2',
    yaxis: 'y3',
    marker: { symbol: 'line-ew-open', size: 10, color: tokens.neutral, line: { width: 2 } },
    text: habits.map(({ code, pct }) => ` ${code} ${signed(pct)}`),
    textposition: 'middle right',
    textfont: { size: 13, color: tokens.muted },
    hovertext: habits.map(({ code, pct }) => `${HABIT_WORDS[code]}: ${signed(pct, 2)} %`),
    hoverinfo: 'text',
  } as Data;
  if (!led) return [marks];
  const verdict: Data = {
    type: 'scatter',
    mode: 'markers',
    x: [0.1],
    y: [led.pct],
    xaxis: 'x2',
    yaxis: 'y3',
    error_y: {
      type: 'data',
      symmetric: false,
      array: [led.high - led.pct],
      arrayminus: [led.pct - led.low],
      color: colour,
      thickness: 4,
      width: 0,
    },
    marker: { color: colour, size: 11 },
    hovertext: [`levelled: ${signed(led.pct)} % (${signed(led.low)} to ${signed(led.high)})`],
    hoverinfo: 'text',
  } as Data;
  return [verdict, marks];
}

/** Values that lie close, moved apart so that their words do not cover each other. */
function spread(values: readonly number[]): number[] {
  const least = Math.max(0.28, (Math.max(...values) - Math.min(...values)) / 12);
  const order = values.map((value, i) => ({ value, i })).sort((a, b) => a.value - b.value);
  for (let k = 1; k < order.length; k += 1) order[k]!.value = Math.max(order[k]!.value, order[k - 1]!.value + least);
  const moved = [...values];
  for (const { value, i } of order) moved[i] = value;
  return moved;
}
