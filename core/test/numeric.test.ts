import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { NormalMixture } from '../src/judge/mixture.js';
import { choleskyInto, forwardSolve, invertPositiveDefinite, lowerInverse } from '../src/numeric/cholesky.js';
import { normalCdf, standardNormalQuantile, studentQuantile } from '../src/numeric/distributions.js';
import { interpolate, lowerBound } from '../src/numeric/interpolate.js';
import { mean, meanInterval, median, movingMedian, pooledDifference, sumOfSquares } from '../src/numeric/means.js';
import { placesByGroup, walkCovariance } from '../src/numeric/random-walk.js';

const numbers = (least: number, most: number) =>
  fc.array(fc.double({ min: -1e3, max: 1e3, noNaN: true }), { minLength: least, maxLength: most });
const at = (matrix: Float64Array, size: number, row: number, column: number) => matrix[row * size + column]!;

/** A matrix times its transpose, and a little on the diagonal: symmetric and positive definite. */
const positiveDefinite = fc.integer({ min: 1, max: 14 }).chain((size) =>
  fc.array(fc.double({ min: -2, max: 2, noNaN: true }), { minLength: size * size, maxLength: size * size }).map((half) => {
    const matrix = new Float64Array(size * size);
    for (let i = 0; i < size; i += 1)
      for (let j = 0; j < size; j += 1) {
        for (let k = 0; k < size; k += 1) matrix[i * size + j]! += half[i * size + k]! * half[j * size + k]!;
        if (i === j) matrix[i * size + j]! += 0.5;
      }
    return { size, matrix };
  }),
);

function times(size: number, one: (i: number, k: number) => number, other: (k: number, j: number) => number): number[] {
  return Array.from({ length: size * size }, (_, place) => {
    let sum = 0;
    for (let k = 0; k < size; k += 1) sum += one(Math.floor(place / size), k) * other(k, place % size);
    return sum;
  });
}
const near = (values: ArrayLike<number>, wanted: ArrayLike<number>, within = 1e-8) =>
  Array.from(values).every((value, i) => Math.abs(value - wanted[i]!) <= within * (1 + Math.abs(wanted[i]!)));
const identity = (size: number) => Array.from({ length: size * size }, (_, i) => (i % (size + 1) === 0 ? 1 : 0));
const lower = (matrix: Float64Array, size: number) => (i: number, j: number) => (j <= i ? at(matrix, size, i, j) : 0);

describe('the factorisation', () => {
  it('of a positive-definite matrix multiplies back to it, with its ridge', () => {
    fc.assert(
      fc.property(positiveDefinite, fc.constantFrom(0, 0.1, 3), ({ size, matrix }, ridge) => {
        const factor = new Float64Array(size * size);
        choleskyInto(factor, matrix, size, ridge);
        const one = lower(factor, size);
        const back = times(size, one, (k, j) => one(j, k));
        return near(
          back,
          matrix.map((value, i) => value + (i % (size + 1) === 0 ? ridge : 0)),
        );
      }),
      { seed: 1, numRuns: 300 },
    );
  });

  it('is solved forward for several right-hand sides at once, and inverted', () => {
    fc.assert(
      fc.property(
        positiveDefinite,
        fc.integer({ min: 1, max: 5 }),
        fc.infiniteStream(fc.double({ min: -9, max: 9, noNaN: true })),
        (made, width, stream) => {
          const { size, matrix } = made;
          const factor = new Float64Array(size * size);
          choleskyInto(factor, matrix, size);
          const right = Float64Array.from({ length: size * width }, () => stream.next().value as number);
          const solved = right.slice();
          forwardSolve(factor, size, solved, width);
          const back = Float64Array.from({ length: size * width }, (_, place) => {
            let sum = 0;
            for (let k = 0; k < size; k += 1)
              sum += lower(factor, size)(Math.floor(place / width), k) * solved[k * width + (place % width)]!;
            return sum;
          });
          const inverse = lowerInverse(factor, size);
          return near(back, right, 1e-7) && near(times(size, lower(factor, size), lower(inverse, size)), identity(size), 1e-7);
        },
      ),
      { seed: 2, numRuns: 300 },
    );
  });

  it('gives the inverse of the matrix and the logarithm of its determinant', () => {
    fc.assert(
      fc.property(positiveDefinite, ({ size, matrix }) => {
        const { inverse, logDeterminant } = invertPositiveDefinite(matrix.slice(), size);
        const product = times(
          size,
          (i, k) => at(matrix, size, i, k),
          (k, j) => at(inverse, size, k, j),
        );
        const factor = new Float64Array(size * size);
        choleskyInto(factor, matrix, size);
        const log = Array.from({ length: size }, (_, i) => 2 * Math.log(at(factor, size, i, i))).reduce((sum, value) => sum + value, 0);
        return near(product, identity(size), 1e-6) && Math.abs(log - logDeterminant) < 1e-8 * (1 + Math.abs(log));
      }),
      { seed: 3, numRuns: 300 },
    );
  });
});

