import jstat from 'jstat';

/** Standard normal distribution function; absolute error below 1e-14. */
export function normalCdf(z: number): number {
  return jstat.normal.cdf(z, 0, 1);
}

/** Inverse of the standard normal distribution function. */
export function standardNormalQuantile(probability: number): number {
  return jstat.normal.inv(probability, 0, 1);
}

/** Quantile of Student's t; the half width of a 95 % interval asks for 0.975, which is the default. */
export function studentQuantile(degreesOfFreedom: number, probability = 0.975): number {
  return jstat.studentt.inv(probability, degreesOfFreedom);
}

/** Where the knots of the standard normal begin, as a z; they end as far above zero. Beyond them is less than 1e-15. */
export const KNOTS_FROM = -8;
export const KNOTS_PER_UNIT = 64;
const KNOTS = Array.from({ length: -2 * KNOTS_FROM * KNOTS_PER_UNIT + 1 }, (_, knot) => KNOTS_FROM + knot / KNOTS_PER_UNIT);

/** The standard normal distribution function and its density at evenly spaced z: for sums over hundreds of components, which ask for it by the thousand. */
export const NORMAL_CDF_AT_KNOTS = Float64Array.from(KNOTS, normalCdf);
export const DENSITY_AT_KNOTS = Float64Array.from(KNOTS, (z) => Math.exp(-0.5 * z * z) / Math.sqrt(2 * Math.PI));
