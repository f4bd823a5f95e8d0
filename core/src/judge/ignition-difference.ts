import type { Assumptions, StoryName } from './assumptions.js';
import { learningFade } from './learning-fade.js';
import { setupMean, withinSetup, type PullSeries } from './series.js';

/**
 * Difference in mean ignition advance between a candidate and the reference, degrees: plain, and with the part that the fitted
 * learning of the ECU explains taken out (method of section 3). Null where ignition is not logged on every used pull.
 */
export function ignitionDifferenceDeg(
  series: PullSeries,
  candidate: number,
  assumptions: Assumptions,
  storyWeights: Record<StoryName, number>,
): { plain: number; learningTakenOut: number } | null {
  const { ignitionDeg, startIntakeK } = series;
  if (!ignitionDeg) return null;
  const plain = setupMean(series, ignitionDeg, candidate) - setupMean(series, ignitionDeg, 0);
  const heatless = startIntakeK
    ? ignitionDeg.map((value, i) => value - assumptions.ignitionPerKelvin.mean * startIntakeK[i]!)
    : ignitionDeg;
  const deviations = withinSetup(series, heatless);
  const { scatterDeg, readingDeg } = assumptions.witnesses.ignition;
  /** Of one pull's ignition around its expectation, degrees². */
  const variance = scatterDeg ** 2 + readingDeg ** 2;
  let learningTakenOut = plain;
  for (const story of ['day', 'swap'] as const) {
    const { loss } = assumptions.stories[story];
    const perDegree = assumptions.ignition.mean;
    const fade = learningFade(series, story, assumptions.learningPulls);
    const fadeWithin = withinSetup(series, fade);
    const priorPrecision = 1 / (loss.sd / perDegree) ** 2;
    let numerator = (loss.mean / perDegree) * priorPrecision;
    let denominator = priorPrecision;
    fadeWithin.forEach((value, i) => {
      numerator += (-value * deviations[i]!) / variance;
      denominator += (value * value) / variance;
    });
    const fadeDifference = setupMean(series, fade, candidate) - setupMean(series, fade, 0);
    learningTakenOut += storyWeights[story] * (numerator / denominator) * fadeDifference;
  }
  return { plain, learningTakenOut };
}