describe('distributions', () => {
  // From the printed tables of any statistics textbook.
  it.each([
    [0, 0.5],
    [1, 0.8413447460685429],
    [1.6448536269514722, 0.95],
    [1.959963984540054, 0.975],
    [2.5758293035489004, 0.995],
    [-3, 0.0013498980316300933],
  ])('the normal one has %d at its place', (z, probability) => {
    expect(normalCdf(z)).toBeCloseTo(probability, 12);
    expect(standardNormalQuantile(probability)).toBeCloseTo(z, 8);
    expect(normalCdf(z) + normalCdf(-z)).toBeCloseTo(1, 13);
  });

  it.each([
    [1, 12.7062],
    [2, 4.3027],
    [3, 3.1824],
    [4, 2.7764],
    [5, 2.5706],
    [10, 2.2281],
    [20, 2.086],
    [30, 2.0423],
    [60, 2.0003],
    [120, 1.9799],
  ])('Student’s has its 97.5 % quantile for %d degrees of freedom', (freedom, quantile) => {
    expect(studentQuantile(freedom)).toBeCloseTo(quantile, 4);
    expect(studentQuantile(freedom, 0.025)).toBeCloseTo(-quantile, 4);
    expect(studentQuantile(freedom, 0.5)).toBeCloseTo(0, 8);
  });

  it('Student’s comes down to the normal one, ever closer', () => {
    const apart = [3, 10, 30, 100, 1000].map((freedom) => studentQuantile(freedom) - standardNormalQuantile(0.975));
    expect(apart.every((value, i) => value > 0 && (i === 0 || value < apart[i - 1]!))).toBe(true);
    expect(apart.at(-1)).toBeLessThan(0.003);
  });
});

describe('between samples', () => {
  const ascending = fc
    .uniqueArray(fc.integer({ min: -50, max: 50 }), { minLength: 1, maxLength: 12 })
    .map((all) => all.sort((a, b) => a - b));

  it('the lower bound is the first that is not below', () => {
    fc.assert(
      fc.property(ascending, fc.integer({ min: -60, max: 60 }), (all, value) => {
        const found = all.findIndex((entry) => entry >= value);
        return lowerBound(all, value) === (found < 0 ? all.length : found);
      }),
      { seed: 4 },
    );
  });

  it('a straight line is met everywhere, a sample at its place, and nothing outside', () => {
    fc.assert(
      fc.property(ascending, fc.integer({ min: -9, max: 9 }), fc.double({ min: 0, max: 1, noNaN: true }), (all, slope, share) => {
        const line = all.map((x) => slope * x + 3);
        const x = all[0]! + share * (all.at(-1)! - all[0]!);
        const isOn = Math.abs(interpolate(all, line, x) - (slope * x + 3)) < 1e-9;
        const squares = all.map((entry) => entry ** 2);
        const isAt = all.every((entry, i) => interpolate(all, squares, entry) === squares[i]);
        return isOn && isAt && Number.isNaN(interpolate(all, line, all[0]! - 1)) && Number.isNaN(interpolate(all, line, all.at(-1)! + 1));
      }),
      { seed: 5 },
    );
  });
});

