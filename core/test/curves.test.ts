import { describe, expect, it } from 'vitest';
import { analyseMeasured, curvesOf, judgeOf, leadingEstimate, measurePulls } from '../src/index.js';
import { tablesOf } from '../src/simulate/index.js';
import { buildDemo, DEMO_PROGRAMMES } from '../../demo/programmes.js';
import { calibrationDay } from '../../bench/population.js';

const days = [
  // Without power there is nothing of it on the airfield.
  ...DEMO_PROGRAMMES.filter(({ spec }) => !spec.road).map((programme) => [programme.folder, () => buildDemo(programme).simulated] as const),
  ...[7001, 7002, 7003, 7004, 7005, 7006].map(
    (seed) => [`seed ${seed}`, () => calibrationDay(seed, seed % 2 ? 'flow' : 'heat').simulated] as const,
  ),
];

describe('the difference over engine speed', () => {
  it.each(days)('weighted by power over the band lies within a quarter of the half width of the estimate printed at it (%s)', (_, made) => {
    const simulated = made();
    const { bundle } = simulated;
    const measured = measurePulls(bundle, tablesOf(simulated));
    const { comparisons } = analyseMeasured(bundle, measured).findings;
    const { differences, setups } = curvesOf(judgeOf(bundle, measured));
    expect(differences.length).toBeGreaterThan(0);
    for (const difference of differences) {
      const comparison = comparisons.find(
        ({ reference, candidate }) => reference === difference.reference && candidate === difference.candidate,
      )!;
      const printed = leadingEstimate(comparison)!;
      const [low, high] = comparison.bandUsedRpm;
      const stock = setups.find(({ setup }) => setup === difference.reference)!;
      let [sum, weights] = [0, 0];
      difference.engineSpeedRpm.forEach((rpm, i) => {
        const weight = stock.powerW[stock.engineSpeedRpm.indexOf(rpm)];
        if (rpm < low || rpm > high || weight === undefined) return;
        sum += weight * difference.pct[i]!;
        weights += weight;
      });
      expect(weights).toBeGreaterThan(0);
      expect(Math.abs(sum / weights - printed.pct)).toBeLessThan((printed.high - printed.low) / 8);
    }
  });
});
