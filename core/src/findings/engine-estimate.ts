import type { Comparison } from '@gezeit/contract';
import { metricValue, pullFactor } from '../compare/analysed-pull.js';
import { quoted, type JudgedPair, type PairJudge } from '../compare/judged-pair.js';
import { mean } from '../numeric/means.js';
import { standardNormalQuantile } from '../numeric/distributions.js';

/**
 * What wheel power would be at the engine, kW: an estimate, never compared and never a measurement (formula d4; the loss is no fixed share). The
 * difference's range takes the far ends of its interval and of the factor together. Null where power was measured at the engine, or has no answer.
 */
export function engineEstimateOf({ bundle, pulls, assumptions }: PairJudge, pair: JudgedPair): Comparison['engineEstimate'] {
  const { metric } = pair.terms;
  const { estimate } = quoted(pair);
  const cells = bundle.cells ?? (bundle.cell ? [bundle.cell] : []);
  if (!estimate || !metric.endsWith('Power') || cells.some(({ powerAt }) => powerAt === 'crank')) return null;
  const levelsW = pulls
    .filter((entry) => entry.used && entry.pull.setup === pair.reference.id)
    .flatMap((entry) => {
      const [value, factor] = [metricValue(metric, entry, pair.band.band), pullFactor(bundle.programme.correction, entry)];
      return value === null || factor === null ? [] : [value * factor];
    });
  if (levelsW.length === 0) return null;
  const referenceKW = mean(levelsW) / 1000;
  const spread = standardNormalQuantile(0.975) * assumptions.wheelToCrank.sd;
  const factor = { low: Math.max(1, assumptions.wheelToCrank.mean - spread), high: assumptions.wheelToCrank.mean + spread };
  const differenceKW = (pct: number) => (pct / 100) * referenceKW;
  const ends = [estimate.low, estimate.high].flatMap((pct) => [factor.low * differenceKW(pct), factor.high * differenceKW(pct)]);
  return {
    metric,
    factor,
    referenceKW: { low: factor.low * referenceKW, high: factor.high * referenceKW },
    differenceKW: { low: Math.min(...ends), high: Math.max(...ends) },
  };
}
