import { choleskyInto, invertPositiveDefinite, lowerInverse } from '../numeric/cholesky.js';
import { centred, type PullSeries } from './series.js';
import type { StoryModel } from './story-covariance.js';

/** A pull that reads off: its place (−1: none), by how much less than it should, and with how much variance beside. */
export interface BadPull {
  pull: number;
  shift: number;
  extra: number;
}

/** A number that is not known: what is expected, and the variance. */
export interface Moments {
  mean: number;
  variance: number;
}

/** Something linear in the value's rows, prepared for one fit: its covariance with them, weighed by their precision. */
export interface Prepared {
  /** Precision times the covariance with the value rows, n. */
  weighted: Float64Array;
  square: number;
  /** Against each column of the design, and the inverse of the information times that. */
  designed: Float64Array;
  reach: Float64Array;
  residual: number;
}

/** What a bad pull changes: its rank-one changes of the precision and of the effects, and how far it moves along its reach. */
interface Change {
  precision: number;
  weightedBad: number;
  widening: number;
  along: number;
}
const NO_CHANGE: Change = { precision: 0, weightedBad: 0, widening: 0, along: 0 };

/**
 * Weighted least squares of one story at one noise: factorised once, each bad pull by a rank-one change (method of section 1.2). Effects are the
 * overall level first, then a candidate each. Loops over flat arrays: tens of thousands of these are made while somebody waits for a sentence.
 */
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
  /** Where each pull reaches: the effects that a change of its value brings (n × width), and that change and the effects themselves seen at the pull. */
  readonly #reach: Float64Array;
  readonly #gain: Float64Array;
  readonly #seen: Float64Array;

  constructor({ setup, value }: PullSeries, model: Pick<StoryModel, 'mean' | 'covariance'>, sd: number, setupEffectSd: number | null) {
    const n = setup.length;
    let width = 1;
    for (let i = 0; i < n; i += 1) width = Math.max(width, 1 + setup[i]!);
    this.#setup = setup;
    this.#n = n;
    this.#width = width;
    const root = new Float64Array(n * n);
    let logSigma = 0;
    if (model.covariance) {
      const lower = roomFor(n);
      choleskyInto(lower, model.covariance, n, sd * sd);
      for (let i = 0; i < n; i += 1) logSigma += 2 * Math.log(lower[i * n + i]!);
      lowerInverse(lower, n, root);
    } else {
      for (let i = 0; i < n; i += 1) root[i * n + i] = 1 / sd;
      logSigma = 2 * n * Math.log(sd);
    }
    this.#root = root;
    this.#logSigma = logSigma;
    const residual = centred(value);
    for (let i = 0; i < n; i += 1) residual[i]! -= model.mean[i]!;
    this.#residual = residual;
    const own = new Float64Array(n);
    for (let k = 0; k < n; k += 1) {
      for (let i = 0; i <= k; i += 1) own[i]! += root[k * n + i]! * root[k * n + i]!;
    }
    this.#own = own;
    this.#weighted = this.#precise(residual);
    this.#designed = this.#preciseDesign();
    const information = new Float64Array(width * width);
    for (let i = 0; i < n; i += 1) {
      for (let column = 0; column < width; column += 1) {
        const entry = this.#designed[i * width + column]!;
        information[column]! += entry;
        if (setup[i]! > 0) information[setup[i]! * width + column]! += entry;
      }
    }
    if (setupEffectSd !== null) for (let a = 1; a < width; a += 1) information[a * width + a]! += 1 / setupEffectSd ** 2;
    const { inverse, logDeterminant } = invertPositiveDefinite(information, width);
    this.#inverse = inverse;
    this.#logDeterminant = logDeterminant;
    const right = this.#perColumn(this.#weighted);
    this.#effects = this.#reachOf(right);
    this.#quadratic = dot(this.#weighted, residual) - dot(this.#effects, right);
    this.#reach = new Float64Array(n * width);
    this.#gain = new Float64Array(n);
    this.#seen = new Float64Array(n);
    for (let pull = 0; pull < n; pull += 1) {
      const row = pull * width;
      for (let a = 0; a < width; a += 1) {
        let reach = 0;
        for (let b = 0; b < width; b += 1) reach += inverse[a * width + b]! * this.#designed[row + b]!;
        this.#reach[row + a] = reach;
        this.#gain[pull]! += this.#designed[row + a]! * reach;
        this.#seen[pull]! += this.#designed[row + a]! * this.#effects[a]!;
      }
    }
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

  /** Precision times each column of the design, n × width: all ones, then where each candidate is. */
  #preciseDesign(): Float64Array {
    const n = this.#n;
    const width = this.#width;
    const root = this.#root;
    const setup = this.#setup;
    const result = new Float64Array(n * width);
    const sums = new Float64Array(width);
    for (let k = 0; k < n; k += 1) {
      sums.fill(0);
      for (let i = 0; i <= k; i += 1) {
        const entry = root[k * n + i]!;
        sums[0]! += entry;
        if (setup[i]! > 0) sums[setup[i]!]! += entry;
      }
      for (let i = 0; i <= k; i += 1) {
        const entry = root[k * n + i]!;
        for (let column = 0; column < width; column += 1) result[i * width + column]! += entry * sums[column]!;
      }
    }
    return result;
  }

  /** A vector over the pulls against each column of the design. */
  #perColumn(vector: Float64Array): Float64Array {
    const sums = new Float64Array(this.#width);
    for (let i = 0; i < this.#n; i += 1) {
      sums[0]! += vector[i]!;
      if (this.#setup[i]! > 0) sums[this.#setup[i]!]! += vector[i]!;
    }
    return sums;
  }

  /** The inverse of the information times a vector over the design. */
  #reachOf(designed: Float64Array): Float64Array {
    const width = this.#width;
    const reach = new Float64Array(width);
    for (let a = 0; a < width; a += 1) {
      for (let b = 0; b < width; b += 1) reach[a]! += this.#inverse[a * width + b]! * designed[b]!;
    }
    return reach;
  }

  #change({ pull, shift, extra }: BadPull): Change {
    if (pull < 0) return NO_CHANGE;
    const own = this.#own[pull]!;
    const gain = this.#gain[pull]!;
    const precision = extra / (1 + extra * own);
    const weightedBad = this.#weighted[pull]! + shift * own;
    const widening = precision / (1 - precision * gain);
    const moved = shift - precision * weightedBad;
    return { precision, weightedBad, widening, along: moved + widening * (this.#seen[pull]! + moved * gain) };
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
      const gain = this.#gain[pull]!;
      const seen = this.#seen[pull]!;
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

  /** An effect where one pull reads off, or none. @param column 0: the overall level; 1 …: a candidate's. */
  effect(bad: BadPull, column: number): Moments {
    const width = this.#width;
    const mean = this.#effects[column]!;
    const variance = this.#inverse[column * width + column]!;
    if (bad.pull < 0) return { mean, variance };
    const { along, widening } = this.#change(bad);
    const reach = this.#reach[bad.pull * width + column]!;
    return { mean: mean + along * reach, variance: variance + widening * reach * reach };
  }

  /** Sum over how pulls may be bad, of the weight times the precision times what the effects leave of the value rows, n. */
  weightedRest(weighed: readonly { weight: number; bad: BadPull }[]): Float64Array {
    const n = this.#n;
    const width = this.#width;
    const rest = new Float64Array(n);
    const effects = new Float64Array(width);
    let total = 0;
    for (const { weight, bad } of weighed) {
      total += weight;
      for (let c = 0; c < width; c += 1) effects[c]! += weight * this.#effects[c]!;
      if (bad.pull < 0) continue;
      const { precision, weightedBad, along } = this.#change(bad);
      for (let c = 0; c < width; c += 1) effects[c]! += weight * along * this.#reach[bad.pull * width + c]!;
      const left = this.#seen[bad.pull]! + along * this.#gain[bad.pull]!;
      rest[bad.pull]! += weight * (bad.shift - precision * (weightedBad - left));
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
    const designed = this.#perColumn(weighted);
    return {
      weighted,
      square: dot(weighted, withValue),
      designed,
      reach: this.#reachOf(designed),
      residual: dot(weighted, this.#residual),
    };
  }

  /**
   * Expectation and variance, given the value rows, of something prepared plus a candidate's effect.
   * @param before what is expected of it before the value is seen; the effect not counted.
   * @param candidate column of the effect that is added; null: none.
   */
  posterior(prepared: Prepared, before: Moments, bad: BadPull, candidate: number | null): Moments {
    const width = this.#width;
    const { precision, weightedBad, widening, along } = this.#change(bad);
    const row = bad.pull * width;
    const ofBad = bad.pull >= 0 ? prepared.weighted[bad.pull]! : 0;
    const taken = precision * ofBad;
    let mean = before.mean + prepared.residual + bad.shift * ofBad - taken * weightedBad;
    let variance = before.variance - prepared.square + taken * ofBad;
    // What is prepared, seen by the effects, their covariance and the bad pull's reach: each less what the bad pull takes of it.
    let seen = 0;
    let square = 0;
    let reached = 0;
    for (let a = 0; a < width; a += 1) {
      seen += prepared.designed[a]! * this.#effects[a]!;
      square += prepared.designed[a]! * prepared.reach[a]!;
      if (bad.pull >= 0) reached += prepared.designed[a]! * this.#reach[row + a]!;
    }
    if (bad.pull >= 0) {
      const gain = this.#gain[bad.pull]!;
      square += taken * (taken * gain - 2 * reached);
      seen -= taken * this.#seen[bad.pull]!;
      reached -= taken * gain;
    }
    mean -= seen + along * reached;
    variance += square + widening * reached * reached;
    if (candidate !== null) {
      const effect = this.effect(bad, candidate);
      const reach = bad.pull >= 0 ? this.#reach[row + candidate]! : 0;
      mean += effect.mean;
      variance += effect.variance - 2 * (prepared.reach[candidate]! - taken * reach + widening * reach * reached);
    }
    return { mean, variance: Math.max(0, variance) };
  }
}

/** Room for a factor on the way to its inverse, by size: thousands of fits would leave as many arrays behind. */
const rooms = new Map<number, Float64Array>();
function roomFor(size: number): Float64Array {
  const room = rooms.get(size) ?? new Float64Array(size * size);
  rooms.set(size, room);
  return room;
}

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i += 1) sum += a[i]! * b[i]!;
  return sum;
}
