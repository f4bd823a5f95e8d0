import { invertPositiveDefinite } from '../numeric/cholesky.js';
import { normalCdf } from '../numeric/distributions.js';

/** When a temperature will be where it is wanted, s from now; or why that is not known, or why it will not be. */
export type ReadyMoment =
  | { kind: 'range'; lowS: number; midS: number; highS: number }
  | { kind: 'unknown'; why: 'waiting-alone' | 'too-little-logged' | 'too-early' | 'not-clear-yet' | 'course-silent' }
  | { kind: 'unreachable'; why: 'below-surroundings' | 'ends-short'; endsAt: number };

/** Why a moment is not known, or never comes. Its sentence is written in words/day-words. */
export type WaitReason = Exclude<ReadyMoment, { kind: 'range' }>['why'];

/** What the forecast of a recovery assumes; all editable by code only, documented in docs/devices.md. */
export const READY_RULES = {
  /** Time constants that are thought possible, s: the quick mass (core, sensor) and the slow one (bay, box, coolant). */
  quickS: [8, 13, 20, 30, 45, 70],
  slowS: [30, 42, 58, 80, 110, 150, 210, 300, 450, 700],
  /** Standard deviation of a reading about the two-mass curve, K: noise and what two masses do not describe. */
  noiseK: 0.15,
  /** Prior of both amplitudes and of the end, K: the end lies about `endAboveK` over the measured surroundings where they are known. */
  amplitudeK: 25,
  /** A third, very slow mass that two do not describe (bay behind box, block behind bay): its time constant, s, and amplitude, K. */
  restS: 900,
  restK: 1,
  endAboveK: 6,
  endK: 5,
  endUnknownK: 25,
  /** How well the value at which the warm car stood before its first pull tells the end, K. */
  restingK: 0.8,
  /** Air near the engine ends so much higher after pulls than it stood before the first: bay and box hold heat. */
  restingRisesK: 1.2,
  /** A range is shown once it is narrower than this to either side. */
  shareOfWait: 0.15,
  leastS: 20,
  /** Chance of ever reaching the goal below which it is called out of reach, and above which a moment is named. */
  reachLow: 0.15,
  reachHigh: 0.85,
  horizonS: 3600,
};

/** What is known of where a recovery ends. */
export interface Ends {
  /** What it would cool to without an engine, where that is measured; a goal beyond it is never reached. */
  surroundings: number | null;
  /** Where the warm car stood before its first pull of the day. */
  resting: number | null;
}

const MOST_POINTS = 40;
const LOW = 0.05;
const HIGH = 0.95;

interface Curve {
  quickS: number;
  slowS: number;
  /** End, quick and slow amplitude and that of the very slow rest at the last reading, and their covariance. */
  b: number[];
  v: number[][];
  /** Logarithm of the evidence. */
  logEvidence: number;
}

interface WeighedCurve extends Curve {
  /** Chance of this pair of time constants; they add up to 1. */
  weight: number;
}

/**
 * The moment at which a cooling (or warming) temperature reaches a goal: two masses, every pair of time constants weighed by how well it
 * describes the readings so far (formula i7: one exponential through the first minutes misleads).
 * @param timeS moments of the readings, s, ascending, 0 is now; @param value °C or K; @param goal in the same unit.
 */
export function predictReady(
  timeS: readonly number[],
  value: readonly number[],
  goal: number,
  { surroundings, resting }: Ends = { surroundings: null, resting: null },
): ReadyMoment {
  // By where it began: the newest reading may lie on the other side of the goal by noise alone.
  const falls = value[0]! > goal;
  if (surroundings !== null && falls && goal < surroundings)
    return { kind: 'unreachable', why: 'below-surroundings', endsAt: surroundings };
  const [t, y] = thinned(timeS, value);
  if (t.length < 5 || t.at(-1)! - t[0]! < 15) return { kind: 'unknown', why: 'too-little-logged' };
  const curves = weighed(t, y, endPrior(y.at(-1)!, surroundings, resting));
  const crossings = curves.map((curve) => ({ weight: curve.weight, ...crossing(curve, goal, falls) }));
  const reach = crossings.reduce((sum, { weight, reached }) => sum + weight * reached, 0);
  const recordS = t.at(-1)! - t[0]!;
  if (reach < READY_RULES.reachLow) {
    const endsAt = curves.reduce((sum, { weight, b }) => sum + weight * b[0]!, 0);
    return recordS > 120 ? { kind: 'unreachable', why: 'ends-short', endsAt } : { kind: 'unknown', why: 'too-early' };
  }
  if (reach < READY_RULES.reachHigh) return { kind: 'unknown', why: 'not-clear-yet' };
  const [lowS, midS, highS] = [LOW, 0.5, HIGH].map((share) => quantile(crossings, share * reach)) as [number, number, number];
  const allowed = Math.max(READY_RULES.leastS, READY_RULES.shareOfWait * midS);
  if ((highS - lowS) / 2 > allowed) return { kind: 'unknown', why: 'course-silent' };
  return { kind: 'range', lowS, midS, highS };
}

/** Means of neighbouring readings, so that a long record costs no more than a short one. */
function thinned(timeS: readonly number[], value: readonly number[]): [number[], number[]] {
  const each = Math.max(1, Math.ceil(timeS.length / MOST_POINTS));
  const [t, y]: [number[], number[]] = [[], []];
  for (let i = 0; i < timeS.length; i += each) {
    const n = Math.min(each, timeS.length - i);
    let [sumT, sumY] = [0, 0];
    for (let k = i; k < i + n; k++) {
      sumT += timeS[k]!;
      sumY += value[k]!;
    }
    t.push(sumT / n);
    y.push(sumY / n);
  }
  return [t, y];
}

