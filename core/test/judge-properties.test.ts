import { CholeskyDecomposition, inverse, Matrix } from 'ml-matrix';
import { describe, expect, it } from 'vitest';
import {
  achievedResolution,
  defaultAssumptions,
  fitAsRun,
  fitLevelled,
  fourEstimates,
  gainVerdict,
  meanInterval,
  noLossVerdict,
  pooledDifference,
  type PullSeries,
} from '../src/index.js';
import { LeastSquares } from '../src/judge/least-squares.js';
import { NormalMixture } from '../src/judge/mixture.js';
import { morePulls } from '../src/judge/more-pulls.js';
import { Random } from '../src/simulate/index.js';
import { invertPositiveDefinite } from '../src/numeric/cholesky.js';
import { normalCdf } from '../src/numeric/distributions.js';
import { median } from '../src/numeric/means.js';
import { walkCovariance } from '../src/numeric/random-walk.js';

const assumptions = defaultAssumptions('turbo');

function series(order: string, value: (setup: number, i: number) => number, more: Partial<PullSeries> = {}): PullSeries {
  const setup = [...order].map((letter) => letter.charCodeAt(0) - 65);
  return {
    setup,
    value: setup.map(value),
    timeH: setup.map((_, i) => 0.2 + 0.15 * i),
    startIntakeK: setup.map(() => 300),
    oilK: null,
    chargeK: setup.map(() => 315),
    ignitionDeg: null,
    logManifold: null,
    pullsBefore: setup.map((_, i) => 2 + i),
    pullsSinceSwap: setup.map(() => 1),
    ...more,
  };
}

describe('the fit', () => {
  it('does not change when all values shift, and turns its sign when setups change places', () => {
    const jitter = [0.001, -0.002, 0.0015, -0.0005];
    const base = series('ABBA', (s, i) => 5 + 0.02 * s + jitter[i]!);
    const shifted = { ...base, value: base.value.map((v) => v + 0.7) };
    const [a, b] = [fitLevelled(base, assumptions, true).estimates[0]!, fitLevelled(shifted, assumptions, true).estimates[0]!];
    expect(b.value).toBeCloseTo(a.value, 9);
    expect(b.low).toBeCloseTo(a.low, 8);
    const mirrored = fitAsRun({ ...base, value: base.value.map((v) => -v) }, assumptions).estimates[0]!;
    const plain = fitAsRun(base, assumptions).estimates[0]!;
    expect(mirrored.value).toBeCloseTo(-plain.value, 9);
    expect(mirrored.low).toBeCloseTo(-plain.high, 7);
  });

  it('narrows with more pulls, and its interval holds its estimate', () => {
    const width = (order: string) => {
      const { estimates } = fitLevelled(
        series(order, (s) => 5 + 0.01 * s),
        assumptions,
        true,
      );
      const { low, high, value } = estimates[0]!;
      expect(low).toBeLessThan(value);
      expect(high).toBeGreaterThan(value);
      return high - low;
    };
    expect(width('ABBABAAB')).toBeLessThan(width('ABBA'));
    expect(width('ABBA')).toBeLessThan(width('AABB'));
  });

  it('takes a hotter start out of levelled and leaves it in as run and own start', () => {
    const hot = series('ABBA', (s) => 5 - 0.015 * s, { startIntakeK: [300, 310, 310, 300] });
    const four = fourEstimates(hot, assumptions, true);
    expect(four.levelled.estimates[0]!.value).toBeGreaterThan(four.asRun.estimates[0]!.value + 0.004);
    expect(four.ownStart.estimates[0]!.value).toBeLessThan(four.levelled.estimates[0]!.value);
  });

  it('names the pull that stands out', () => {
    const values = [0, 0.02, -0.012, 0, 0.02, 0.001];
    const bad = series('ABBABA', (_, i) => 5 + values[i]!);
    const { bad: chances } = fitLevelled(bad, assumptions, true);
    expect(chances.indexOf(Math.max(...chances))).toBe(2);
    expect(chances[2]!).toBeGreaterThan(0.3);
  });

  it('weights of stories add up to one, and a climb that ignition shows speaks for re-learning', () => {
    const climb = series('AABB', (_, i) => 5 - 0.02 * Math.exp(-i / 1.3), { ignitionDeg: [13.4, 14.4, 15, 15], pullsBefore: [0, 1, 2, 3] });
    const { story } = fitLevelled(climb, assumptions, true);
    expect(story.none + story.day + story.swap).toBeCloseTo(1, 9);
    expect(1 - story.none).toBeGreaterThan(0.8);
  });

  it('several days: nothing is shared between them but the setups', () => {
    const twoDays = series('ABAB', (s) => 5 + 0.02 * s, { timeH: [0, 0.3, 24, 24.3], day: [0, 0, 1, 1] });
    const walk = walkCovariance(twoDays.timeH, twoDays.day);
    expect(walk[2]).toBe(0);
    expect(fitLevelled(twoDays, assumptions, true).estimates[0]!.value).toBeGreaterThan(0.01);
  });
});

