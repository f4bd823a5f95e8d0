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
