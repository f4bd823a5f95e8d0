import type { Assumptions, StoryName } from './assumptions.js';
import { choleskyInto, forwardSolve } from '../numeric/cholesky.js';
import { learningFade } from './learning-fade.js';
import { boostWanderVariance } from './manifold-scatter.js';
import { candidateCount, centred, setupMean, type PullSeries } from './series.js';

/** What the channels that are fitted together with the value say of it: what they shift and narrow, and how well the story predicted them. */
export interface Witnessed {
  /** What the witnesses' own scatter adds to every value row's variance. */
  ownShare: number;
  /** Shift of the value rows' expectation, n. */
  shift: Float64Array;
  /** What conditioning takes off the value rows' covariance, n × n. */
  reduction: Float64Array;
  logEvidence: number;
  /** Of the learning loss that ignition saw too, with E as its column: Cyx Cxx⁻¹ E, E'Cxx⁻¹r and E'Cxx⁻¹E; zero without ignition. */
  fade: { withValue: Float64Array; mean: number; variance: number };
}

interface Witness {
  residual: Float64Array;
  /** n × n. */
  covariance: Float64Array;
  /** Covariance of value row i (row) with witness row j (column), n × n. */
  cross: Float64Array;
  ownShare: number;
}

/**
 * The witnesses of one day, by story: what does not depend on the value is computed once for all that is judged of the day. Ignition and
 * pressure have nothing in common but the value, so each conditions it by itself and what they say adds up.
 */
export class DayWitnesses {
  readonly #ignition = new Map<StoryName, Witnessed>();
  #pressure: Witnessed | null = null;

  constructor(
    readonly series: PullSeries,
    readonly assumptions: Assumptions,
  ) {}

