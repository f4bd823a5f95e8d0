import { KNOWN_NOISE_LOG_SD, type Assumptions } from './assumptions.js';
import { planResolution, type PlannedSeries } from './resolution.js';

/** A day as it was driven, to be extended in thought. */
export interface DrivenDay extends PlannedSeries {
  /** The candidate to be resolved. */
  candidate: number;
  /** Noise that the day itself suggests. */
  noise: number;
  /** Median time from pull to pull, and across a swap, h. */
  spacingH: number;
  swapH: number;
  /** Conditioning pulls after a swap. */
  conditioningAfterSwap: number;
}

/** Beyond this many further pulls the cell is too noisy for the question. */
export const MOST_FURTHER_PULLS = 40;

/**
 * Further pulls in balanced blocks (A B B A) until the whole day resolves a difference; null beyond forty.
 * @param smallest the smallest difference that matters, per cent.
 * @param by which resolution is asked for.
 */
export function morePulls(
  day: DrivenDay,
  assumptions: Assumptions,
  smallest: number,
  by: 'smallestResolvablePct' | 'smallestNoDifferencePct',
): number | null {
  const series: PlannedSeries = { setup: [...day.setup], timeH: [...day.timeH], pullsBefore: [...day.pullsBefore] };
  const noise = { mid: day.noise, logSd: KNOWN_NOISE_LOG_SD };
  for (let added = 4; added <= MOST_FURTHER_PULLS; added += 4) {
    for (const setup of [0, day.candidate, day.candidate, 0]) append(series, setup, day);
    if (planResolution(series, assumptions, noise)[day.candidate - 1]![by] <= smallest) return added;
  }
  return null;
}

function append(series: PlannedSeries, setup: number, day: DrivenDay): void {
  const swap = series.setup.at(-1) !== setup;
  series.timeH.push(series.timeH.at(-1)! + (swap ? day.swapH : day.spacingH));
  series.pullsBefore.push(series.pullsBefore.at(-1)! + 1 + (swap ? day.conditioningAfterSwap : 0));
  series.setup.push(setup);
}