describe('means', () => {
  it('of none are no number, and a median is in the middle whatever the order', () => {
    expect([mean([]), median([])]).toEqual([Number.NaN, Number.NaN]);
    fc.assert(
      fc.property(numbers(1, 60), (values) => {
        const sorted = values.toSorted((a, b) => a - b);
        const middle = (sorted[(sorted.length - 1) >> 1]! + sorted[sorted.length >> 1]!) / 2;
        return Math.abs(median(values) - middle) < 1e-9 && median(values.toReversed()) === median(values);
      }),
      { seed: 6 },
    );
  });

  it('shift with their values, and their squares do not', () => {
    fc.assert(
      fc.property(numbers(2, 30), fc.integer({ min: -100, max: 100 }), (values, shift) => {
        const moved = values.map((value) => value + shift);
        return (
          Math.abs(mean(moved) - mean(values) - shift) < 1e-9 &&
          Math.abs(sumOfSquares(moved) - sumOfSquares(values)) < 1e-6 * (1 + sumOfSquares(values))
        );
      }),
      { seed: 7 },
    );
  });

  it('have Student’s interval, none where nothing was repeated, and nothing for nothing', () => {
    expect(meanInterval([])).toBeNull();
    expect(meanInterval([5])).toEqual({ value: 5, low: null, high: null, sd: null });
    // 10, 12, 14: mean 12, deviation 2, half width 4.3027 · 2 / √3.
    const three = meanInterval([10, 12, 14])!;
    expect([three.value, three.sd]).toEqual([12, 2]);
    expect(three.high! - three.value).toBeCloseTo((4.30265 * 2) / Math.sqrt(3), 4);
    expect(three.value - three.low!).toBeCloseTo(three.high! - three.value, 10);
  });

  it('differ by the second less the first, from the pooled deviation, the other way round with the other sign', () => {
    expect(pooledDifference([], [1])).toBeNull();
    expect(pooledDifference([4], [5])).toEqual({ value: 1, low: null, high: null });
    // Deviations 2 and 0 over 2 and 1 repeats: pooled √(8/3), four values of freedom less one.
    const found = pooledDifference([10, 12, 14], [20, 20])!;
    expect(found.value).toBe(8);
    expect(found.high! - found.value).toBeCloseTo(3.18245 * Math.sqrt(8 / 3) * Math.sqrt(1 / 3 + 1 / 2), 4);
    fc.assert(
      fc.property(numbers(1, 8), numbers(1, 8), (a, b) => {
        const [there, back] = [pooledDifference(a, b)!, pooledDifference(b, a)!];
        const isMirror = there.low === null ? back.high === null : Math.abs(there.low + back.high!) < 1e-6;
        return Math.abs(there.value + back.value) < 1e-9 && isMirror && (there.low === null) === a.length + b.length < 3;
      }),
      { seed: 8 },
    );
  });
});

describe('a moving median', () => {
  it('is the median of what lies around, whatever the steps of time are and however often a value stands twice', () => {
    const steps = fc.array(fc.tuple(fc.integer({ min: 0, max: 4 }), fc.integer({ min: -6, max: 6 })), { minLength: 1, maxLength: 60 });
    fc.assert(
      fc.property(steps, fc.integer({ min: 1, max: 12 }), fc.integer({ min: 1, max: 6 }), (rows, half, least) => {
        let now = 0;
        const timeS = Float64Array.from(rows, ([step]) => (now += step));
        const values = Float64Array.from(rows, ([, value]) => value);
        const expected = Array.from(timeS, (at) => {
          const around = values.filter((_, i) => timeS[i]! >= at - half && timeS[i]! < at + half);
          return around.length >= least ? median(around) : Number.NaN;
        });
        expect([...movingMedian(timeS, values, half, least)]).toEqual(expected);
      }),
    );
  });
});

