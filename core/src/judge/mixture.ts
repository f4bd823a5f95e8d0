import { DENSITY_AT_KNOTS, KNOTS_FROM, KNOTS_PER_UNIT, NORMAL_CDF_AT_KNOTS, standardNormalQuantile } from '../numeric/distributions.js';

const BRACKET_SD = 6;
const TOLERANCE = 1e-9;
const LAST_STEP = 1e-4;
/** Components lighter than this cannot move a quantile by as much as the tolerance asks. */
export const NEGLIGIBLE_WEIGHT = 1e-12;

/** A mixture of normals, as columns: thousands of objects would be walked for every step of a quantile. Weights are shares of their sum. */
export class NormalMixture {
  #count = 0;
  #total = 0;
  readonly #weight: Float64Array;
  readonly #mean: Float64Array;
  readonly #sd: Float64Array;

  /** @param most how many components it may have. */
  constructor(most: number) {
    this.#weight = new Float64Array(most);
    this.#mean = new Float64Array(most);
    this.#sd = new Float64Array(most);
  }

  /** Adds a component. */
  add(weight: number, mean: number, variance: number): void {
    this.#weight[this.#count] = weight;
    this.#mean[this.#count] = mean;
    this.#sd[this.#count] = Math.sqrt(variance);
    this.#count += 1;
    this.#total += weight;
  }

  /** Its expectation. */
  mean(): number {
    let sum = 0;
    for (let i = 0; i < this.#count; i += 1) sum += this.#weight[i]! * this.#mean[i]!;
    return sum / this.#total;
  }

  /** Its quantile: Newton steps kept inside a shrinking bracket. */
  quantile(probability: number): number {
    const sd = this.#sd;
    const mean = this.#mean;
    const weight = this.#weight;
    const centre = this.mean();
    let [low, high, square] = [Infinity, -Infinity, 0];
    for (let i = 0; i < this.#count; i += 1) {
      const from = mean[i]! - BRACKET_SD * sd[i]!;
      const to = mean[i]! + BRACKET_SD * sd[i]!;
      if (from < low) low = from;
      if (to > high) high = to;
      const off = mean[i]! - centre;
      square += weight[i]! * (sd[i]! * sd[i]! + off * off);
    }
    const spread = Math.sqrt(square / this.#total);
    // Beginning where one normal of the same mean and spread has it saves half of the steps.
    let x = Math.min(high, Math.max(low, centre + spread * standardNormalQuantile(probability)));
    while (high - low > TOLERANCE * Math.max(1, Math.abs(x))) {
      const { below, density } = this.#at(x);
      if (below < probability) low = x;
      else high = x;
      const step = (probability - below) / density;
      const newton = x + step;
      // Newton's error is about the square of its step: the next one would move nothing that counts.
      if (Math.abs(step) < LAST_STEP * spread) return newton;
      x = newton > low && newton < high ? newton : (low + high) / 2;
    }
    return x;
  }

  /** How much of it lies below a value, and its density there: between knots by Hermite's cubic, some 1e-10 off. */
  #at(x: number): { below: number; density: number } {
    const last = NORMAL_CDF_AT_KNOTS.length - 1;
    let below = 0;
    let density = 0;
    for (let i = 0; i < this.#count; i += 1) {
      const sd = this.#sd[i]!;
      const place = ((x - this.#mean[i]!) / sd - KNOTS_FROM) * KNOTS_PER_UNIT;
      if (place <= 0) continue;
      if (place >= last) {
        below += this.#weight[i]!;
        continue;
      }
      const knot = Math.trunc(place);
      const t = place - knot;
      const from = NORMAL_CDF_AT_KNOTS[knot]!;
      const rise = NORMAL_CDF_AT_KNOTS[knot + 1]! - from;
      const slope = DENSITY_AT_KNOTS[knot]! / KNOTS_PER_UNIT;
      const slopeAfter = DENSITY_AT_KNOTS[knot + 1]! / KNOTS_PER_UNIT;
      const square = 3 * rise - 2 * slope - slopeAfter;
      const cube = slope + slopeAfter - 2 * rise;
      below += this.#weight[i]! * (from + t * (slope + t * (square + t * cube)));
      density += (this.#weight[i]! * (slope + t * (2 * square + 3 * t * cube)) * KNOTS_PER_UNIT) / sd;
    }
    return { below: below / this.#total, density: density / this.#total };
  }
}
