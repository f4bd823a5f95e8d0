import type { Comparison, Contribution, EstimatePct } from '@gezeit/contract';
import { CAUSE_WORDS, ESTIMATE_WORDS, isPowerWithheld } from '@gezeit/core';
import type { IntervalRow } from '../shared/charts/IntervalScale.vue';
import { withSign } from '../shared/units/show.js';

/** An estimate with its interval, as the rows of the split say it. */
export const splitFigures = ({ pct, low, high }: EstimatePct) => `${withSign(pct, 1)} % (${withSign(low, 1)} to ${withSign(high, 1)})`;

/** The rows of each step of the split, between the numbers that it lies between. */
export function splitRows(comparison: Comparison): IntervalRow[] {
  const { contributions, uncorrected, asRun, levelled, sameAir } = comparison;
  const strong = !isPowerWithheld(comparison);
  const end = (label: string, estimate: EstimatePct | null): IntervalRow[] =>
    estimate ? [{ label, value: estimate.pct, low: estimate.low, high: estimate.high, strong, text: splitFigures(estimate) }] : [];
  const known = (rows: readonly Contribution[]): IntervalRow[] =>
    rows.flatMap(({ cause, pct, low, high }) =>
      pct === null
        ? []
        : [{ label: CAUSE_WORDS[cause].label, value: pct, low: low!, high: high!, text: splitFigures({ pct, low: low!, high: high! }) }],
    );
  const at = (cause: Contribution['cause']) => contributions.findIndex((row) => row.cause === cause);
  const [start, charge, last] = [at('heatState'), at('chargeTemperature'), at('breathing')];
  const weather = contributions[0]?.pct === null ? [] : [...end('uncorrected', uncorrected), ...known(contributions.slice(0, start))];
  return [
    ...weather,
    ...end(ESTIMATE_WORDS.asRun.label, asRun),
    ...known(contributions.slice(start, charge)),
    ...end(ESTIMATE_WORDS.levelled.label, levelled),
    ...known(contributions.slice(charge, last)),
    ...end(ESTIMATE_WORDS.sameAir.label, sameAir),
    ...known(contributions.slice(last)),
  ];
}
