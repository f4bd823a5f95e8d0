import { mean } from '../numeric/means.js';

/** The used pulls of a day as columns, one entry a pull, in the order of time. Channels that were not logged on every pull are null. */
export interface PullSeries {
  /** 0 is the reference, 1… the candidates. */
  setup: number[];
  /** What is judged: the logarithm of the corrected metric, or a temperature in K, or the logarithm of an area. */
  value: number[];
  timeH: number[];
  /** Day of each pull by number; one day where it is absent. */
  day?: number[];
  /** Intake air and oil at the start of the pull, K. */
  startIntakeK: number[] | null;
  oilK: number[] | null;
  /** Mean charge temperature in the band, K. */
  chargeK: number[] | null;
  /** Mean ignition advance in the band, degrees. */
  ignitionDeg: number[] | null;
  /** Mean of the logarithm of absolute manifold pressure (Pa) in the band. */
  logManifold: number[] | null;
  /** Pulls of any kind driven before this one since the start of the day or a known reset, and since the last swap. */
  pullsBefore: number[];
  pullsSinceSwap: number[];
}

/** Candidates in a series: the largest setup index. */
export function candidateCount(series: PullSeries): number {
  return Math.max(...series.setup);
}

/** A vector minus its mean. */
export function centred(values: readonly number[]): Float64Array {
  const average = mean(values);
  const centredValues = new Float64Array(values.length);
  for (let i = 0; i < values.length; i += 1) centredValues[i] = values[i]! - average;
  return centredValues;
}

/** The values of one setup. */
function ofSetup(series: PullSeries, values: ArrayLike<number>, setup: number): number[] {
  return Array.from(values).filter((_, index) => series.setup[index] === setup);
}

/** Mean of a channel over a setup's pulls. */
export function setupMean(series: PullSeries, values: ArrayLike<number>, setup: number): number {
  return mean(ofSetup(series, values, setup));
}

/** Values as deviations from their own setup's mean. */
export function withinSetup(series: PullSeries, values: ArrayLike<number>): Float64Array {
  const means = new Map<number, number>();
  return Float64Array.from(values, (value, index) => {
    const setup = series.setup[index] as number;
    if (!means.has(setup)) means.set(setup, setupMean(series, values, setup));
    return value - (means.get(setup) as number);
  });
}
