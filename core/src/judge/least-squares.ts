import { choleskyInto, invertPositiveDefinite, lowerInverse } from '../numeric/cholesky.js';
import { centred, type PullSeries } from './series.js';
import type { StoryModel } from './story-covariance.js';

/** A pull that reads off: its place (−1: none), by how much less than it should, and with how much variance beside. */
export interface BadPull {
  pull: number;
  shift: number;
  extra: number;
}

/** The effects of one combination: the overall level first, then a candidate each; the inverse of their information, width × width. */
export interface Solution {
  effects: Float64Array;
  covariance: Float64Array;
}

/** Something linear in the value's rows, prepared for one fit: its covariance with them, weighed by their precision. */
export interface Prepared {
  /** Precision times the covariance with the value rows, n. */
  weighted: Float64Array;
  square: number;
  /** Against each column of the design. */
  designed: Float64Array;
  residual: number;
}

/** Weighted least squares of one story at one noise: factorised once, each bad pull by a rank-one change (method of section 1.2). */
export class LeastSquares {
  readonly #setup: readonly number[];
  readonly #n: number;
  readonly #width: number;
  /** Inverse T of the lower factor of the rows' covariance: the precision is T'T. */
  readonly #root: Float64Array;
  readonly #logSigma: number;
  readonly #residual: Float64Array;
  /** Diagonal of the precision; precision times the residual, and times each column of the design (n × width). */
  readonly #own: Float64Array;
  readonly #weighted: Float64Array;
  readonly #designed: Float64Array;
  /** Where no pull reads off: the inverse of the information, the logarithm of its determinant, the effects and the weighted square that is left. */
  readonly #inverse: Float64Array;
  readonly #logDeterminant: number;
  readonly #effects: Float64Array;
  readonly #quadratic: number;

