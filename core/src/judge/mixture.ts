import { normalCdf, standardNormalQuantile } from '../numeric/distributions.js';

/** One normal component of a mixture. */
export interface Component {
  weight: number;
  mean: number;
  sd: number;
}

const BRACKET_SD = 6;
const TOLERANCE = 1e-9;

function cdfAndDensity(components: Component[], x: number): [number, number] {
  let cdf = 0;
  let density = 0;
  for (const { weight, mean, sd } of components) {
    const z = (x - mean) / sd;
    cdf += weight * normalCdf(z);
    density += (weight * Math.exp(-0.5 * z * z)) / (sd * Math.sqrt(2 * Math.PI));
  }
  return [cdf, density];
}

/** Components lighter than this cannot move a quantile by as much as the tolerance asks. */
const NEGLIGIBLE_WEIGHT = 1e-13;

const weightOf = (components: readonly Component[]) => components.reduce((sum, { weight }) => sum + weight, 0);
const meanOf = (components: readonly Component[]) =>
  components.reduce((sum, { weight, mean }) => sum + weight * mean, 0) / weightOf(components);

function spreadOf(components: readonly Component[]): number {
  const centre = meanOf(components);
  const square = components.reduce((sum, { weight, mean, sd }) => sum + weight * (sd * sd + (mean - centre) ** 2), 0);
  return Math.sqrt(square / weightOf(components));
}

/** Quantile of a mixture of normals whose weights add up to 1: Newton steps kept inside a shrinking bracket. */
export function mixtureQuantile(all: Component[], probability: number): number {
  const components = all.filter(({ weight }) => weight > NEGLIGIBLE_WEIGHT);
  let low = Math.min(...components.map(({ mean, sd }) => mean - BRACKET_SD * sd));
  let high = Math.max(...components.map(({ mean, sd }) => mean + BRACKET_SD * sd));
  // Beginning where one normal of the same mean and spread has it saves half of the steps.
  let x = Math.min(high, Math.max(low, meanOf(components) + spreadOf(components) * standardNormalQuantile(probability)));
  while (high - low > TOLERANCE * Math.max(1, Math.abs(x))) {
    const [cdf, density] = cdfAndDensity(components, x);
    if (cdf < probability) low = x;
    else high = x;
    const step = (probability - cdf) / density;
    const newton = x + step;
    if (Math.abs(step) < TOLERANCE / 10) return newton;
    x = newton > low && newton < high ? newton : (low + high) / 2;
  }
  return x;
}