function endPrior(now: number, surroundings: number | null, resting: number | null): { mean: number; sd: number } {
  const { endAboveK, endK, endUnknownK, restingK, restingRisesK } = READY_RULES;
  if (resting !== null) return { mean: resting + (surroundings === null ? 0 : restingRisesK), sd: restingK };
  return surroundings === null ? { mean: now, sd: endUnknownK } : { mean: surroundings + endAboveK, sd: endK };
}

function weighed(t: number[], y: number[], end: { mean: number; sd: number }): WeighedCurve[] {
  const curves: Curve[] = [];
  for (const quickS of READY_RULES.quickS)
    for (const slowS of READY_RULES.slowS) if (slowS > 1.3 * quickS) curves.push(fitted(t, y, quickS, slowS, end));
  const best = Math.max(...curves.map(({ logEvidence }) => logEvidence));
  const total = curves.reduce((sum, { logEvidence }) => sum + Math.exp(logEvidence - best), 0);
  return curves.map((curve) => ({ ...curve, weight: Math.exp(curve.logEvidence - best) / total }));
}

/** The end and three fading parts at a time, s. */
const shapes = (time: number, quickS: number, slowS: number) => [
  1,
  Math.exp(-time / quickS),
  Math.exp(-time / slowS),
  Math.exp(-time / READY_RULES.restS),
];

/** Least squares with priors for one pair of time constants; its weight is the evidence of the readings. */
function fitted(t: number[], y: number[], quickS: number, slowS: number, end: { mean: number; sd: number }): Curve {
  const { noiseK, amplitudeK, restK } = READY_RULES;
  const prior = { mean: [end.mean, 0, 0, 0], sd: [end.sd, amplitudeK, amplitudeK, restK] };
  const places = prior.mean.map((_, i) => i);
  const a = places.map((i) => places.map((j) => (i === j ? prior.sd[i]! ** -2 : 0)));
  const g = places.map((i) => prior.mean[i]! * prior.sd[i]! ** -2);
  let squares = prior.mean.reduce((sum, mean, i) => sum + (mean / prior.sd[i]!) ** 2, 0);
  const w = noiseK ** -2;
  t.forEach((time, k) => {
    const x = shapes(time, quickS, slowS);
    for (const i of places) {
      g[i]! += w * x[i]! * y[k]!;
      for (const j of places) a[i]![j]! += w * x[i]! * x[j]!;
    }
    squares += w * y[k]! ** 2;
  });
  const { inverse: flat, logDeterminant } = invertPositiveDefinite(Float64Array.from(a.flat()), places.length);
  const inverse = places.map((i) => places.map((j) => flat[i * places.length + j]!));
  const b = places.map((i) => inverse[i]!.reduce((sum, entry, j) => sum + entry * g[j]!, 0));
  const misfit = squares - b.reduce((sum, entry, i) => sum + entry * g[i]!, 0);
  return { quickS, slowS, b, v: inverse, logEvidence: -0.5 * (misfit + logDeterminant) };
}

/** When one curve passes the goal, its standard deviation, and the chance that it does at all. */
function crossing({ quickS, slowS, b, v }: Curve, goal: number, falls: boolean): { atS: number; sdS: number; reached: number } {
  const side = falls ? 1 : -1;
  const above = (time: number) => side * (shapes(time, quickS, slowS).reduce((sum, x, i) => sum + x * b[i]!, 0) - goal);
  const spread = (time: number) => {
    const x = shapes(time, quickS, slowS);
    return Math.sqrt(
      Math.max(
        0,
        x.reduce((sum, xi, i) => sum + xi * x.reduce((inner, xj, j) => inner + v[i]![j]! * xj, 0), 0),
      ),
    );
  };
  if (above(READY_RULES.horizonS) > 0) return { atS: READY_RULES.horizonS, sdS: READY_RULES.horizonS, reached: 0 };
  let [from, to] = [0, READY_RULES.horizonS];
  // The first passing: a curve of two masses may bend once, and passes once on its way down.
  for (let i = 0; i < 40; i++) {
    const middle = (from + to) / 2;
    if (above(middle) > 0) from = middle;
    else to = middle;
  }
  const atS = (from + to) / 2;
  const slope = Math.abs((above(atS + 1) - above(Math.max(0, atS - 1))) / (atS + 1 - Math.max(0, atS - 1)));
  const sdS = spread(atS) / Math.max(slope, 1e-5);
  // An end within its own uncertainty of the goal may as well lie on the other side.
  const reached = normalCdf(-above(READY_RULES.horizonS) / Math.max(1e-6, spread(READY_RULES.horizonS)));
  return { atS, sdS, reached };
}

function quantile(crossings: readonly { weight: number; atS: number; sdS: number; reached: number }[], share: number): number {
  const below = (s: number) =>
    crossings.reduce((sum, { weight, atS, sdS, reached }) => sum + weight * reached * normalCdf((s - atS) / Math.max(sdS, 1e-3)), 0);
  let [from, to] = [0, READY_RULES.horizonS];
  if (below(0) >= share) return 0;
  for (let i = 0; i < 40; i++) {
    const middle = (from + to) / 2;
    if (below(middle) < share) from = middle;
    else to = middle;
  }
  return (from + to) / 2;
}