describe('the arithmetic under it', () => {
  it('inverts like the matrix package', () => {
    const random = new Random(3);
    for (const size of [1, 2, 5, 12]) {
      const root = Matrix.from1DArray(
        size,
        size,
        Array.from({ length: size * size }, () => random.normal()),
      );
      const m = root.mmul(root.transpose()).add(Matrix.eye(size, size, 0.5));
      const { inverse: ours, logDeterminant } = invertPositiveDefinite(Float64Array.from(m.to1DArray()), size);
      inverse(m)
        .to1DArray()
        .forEach((value, i) => expect(ours[i]).toBeCloseTo(value, 8));
      const lower = new CholeskyDecomposition(m).lowerTriangularMatrix;
      expect(logDeterminant).toBeCloseTo(2 * lower.diagonal().reduce((sum, value) => sum + Math.log(value), 0), 9);
    }
  });

  it('finds quantiles of a mixture that give back their probability', () => {
    const components = [
      { weight: 0.7, mean: 0, sd: 1 },
      { weight: 0.25, mean: 3, sd: 0.2 },
      { weight: 0.05, mean: -8, sd: 2 },
    ];
    const mixture = new NormalMixture(components.length);
    for (const { weight, mean, sd } of components) mixture.add(2 * weight, mean, sd * sd);
    for (const p of [0.001, 0.025, 0.5, 0.975, 0.999]) {
      const x = mixture.quantile(p);
      expect(components.reduce((sum, { weight, mean, sd }) => sum + weight * normalCdf((x - mean) / sd), 0)).toBeCloseTo(p, 8);
    }
    expect(mixture.mean()).toBeCloseTo(0.25 * 3 - 0.05 * 8, 12);
    expect(normalCdf(1.959963984540054)).toBeCloseTo(0.975, 12);
    expect(normalCdf(-1) + normalCdf(1)).toBeCloseTo(1, 14);
  });

  it('knows the Student interval of a textbook example', () => {
    const interval = meanInterval([9, 10, 11])!;
    expect(interval.high! - interval.value).toBeCloseTo(4.302653 / Math.sqrt(3), 4);
    expect(meanInterval([4])).toEqual({ value: 4, sd: null, low: null, high: null });
    expect(meanInterval([])).toBeNull();
    const difference = pooledDifference([1, 2, 3], [4, 5, 6])!;
    expect(difference.value).toBe(3);
    expect(difference.high! - 3).toBeCloseTo(2.776445 * Math.sqrt(2 / 3), 4);
    expect(pooledDifference([1], [2])).toEqual({ value: 1, low: null, high: null });
    expect(pooledDifference([], [2])).toBeNull();
  });

  it('a seeded generator repeats itself and is roughly normal', () => {
    const draw = (seed: number) =>
      Array.from(
        { length: 4000 },
        (
          (random) => () =>
            random.normal()
        )(new Random(seed)),
      );
    expect(draw(1)).toEqual(draw(1));
    expect(draw(1)).not.toEqual(draw(2));
    const values = draw(7);
    const mean = values.reduce((a, b) => a + b, 0) / values.length;
    const variance = values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length;
    expect(Math.abs(mean)).toBeLessThan(0.06);
    expect(Math.abs(variance - 1)).toBeLessThan(0.08);
  });
});

describe('the words', () => {
  const at = (low: number, high: number) => ({ value: (low + high) / 2, low, high });

  it.each([
    [0.2, 3, 'gain'],
    [0.1, 0.5, 'gain'],
    [-3, -0.2, 'loss'],
    [-0.5, 0.5, 'no-difference'],
    [-0.5, 1.5, 'not-resolved'],
    [-1.5, 0.5, 'not-resolved'],
    [0, 0.5, 'no-difference'],
    [-1, 0.5, 'not-resolved'],
  ])('[%s, %s] is %s', (low, high, verdict) => expect(gainVerdict(at(low, high), 1)).toBe(verdict));

  it.each([
    [-0.3, 3, 'gain'],
    [-2, -1.2, 'loss'],
    [-1.2, 0.4, 'not-resolved'],
    [-1, 1, 'not-resolved'],
  ])('[%s, %s] with no loss asked is %s', (low, high, verdict) => expect(noLossVerdict(at(low, high), 1)).toBe(verdict));

  it('what a day resolved follows from its interval', () => {
    const { halfWidthPct, smallestResolvablePct, smallestNoDifferencePct } = achievedResolution(-0.01, 0.03);
    expect(halfWidthPct).toBeCloseTo(2, 9);
    expect(smallestResolvablePct).toBeCloseTo((2 * 2.8) / 1.96, 9);
    expect(smallestNoDifferencePct).toBeCloseTo((2 * 3.24) / 1.96, 9);
  });

  it('further pulls: fewer for a larger difference, none known beyond forty', () => {
    const day = {
      setup: [0, 1, 1, 0],
      timeH: [0, 0.5, 0.6, 1.1],
      pullsBefore: [1, 3, 4, 6],
      candidate: 1,
      noise: 0.004,
      spacingH: 0.09,
      swapH: 0.5,
      conditioningAfterSwap: 1,
    };
    const easy = morePulls(day, assumptions, 2, 'smallestResolvablePct')!;
    const hard = morePulls(day, assumptions, 1.1, 'smallestResolvablePct')!;
    expect(easy % 4).toBe(0);
    expect(hard).toBeGreaterThanOrEqual(easy);
    expect(morePulls(day, assumptions, 0.1, 'smallestResolvablePct')).toBeNull();
  });
});