describe('a mixture of normals', () => {
  it('has quantiles that give back their probability, by the distribution of the package, for weights of any sum', () => {
    const component = fc.record({
      weight: fc.double({ min: 1e-6, max: 5, noNaN: true }),
      mean: fc.double({ min: -3, max: 3, noNaN: true }),
      sd: fc.double({ min: 0.01, max: 2, noNaN: true }),
    });
    fc.assert(
      fc.property(
        fc.array(component, { minLength: 1, maxLength: 40 }),
        fc.double({ min: 0.001, max: 0.999, noNaN: true }),
        (parts, share) => {
          const mixture = new NormalMixture(parts.length);
          for (const { weight, mean: middle, sd } of parts) mixture.add(weight, middle, sd * sd);
          const x = mixture.quantile(share);
          const total = parts.reduce((sum, { weight }) => sum + weight, 0);
          const below = parts.reduce((sum, { weight, mean: middle, sd }) => sum + (weight / total) * normalCdf((x - middle) / sd), 0);
          // The last step is Newton's, whose error is about its square: far under what is shown of an interval.
          expect(Math.abs(below - share)).toBeLessThan(2e-5);
          expect(mixture.mean()).toBeCloseTo(
            parts.reduce((sum, { weight, mean: middle }) => sum + (weight / total) * middle, 0),
            9,
          );
        },
      ),
    );
  });
});

describe('a random walk', () => {
  const moments = fc.uniqueArray(fc.integer({ min: 0, max: 300 }), { minLength: 2, maxLength: 9 });

  it('about its own mean adds up to nothing in every row, is symmetric, and grows with the gaps', () => {
    fc.assert(
      fc.property(moments, (all) => {
        const size = all.length;
        const found = walkCovariance(all);
        const wide = walkCovariance(all.map((moment) => 2 * moment));
        for (let i = 0; i < size; i += 1) {
          let row = 0;
          for (let j = 0; j < size; j += 1) {
            row += at(found, size, i, j);
            if (Math.abs(at(found, size, i, j) - at(found, size, j, i)) > 1e-9) return false;
            if (Math.abs(at(wide, size, i, j) - 2 * at(found, size, i, j)) > 1e-9) return false;
          }
          if (Math.abs(row) > 1e-8) return false;
        }
        // The variance of a difference is the time between.
        const apart = at(found, size, 0, 0) + at(found, size, 1, 1) - 2 * at(found, size, 0, 1);
        return Math.abs(apart - Math.abs(all[0]! - all[1]!)) < 1e-8;
      }),
      { seed: 9 },
    );
  });

  it('of groups goes by itself in each, and between them there is nothing', () => {
    fc.assert(
      fc.property(moments, moments, (one, other) => {
        const all = [...one, ...other];
        const group = [...one.map(() => 0), ...other.map(() => 1)];
        const size = all.length;
        const found = walkCovariance(all, group);
        const [first, second] = [walkCovariance(one), walkCovariance(other)];
        return Array.from(found).every((value, place) => {
          const [i, j] = [Math.floor(place / size), place % size];
          if (group[i] !== group[j]) return value === 0;
          const [own, own1, from] = group[i] === 0 ? [first, one.length, 0] : [second, other.length, one.length];
          return Math.abs(value - at(own, own1, i - from, j - from)) < 1e-9;
        });
      }),
      { seed: 10 },
    );
    expect(placesByGroup(4)).toEqual([[0, 1, 2, 3]]);
    expect(placesByGroup(4, [7, 3, 7, 3]).toSorted((a, b) => a[0]! - b[0]!)).toEqual([
      [0, 2],
      [1, 3],
    ]);
  });
});