  constructor({ setup, value }: PullSeries, model: Pick<StoryModel, 'mean' | 'covariance'>, sd: number, setupEffectSd: number | null) {
    const n = setup.length;
    const width = 1 + Math.max(...setup);
    const lower = new Float64Array(n * n);
    if (model.covariance) choleskyInto(lower, model.covariance, n, sd * sd);
    else for (let i = 0; i < n; i += 1) lower[i * n + i] = sd;
    let logSigma = 0;
    for (let i = 0; i < n; i += 1) logSigma += 2 * Math.log(lower[i * n + i]!);
    this.#setup = setup;
    this.#n = n;
    this.#width = width;
    const root = model.covariance ? lowerInverse(lower, n) : lower.map((entry) => (entry === 0 ? 0 : 1 / entry));
    this.#root = root;
    this.#logSigma = logSigma;
    this.#residual = centred(value).map((entry, i) => entry - model.mean[i]!);
    const own = new Float64Array(n);
    for (let k = 0; k < n; k += 1) {
      for (let i = 0; i <= k; i += 1) own[i]! += root[k * n + i]! * root[k * n + i]!;
    }
    this.#own = own;
    this.#weighted = this.#precise(this.#residual);
    const right = this.#perColumn(this.#weighted);
    this.#designed = new Float64Array(n * width);
    const information = new Float64Array(width * width);
    for (let column = 0; column < width; column += 1) {
      const weighted = this.#precise(Float64Array.from(setup, (own) => (column === 0 || own === column ? 1 : 0)));
      weighted.forEach((entry, i) => (this.#designed[i * width + column] = entry));
      this.#perColumn(weighted).forEach((entry, row) => (information[row * width + column] = entry));
      if (column > 0 && setupEffectSd !== null) information[column * width + column]! += 1 / setupEffectSd ** 2;
    }
    const { inverse, logDeterminant } = invertPositiveDefinite(information, width);
    this.#inverse = inverse;
    this.#logDeterminant = logDeterminant;
    this.#effects = right.map((_, a) => dot(inverse.subarray(a * width, (a + 1) * width), right));
    this.#quadratic = dot(this.#weighted, this.#residual) - dot(this.#effects, right);
  }

  /** Precision times a vector. */
  #precise(vector: Float64Array): Float64Array {
    const n = this.#n;
    const root = this.#root;
    const result = new Float64Array(n);
    for (let k = 0; k < n; k += 1) {
      const row = k * n;
      let sum = 0;
      for (let i = 0; i <= k; i += 1) sum += root[row + i]! * vector[i]!;
      for (let i = 0; i <= k; i += 1) result[i]! += root[row + i]! * sum;
    }
    return result;
  }

  /** A vector over the pulls against each column of the design. */
  #perColumn(vector: Float64Array): Float64Array {
    const sums = new Float64Array(this.#width);
    vector.forEach((entry, i) => {
      sums[0]! += entry;
      if (this.#setup[i]! > 0) sums[this.#setup[i]!]! += entry;
    });
    return sums;
  }

  /** What a bad pull changes: the factor of its rank-one change, and its own weighted residual. */
  #change({ pull, shift, extra }: BadPull): { own: number; change: number; weightedBad: number } {
    if (pull < 0) return { own: 0, change: 0, weightedBad: 0 };
    const own = this.#own[pull]!;
    return { own, change: extra / (1 + extra * own), weightedBad: this.#weighted[pull]! + shift * own };
  }

  /**
   * How likely the values are, as a logarithm: where no pull reads off, and then where each reads off by each of some shifts. A bad pull changes
   * the information by rank one, its determinant and inverse therefore too (the determinant lemma; Sherman and Morrison).
   * @param extra variance beside the shift.
   */
  logLikelihoods(extra: number, shifts: readonly number[]): Float64Array {
    const all = new Float64Array(1 + this.#n * shifts.length);
    const base = this.#logSigma + this.#logDeterminant;
    all[0] = -0.5 * (base + this.#quadratic);
    if (shifts.length === 0) return all;
    for (let pull = 0; pull < this.#n; pull += 1) {
      const own = this.#own[pull]!;
      const { gain, seen } = this.#reachOf(pull);
      const change = extra / (1 + extra * own);
      const left = 1 - change * gain;
      const logs = base + Math.log((1 + extra * own) * left);
      for (let at = 0; at < shifts.length; at += 1) {
        const shift = shifts[at]!;
        const weightedBad = this.#weighted[pull]! + shift * own;
        const moved = shift - change * weightedBad;
        const along = moved + (change / left) * (seen + moved * gain);
        const quadratic =
          this.#quadratic +
          shift * (this.#weighted[pull]! + weightedBad) -
          change * weightedBad * weightedBad -
          along * seen -
          moved * (seen + along * gain);
        all[1 + pull * shifts.length + at] = -0.5 * (logs + quadratic);
      }
    }
    return all;
  }

  /** Where a pull reaches: the effects that a change of its value brings, and that change and the effects themselves seen at the pull. */
  #reachOf(pull: number): { reach: Float64Array; gain: number; seen: number } {
    const width = this.#width;
    const reach = new Float64Array(width);
    let gain = 0;
    let seen = 0;
    for (let a = 0; a < width; a += 1) {
      for (let b = 0; b < width; b += 1) reach[a]! += this.#inverse[a * width + b]! * this.#designed[pull * width + b]!;
      gain += this.#designed[pull * width + a]! * reach[a]!;
      seen += this.#designed[pull * width + a]! * this.#effects[a]!;
    }
    return { reach, gain, seen };
  }

  /** The effects where one pull reads off, or none. */
  solve(bad: BadPull): Solution {
    if (bad.pull < 0) return { effects: this.#effects, covariance: this.#inverse };
    const width = this.#width;
    const { reach, gain, seen } = this.#reachOf(bad.pull);
    const { change, weightedBad } = this.#change(bad);
    const widening = change / (1 - change * gain);
    const moved = bad.shift - change * weightedBad;
    const along = moved + widening * (seen + moved * gain);
    const effects = new Float64Array(width);
    const covariance = new Float64Array(width * width);
    for (let a = 0; a < width; a += 1) {
      effects[a] = this.#effects[a]! + along * reach[a]!;
      for (let b = 0; b < width; b += 1) covariance[a * width + b] = this.#inverse[a * width + b]! + widening * reach[a]! * reach[b]!;
    }
    return { effects, covariance };
  }

  /** Sum over combinations of this fit of their weight times the precision times what the effects leave of the value rows, n. */
  weightedRest(combinations: readonly { weight: number; bad: BadPull; solution: Solution }[]): Float64Array {
    const n = this.#n;
    const width = this.#width;
    const rest = new Float64Array(n);
    const effects = new Float64Array(width);
    let total = 0;
    for (const { weight, bad, solution } of combinations) {
      total += weight;
      let left = 0;
      for (let c = 0; c < width; c += 1) {
        effects[c]! += weight * solution.effects[c]!;
        if (bad.pull >= 0) left += this.#designed[bad.pull * width + c]! * solution.effects[c]!;
      }
      if (bad.pull < 0) continue;
      const { change, weightedBad } = this.#change(bad);
      rest[bad.pull]! += weight * (bad.shift - change * (weightedBad - left));
    }
    for (let i = 0; i < n; i += 1) {
      const own = this.#setup[i]!;
      rest[i]! += total * this.#residual[i]! - effects[0]! - (own > 0 ? effects[own]! : 0);
    }
    return this.#precise(rest);
  }

  /** Prepares something that has a covariance with the value rows. */
  prepare(withValue: Float64Array): Prepared {
    const weighted = this.#precise(withValue);
    return {
      weighted,
      square: dot(weighted, withValue),
      designed: this.#perColumn(weighted),
      residual: dot(weighted, this.#residual),
    };
  }

  /**
   * Expectation and variance, given the value rows, of something prepared plus a candidate's effect.
   * @param before what is expected of it before the value is seen, and its variance; the effect not counted.
   * @param candidate column of the effect that is added; null: none.
   */
  posterior(
    prepared: Prepared,
    before: { mean: number; variance: number },
    at: { bad: BadPull; solution: Solution; candidate: number | null },
  ): { mean: number; variance: number } {
    const { bad, solution, candidate } = at;
    const width = this.#width;
    const { change, weightedBad } = this.#change(bad);
    const ofBad = bad.pull >= 0 ? prepared.weighted[bad.pull]! : 0;
    const designed = prepared.designed.map((entry, c) =>
      bad.pull >= 0 ? entry - change * ofBad * this.#designed[bad.pull * width + c]! : entry,
    );
    let mean = before.mean + prepared.residual + bad.shift * ofBad - change * ofBad * weightedBad;
    let variance = before.variance - prepared.square + change * ofBad * ofBad;
    for (let a = 0; a < width; a += 1) {
      mean -= designed[a]! * solution.effects[a]!;
      for (let b = 0; b < width; b += 1) variance += designed[a]! * solution.covariance[a * width + b]! * designed[b]!;
    }
    if (candidate !== null) {
      mean += solution.effects[candidate]!;
      variance += solution.covariance[candidate * width + candidate]!;
      for (let b = 0; b < width; b += 1) variance -= 2 * solution.covariance[candidate * width + b]! * designed[b]!;
    }
    return { mean, variance: Math.max(0, variance) };
  }
}

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i += 1) sum += a[i]! * b[i]!;
  return sum;
}
