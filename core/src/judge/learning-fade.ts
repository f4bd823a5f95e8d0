import type { StoryName } from './assumptions.js';
import type { PullSeries } from './series.js';

/** E = exp(−k/…) per pull: what is still missing of a learning loss under a story of the engine control. */
export function learningFade(series: PullSeries, story: StoryName, learningPulls: number): Float64Array {
  const count = story === 'swap' ? series.pullsSinceSwap : series.pullsBefore;
  return Float64Array.from(count, (k) => Math.exp(-k / learningPulls));
}
