import { normalCdf, standardNormalQuantile } from '../numeric/distributions.js';

/** One normal component of a mixture. */
export interface Component {
  weight: number;
  mean: number;
  sd: number;
}

const BRACKET_SD = 6;
const TOLERANCE = 1e-9;
const LAST_STEP = 1e-4;
/** Components lighter than this cannot move a quantile by as much as the tolerance asks. */
export const NEGLIGIBLE_WEIGHT = 1e-12;

/** The components that count, as columns: thousands of objects would be walked for every step. */
interface Columns {
  count: number;
  weight: Float64Array;
  mean: Float64Array;
  sd: Float64Array;
}

function columnsOf(components: readonly Component[]): Columns {
  const columns = {
    count: 0,
    weight: new Float64Array(components.length),
    mean: new Float64Array(components.length),
    sd: new Float64Array(components.length),
  };
  for (const { weight, mean, sd } of components) {
    if (weight <= NEGLIGIBLE_WEIGHT) continue;
    columns.weight[columns.count] = weight;
    columns.mean[columns.count] = mean;
    columns.sd[columns.count] = sd;
    columns.count += 1;
  }
  return columns;
}

/** Quantiles of a mixture of normals whose weights add up to 1: Newton steps kept inside a shrinking bracket. */
export function mixtureQuantiles(components: readonly Component[], probabilities: readonly number[]): number[] {
  const columns = columnsOf(components);
  return probabilities.map((probability) => quantileOf(columns, probability));
}

function quantileOf({ count, weight, mean, sd }: Columns, probability: number): number {
  let [low, high, total, centre, square] = [Infinity, -Infinity, 0, 0, 0];
  for (let i = 0; i < count; i += 1) {
    low = Math.min(low, mean[i]! - BRACKET_SD * sd[i]!);
    high = Math.max(high, mean[i]! + BRACKET_SD * sd[i]!);
    total += weight[i]!;
    centre += weight[i]! * mean[i]!;
    square += weight[i]! * (sd[i]! * sd[i]! + mean[i]! * mean[i]!);
  }
  centre /= total;
  const spread = Math.sqrt(Math.max(0, square / total - centre * centre));
  // Beginning where one normal of the same mean and spread has it saves half of the steps.
  let x = Math.min(high, Math.max(low, centre + spread * standardNormalQuantile(probability)));
  while (high - low > TOLERANCE * Math.max(1, Math.abs(x))) {
    let cdf = 0;
    let density = 0;
    for (let i = 0; i < count; i += 1) {
      const z = (x - mean[i]!) / sd[i]!;
      cdf += weight[i]! * normalCdf(z);
      density += (weight[i]! * Math.exp(-0.5 * z * z)) / sd[i]!;
    }
    density /= Math.sqrt(2 * Math.PI);
    if (cdf < probability) low = x;
    else high = x;
    const step = (probability - cdf) / density;
    const newton = x + step;
    // Newton's error is about the square of its step: the next one would move nothing that counts.
    if (Math.abs(step) < LAST_STEP * spread) return newton;
    x = newton > low && newton < high ? newton : (low + high) / 2;
  }
  return x;
}
