import type { NoiseBelief } from './assumptions.js';

/** Nine points of a standard normal, −2.2 to 2.2. */
const POINTS = Array.from({ length: 9 }, (_, index) => -2.2 + 0.55 * index);

export interface NoisePoint {
  sd: number;
  logWeight: number;
}

/** The values of one pull's standard deviation that the judgement goes through, with their prior weights (not normalised). */
export function noiseGrid({ mid, logSd }: NoiseBelief): NoisePoint[] {
  return POINTS.map((z) => ({ sd: mid * Math.exp(logSd * z), logWeight: -0.5 * z * z }));
}
