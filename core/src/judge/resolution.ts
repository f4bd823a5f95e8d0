import { inverse, Matrix } from 'ml-matrix';
import type { Assumptions, NoiseBelief } from './assumptions.js';
import { cholesky } from './cholesky.js';
import { noiseGrid } from './noise-grid.js';
import { centred } from './series.js';
import { walkCovariance } from './story-covariance.js';

/** The measured pulls of a plan or of a day, in order. */
export interface PlannedSeries {
  /** 0 is the reference. */
  setup: number[];
  timeH: number[];
  /** Pulls of any kind before this one since the start of the day. */
  pullsBefore: number[];
}

/** What an order of pulls can recognise, in per cent of the value. */
export interface Resolution {
  halfWidthPct: number;
  /** A true gain of this size is recognised on four days of five. */
  smallestResolvablePct: number;
  /** For a smallest gain that matters of this size, "no difference" comes out on four days of five. */
  smallestNoDifferencePct: number;
}

const TWO_SIDED_95 = 1.96;
const ONE_SIDED_80 = 0.84;
const TWO_SIDED_80 = 1.28;
/** The mixture's intervals are wider than the averaged variance says, by this factor (measured). */
const MIXTURE_WIDENING = 1.04;
/** What a standard deviation is multiplied by to become each of the figures. */
export const RESOLUTION_FACTORS = {
  widening: MIXTURE_WIDENING,
  twoSided95: TWO_SIDED_95,
  resolvable: TWO_SIDED_95 + ONE_SIDED_80,
  noDifference: TWO_SIDED_95 + TWO_SIDED_80,
};

/** Variance of a learning loss, averaged over the stories: 0.60·0.001² + 0.40·(0.018² + 0.008²). */
export function learningVariance({ stories }: Assumptions): number {
  return Object.values(stories).reduce((sum, { weight, loss }) => sum + weight * (loss.mean ** 2 + loss.sd ** 2), 0);
}

/** Resolution of each candidate against the reference, before any data (method of section 4). */
export function planResolution(series: PlannedSeries, assumptions: Assumptions, noise: NoiseBelief): Resolution[] {
  const n = series.setup.length;
  const candidates = Math.max(0, ...series.setup);
  const time = centred(series.timeH);
  const walk = walkCovariance(series.timeH);
  const fade = series.pullsBefore.map((k) => Math.exp(-k / assumptions.learningPulls));
  const learning = learningVariance(assumptions);
  const base = new Matrix(n, n);
  for (let i = 0; i < n; i += 1) {
    for (let j = 0; j < n; j += 1) {
      const drift = assumptions.driftPerHour ** 2 * time[i]! * time[j]!;
      base.set(i, j, drift + assumptions.walkPerRootHour ** 2 * walk.get(i, j) + learning * fade[i]! * fade[j]!);
    }
  }
  const design = new Matrix(n, candidates + 1);
  series.setup.forEach((setup, i) => {
    design.set(i, 0, 1);
    if (setup > 0) design.set(i, setup, 1);
  });
  const variances = new Float64Array(candidates);
  let total = 0;
  for (const { sd, logWeight } of noiseGrid(noise)) {
    const weight = Math.exp(logWeight);
    total += weight;
    const factor = cholesky(Matrix.add(base, Matrix.eye(n, n, sd * sd)));
    const information = design.transpose().mmul(factor.solve(design));
    for (let c = 1; c <= candidates; c += 1) information.set(c, c, information.get(c, c) + 1 / assumptions.setupEffectSd ** 2);
    const v = inverse(information);
    for (let c = 0; c < candidates; c += 1) variances[c]! += weight * v.get(c + 1, c + 1);
  }
  return Array.from(variances, (variance) => resolutionOf(100 * MIXTURE_WIDENING * Math.sqrt(variance / total)));
}

function resolutionOf(sdPct: number): Resolution {
  return {
    halfWidthPct: RESOLUTION_FACTORS.twoSided95 * sdPct,
    smallestResolvablePct: RESOLUTION_FACTORS.resolvable * sdPct,
    smallestNoDifferencePct: RESOLUTION_FACTORS.noDifference * sdPct,
  };
}

/** Resolution that a finished day had, from its interval (logarithms): the widening is already in it. */
export function achievedResolution(low: number, high: number): Resolution {
  return resolutionOf((100 * (high - low)) / 2 / TWO_SIDED_95);
}
