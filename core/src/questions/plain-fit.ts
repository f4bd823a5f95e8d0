import { daySeries, type ValueOf } from '../compare/day-series.js';
import type { PlainAssumptions } from '../judge/assumptions.js';
import { fitPlain } from '../judge/estimates.js';
import type { Band } from '../pull/band.js';
import { together } from '../judge/sensor-accuracy.js';
import type { Interval } from '../said.js';
import type { QuestionContext } from './question-kind.js';

/** The plain judgement of a quantity over one pair of setups; null where one of them has no pull that gives it. */
export function plainFit(
  { judge, reference, candidate }: QuestionContext,
  band: Band,
  valueOf: ValueOf,
  beliefs: PlainAssumptions,
): Interval | null {
  const pair = judge.pulls.filter(({ pull }) => pull.setup === reference.id || pull.setup === candidate.id);
  const day = daySeries(pair, reference.id, band, valueOf);
  if (!day || !day.setups.includes(candidate.id)) return null;
  return fitPlain(day.series, beliefs).estimates[0]!;
}

/** An interval widened by an independent half width. */
export function widened({ value, low, high }: Interval, half: number): Interval {
  return { value, low: value - together(value - low, half), high: value + together(high - value, half) };
}

/** Used pulls of a pair of setups. */
export function pairPulls({ judge, reference, candidate }: QuestionContext) {
  return judge.pulls.filter(({ used, pull }) => used && (pull.setup === reference.id || pull.setup === candidate.id));
}

/** Files whose clock could not be matched and that hold a channel, over a pair's pulls. */
export function unmatchedFiles(context: QuestionContext, key: (channel: string) => boolean): string[] {
  const files = pairPulls(context).flatMap(({ curve }) =>
    [...(curve?.unmatched ?? [])].filter(([channel]) => key(channel)).map(([, file]) => file),
  );
  return [...new Set(files)];
}