describe('a pull that reads off', () => {
  // The order of setups, the noise, and how sure a candidate's effect is beforehand: also a setup of one pull, which alone tells its effect.
  it.each([
    ['ABBA', 0.004, null],
    ['AABBCCBBAA', 0.002, 0.1],
    ['ABBBAAB', 0.02, null],
    ['AAAB', 0.0005, null],
    ['ABCDABCD', 0.006, 0.05],
  ])('in %s at a noise of %s is the fit of the pulls with that one moved and widened', (order, sd, effectSd) => {
    const random = new Random(order.length);
    const day = series(order, (setup) => 5 + 0.01 * setup + 0.004 * random.normal());
    const n = day.setup.length;
    const walk = walkCovariance(day.timeH, undefined);
    const model = { mean: Float64Array.from(day.setup, () => 0.003 * random.normal()), covariance: walk.map((entry) => 1e-5 * entry) };
    const squares = new LeastSquares(day, model, sd, effectSd);
    const shifts = [0.03, -0.03];
    const extra = 0.015 ** 2;
    const told = squares.logLikelihoods(extra, shifts);
    expect(told).toHaveLength(1 + 2 * n);
    for (let pull = 0; pull < n; pull += 1)
      for (const [at, shift] of shifts.entries()) {
        const covariance = model.covariance.slice();
        covariance[pull * n + pull]! += extra;
        const value = day.value.map((entry, i) => (i === pull ? entry + shift : entry));
        const moved = new LeastSquares({ ...day, value }, { mean: model.mean, covariance }, sd, effectSd);
        expect(told[1 + 2 * pull + at]! - told[0]!).toBeCloseTo(moved.logLikelihoods(0, [])[0]! - told[0]!, 6);
        const [bad, none] = [
          { pull, shift, extra },
          { pull: -1, shift: 0, extra: 0 },
        ];
        for (let column = 0; column <= Math.max(...day.setup); column += 1) {
          const [found, direct] = [squares.effect(bad, column), moved.effect(none, column)];
          // The overall level is told against the mean of the pulls, which has moved with the one.
          expect(found.mean - (column === 0 ? shift / n : 0)).toBeCloseTo(direct.mean, 9);
          expect(found.variance).toBeCloseTo(direct.variance, 11);
        }
        // And what else is linear in the rows: a part with its own covariance with them, alone and with a candidate's effect.
        const withValue = Float64Array.from(day.setup, () => 1e-6 * random.normal());
        const before = { mean: 0.001, variance: 1e-4 };
        const [ready, readyDirect] = [squares.prepare(withValue), moved.prepare(withValue)];
        for (const candidate of [null, 1]) {
          const found = squares.posterior(ready, before, bad, candidate);
          const direct = moved.posterior(readyDirect, before, none, candidate);
          expect(found.mean).toBeCloseTo(direct.mean, 9);
          expect(found.variance).toBeCloseTo(direct.variance, 11);
        }
        const left = moved.weightedRest([{ weight: 0.4, bad: none }]);
        const largest = Math.max(...left.map(Math.abs));
        squares.weightedRest([{ weight: 0.4, bad }]).forEach((entry, i) => expect(entry / largest).toBeCloseTo(left[i]! / largest, 6));
      }
  });
});

it('a median is the middle of the sorted values, however many, with what is no number last', () => {
  const random = new Random(7);
  for (let count = 1; count <= 40; count += 1)
    for (let round = 0; round < 20; round += 1) {
      const values = Array.from({ length: count }, () => (random.chance(0.1) ? Number.NaN : Math.round(10 * random.normal()) / 10));
      const sorted = Float64Array.from(values).sort();
      const [low, high] = [sorted[Math.ceil(count / 2) - 1]!, sorted[Math.floor(count / 2)]!];
      expect(median(values)).toBe(count % 2 === 1 ? high : (low + high) / 2);
    }
  expect(median([])).toBeNaN();
});
