import { describe, expect, it } from 'vitest';
import { leadingEstimate } from '../src/index.js';
import { calibrationDay } from '../../bench/population.js';
import { KnownDay, POWER_DAYS } from './known-days.js';

const days = [
  ...POWER_DAYS,
  ...[7001, 7002, 7003, 7004, 7005, 7006].map(
    (seed) => new KnownDay(`seed ${seed}`, () => calibrationDay(seed, seed % 2 ? 'flow' : 'heat')),
  ),
];

describe('the difference over engine speed', () => {
  it.each(days)(
    'weighted by power over the band lies within a quarter of the half width of the estimate printed at it ($name)',
    ({ findings, curves }) => {
      const { comparisons } = findings;
      const { differences, setups } = curves;
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
    },
  );
});