  /** What ignition, and pressure where it is asked for, say under a story; null where neither is logged. */
  of(story: StoryName, withPressure: boolean): Witnessed | null {
    const { series, assumptions } = this;
    if (series.ignitionDeg && !this.#ignition.has(story)) {
      const fade = learningFade(series, story, assumptions.learningPulls);
      this.#ignition.set(story, conditioned(ignitionWitness(series, assumptions, assumptions.stories[story].loss, fade), fade));
    }
    const asked = withPressure && series.logManifold !== null;
    if (asked) this.#pressure ??= conditioned(pressureWitness(series, series.logManifold!, assumptions), null);
    const ignition = this.#ignition.get(story) ?? null;
    if (!ignition || !asked) return ignition ?? (asked ? this.#pressure : null);
    return bothOf(ignition, this.#pressure!);
  }
}

function bothOf(ignition: Witnessed, pressure: Witnessed): Witnessed {
  return {
    ownShare: ignition.ownShare + pressure.ownShare,
    shift: ignition.shift.map((entry, i) => entry + pressure.shift[i]!),
    reduction: ignition.reduction.map((entry, i) => entry + pressure.reduction[i]!),
    logEvidence: ignition.logEvidence + pressure.logEvidence,
    fade: ignition.fade,
  };
}

function ignitionWitness(series: PullSeries, assumptions: Assumptions, loss: { mean: number; sd: number }, fade: Float64Array): Witness {
  const n = series.setup.length;
  const observed = centred(series.ignitionDeg!);
  const start = series.startIntakeK ? centred(series.startIntakeK) : new Float64Array(n);
  const kappa = assumptions.ignition;
  const { scatterDeg, readingDeg, levelSdDeg, setupFloorDeg, setupShare } = assumptions.witnesses.ignition;
  const scatter = scatterDeg ** 2;
  const setupVariance = setupSpread(series, series.ignitionDeg!, setupFloorDeg, setupShare) ** 2;
  const learningVariance = (loss.sd / kappa.mean) ** 2 + ((loss.mean * kappa.sd) / kappa.mean ** 2) ** 2;
  const residual = observed.map(
    (value, i) => value - (assumptions.ignitionPerKelvin.mean * start[i]! - (loss.mean / kappa.mean) * fade[i]!),
  );
  const heatVariance = assumptions.ignitionPerKelvin.sd ** 2;
  const covariance = new Float64Array(n * n);
  const cross = new Float64Array(n * n);
  for (let i = 0; i < n; i += 1) {
    for (let j = 0; j < n; j += 1) {
      const level = levelSdDeg ** 2 + (sameCandidate(series, i, j) ? setupVariance : 0);
      covariance[i * n + j] = heatVariance * start[i]! * start[j]! + level + learningVariance * fade[i]! * fade[j]!;
      cross[i * n + j] = (loss.sd ** 2 / kappa.mean) * fade[i]! * fade[j]!;
    }
    covariance[i * n + i]! += readingDeg ** 2 + scatter;
    cross[i * n + i]! += kappa.mean * scatter;
  }
  return { residual, covariance, cross, ownShare: kappa.mean ** 2 * scatter };
}

function pressureWitness(series: PullSeries, logManifold: number[], { sameAir, witnesses }: Assumptions): Witness {
  const perLog = sameAir.manifoldPressure.mean;
  const { levelSd, setupFloor, readingSd } = witnesses.pressure;
  const n = series.setup.length;
  const wander = boostWanderVariance(series, logManifold, witnesses.pressure);
  const setupVariance = setupSpread(series, logManifold, setupFloor, 1) ** 2;
  const covariance = new Float64Array(n * n);
  const cross = new Float64Array(n * n);
  for (let i = 0; i < n; i += 1) {
    for (let j = 0; j < n; j += 1) covariance[i * n + j] = levelSd ** 2 + (sameCandidate(series, i, j) ? setupVariance : 0);
    covariance[i * n + i]! += wander + readingSd ** 2;
    cross[i * n + i] = perLog * wander;
  }
  return { residual: centred(logManifold), covariance, cross, ownShare: perLog ** 2 * wander };
}

function sameCandidate(series: PullSeries, i: number, j: number): boolean {
  return series.setup[i] === series.setup[j] && series.setup[i] !== 0;
}

function setupSpread(series: PullSeries, values: number[], floor: number, share: number): number {
  const reference = setupMean(series, values, 0);
  let spread = floor;
  for (let candidate = 1; candidate <= candidateCount(series); candidate += 1) {
    spread = Math.max(spread, share * Math.abs(setupMean(series, values, candidate) - reference));
  }
  return spread;
}

/** Conditions the value rows on a witness (method of section 1.1) by one factor of its covariance. */
function conditioned({ residual, covariance, cross, ownShare }: Witness, fade: Float64Array | null): Witnessed {
  const n = residual.length;
  // Right-hand sides: the cross covariances (n columns), the residual, and the fade.
  const width = n + 2;
  const right = new Float64Array(n * width);
  for (let i = 0; i < n; i += 1) {
    for (let j = 0; j < n; j += 1) right[i * width + j] = cross[j * n + i]!;
    right[i * width + n] = residual[i]!;
    right[i * width + n + 1] = fade?.[i] ?? 0;
  }
  const lower = new Float64Array(n * n);
  choleskyInto(lower, covariance, n);
  forwardSolve(lower, n, right, width);
  const shift = new Float64Array(n);
  const withValue = new Float64Array(n);
  const reduction = new Float64Array(n * n);
  let [quadratic, mean, variance, logDeterminant] = [0, 0, 0, 0];
  for (let k = 0; k < n; k += 1) {
    const at = k * width;
    const [rest, faded] = [right[at + n]!, right[at + n + 1]!];
    quadratic += rest * rest;
    mean += faded * rest;
    variance += faded * faded;
    logDeterminant += 2 * Math.log(lower[k * n + k]!);
    for (let i = 0; i < n; i += 1) {
      const entry = right[at + i]!;
      shift[i]! += entry * rest;
      withValue[i]! += entry * faded;
      if (entry === 0) continue;
      for (let j = 0; j < n; j += 1) reduction[i * n + j]! += entry * right[at + j]!;
    }
  }
  return { ownShare, shift, reduction, logEvidence: -0.5 * (logDeterminant + quadratic), fade: { withValue, mean, variance } };
}
