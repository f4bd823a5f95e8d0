import { madeOnce } from '../made-once.js';
import { GRID_STEP_RPM } from '../pull/resample.js';
import { fitLaw, type LawPoints, type SectionLaw } from './section-law.js';

/**
 * When a step is one: so large a share of the drop, so much less left over than with any smooth law, and so many points on either side of it;
 * under so small a share of the drop left over by the smooth law nothing is looked for. Assumptions.
 */
export const STEP_RULES = { share: 0.1, leftShare: 0.55, sidePoints: 12, sideShare: 0.12, nearRpm: 100, straight: 0.006 };

/** A section that changes at one engine speed: the same laminar part, another area from there on. */
export interface SectionStep {
  atRpm: number;
  /** Mass flow at which it happens, kg/s. */
  atFlowKgS: number;
  /** Change of the drop at that flow, per cent. */
  stepPct: number;
  below: SectionLaw;
  above: SectionLaw;
}

/**
 * The engine speed at which the law of a section changes at once, over all points of all pulls given; null where one smooth law says as much.
 * The smooth law it is held against has a term more than the section's own (ṁ³), so that a meter that is not straight is no step.
 */
export function stepOf(pulls: readonly LawPoints[]): SectionStep | null {
  const only = pulls.length === 1 ? pulls[0]! : null;
  const known = only && steps.get(only);
  if (known !== undefined && known !== null) return known.step;
  const step = stepFound(pulls);
  if (only) steps.set(only, { step });
  return step;
}

const steps = new WeakMap<LawPoints, { step: SectionStep | null }>();

function stepFound(pulls: readonly LawPoints[]): SectionStep | null {
  const { first, rows, whole } = sumsTogether(pulls);
  const count = whole[COUNT]!;
  const side = Math.max(STEP_RULES.sidePoints * pulls.length, Math.ceil(STEP_RULES.sideShare * count));
  if (count < 3 * side) return null;
  const smooth = threeTerms(
    whole[S11]!,
    whole[S12]!,
    whole[S22]!,
    whole[S13]!,
    whole[S23]!,
    whole[S33]!,
    whole[S1Y]!,
    whole[S2Y]!,
    whole[S3Y]!,
    whole[SYY]!,
  );
  // So little is left over that no step large enough can be in it.
  if (smooth.left < STEP_RULES.straight ** 2 * whole[SYY]!) return null;
  const below = new Float64Array(SUMS);
  let best: { place: number; left: number; first: number; second: number; third: number } | null = null;
  for (let at = 0; at < rows.length; at += SUMS) {
    if (rows[at + COUNT] === 0) continue;
    if (below[COUNT]! >= side && count - below[COUNT]! >= side) {
      const fit = threeTerms(
        whole[S11]!,
        below[S12]!,
        below[S22]!,
        whole[S12]! - below[S12]!,
        0,
        whole[S22]! - below[S22]!,
        whole[S1Y]!,
        below[S2Y]!,
        whole[S2Y]! - below[S2Y]!,
        whole[SYY]!,
      );
      if (!best || fit.left < best.left) best = { place: first + at / SUMS, ...fit };
    }
    for (let k = 0; k < SUMS; k += 1) below[k]! += rows[at + k]!;
  }
  if (!best || best.left > STEP_RULES.leftShare * smooth.left) return null;
  const { first: laminar, second: turbulentBelow, third: turbulentAbove } = best;
  const atRpm = best.place * GRID_STEP_RPM;
  const near = pulls.flatMap((points) =>
    [...points.rpm.keys()]
      .filter((i) => Math.abs(points.rpm[i]! - atRpm) <= STEP_RULES.nearRpm)
      .map((i) => ({ flow: points.flowKgS[i]!, square: points.square[i]! })),
  );
  const meanOf = (key: 'flow' | 'square') => near.reduce((sum, point) => sum + point[key], 0) / near.length;
  const before = laminar * meanOf('flow') + turbulentBelow * meanOf('square');
  const stepPct = (100 * (turbulentAbove - turbulentBelow) * meanOf('square')) / before;
  if (!(Math.abs(stepPct) >= 100 * STEP_RULES.share)) return null;
  return {
    atRpm,
    atFlowKgS: meanOf('flow'),
    stepPct,
    below: { laminar, turbulent: turbulentBelow },
    above: { laminar, turbulent: turbulentAbove },
  };
}

/** Places of the sums of products of ṁ, ṁ²/ρ, ṁ³/ρ and the drop: a law over any stretch of speed is made of them, without walking through its points. */
const [COUNT, S11, S12, S22, S13, S23, S33, S1Y, S2Y, S3Y, SYY] = [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10] as const;
const SUMS = 11;

/** Sums by engine speed, from a multiple of the grid's step on, and of all of it. */
interface Sums {
  first: number;
  rows: Float64Array;
  whole: Float64Array;
}

/** A pull's own are made once: it is fitted with others, and without one after the other of them. */
const sumsOf = madeOnce(({ rpm, flowKgS, square, dropPa }: LawPoints): Sums => {
  const places = rpm.map((speed) => Math.round(speed / GRID_STEP_RPM));
  const first = places.reduce((least, place) => Math.min(least, place), Infinity);
  const last = places.reduce((most, place) => Math.max(most, place), -Infinity);
  const rows = new Float64Array((last - first + 1) * SUMS);
  const whole = new Float64Array(SUMS);
  for (let i = 0; i < rpm.length; i += 1) {
    const at = (places[i]! - first) * SUMS;
    const x1 = flowKgS[i]!;
    const x2 = square[i]!;
    const x3 = x1 * x2;
    const y = dropPa[i]!;
    rows[at + COUNT]! += 1;
    rows[at + S11]! += x1 * x1;
    rows[at + S12]! += x1 * x2;
    rows[at + S22]! += x2 * x2;
    rows[at + S13]! += x1 * x3;
    rows[at + S23]! += x2 * x3;
    rows[at + S33]! += x3 * x3;
    rows[at + S1Y]! += x1 * y;
    rows[at + S2Y]! += x2 * y;
    rows[at + S3Y]! += x3 * y;
    rows[at + SYY]! += y * y;
  }
  for (let at = 0; at < rows.length; at += SUMS) addTo(whole, 0, rows.subarray(at, at + SUMS));
  return { first, rows, whole };
});

/** The sums of several pulls together. */
function sumsTogether(pulls: readonly LawPoints[]): Sums {
  const each = pulls.map(sumsOf);
  const first = Math.min(...each.map((own) => own.first));
  const end = Math.max(...each.map((own) => own.first * SUMS + own.rows.length));
  const rows = new Float64Array(end - first * SUMS);
  const whole = new Float64Array(SUMS);
  for (const own of each) {
    addTo(rows, (own.first - first) * SUMS, own.rows);
    addTo(whole, 0, own.whole);
  }
  return { first, rows, whole };
}

function addTo(target: Float64Array, from: number, added: Float64Array): void {
  for (let i = 0; i < added.length; i += 1) target[from + i]! += added[i]!;
}

/**
 * Least squares of three columns from their sums of products, by elimination on columns of unit length; a negative first term (the laminar
 * part) is set to zero and the others refitted. In plain numbers: it is solved for every engine speed of every section of every pull.
 */
function threeTerms(
  s11: number,
  s12: number,
  s22: number,
  s13: number,
  s23: number,
  s33: number,
  r1: number,
  r2: number,
  r3: number,
  syy: number,
): { left: number; first: number; second: number; third: number } {
  const [u, v, w] = [1 / Math.sqrt(s11), 1 / Math.sqrt(s22), 1 / Math.sqrt(s33)];
  const [a, b, c] = [s12 * u * v, s13 * u * w, s23 * v * w];
  const [x, y, z] = [r1 * u, r2 * v, r3 * w];
  // The matrix has ones on its diagonal: Cholesky by hand, and back.
  const d2 = Math.sqrt(1 - a * a);
  const e = (c - a * b) / d2;
  const d3 = Math.sqrt(1 - b * b - e * e);
  const q2 = (y - a * x) / d2;
  const q3 = (z - b * x - e * q2) / d3;
  const third = q3 / d3;
  const second = (q2 - e * third) / d2;
  const first = x - a * second - b * third;
  if (first >= 0) return { left: Math.max(0, syy - x * x - q2 * q2 - q3 * q3), first: first * u, second: second * v, third: third * w };
  const two = Math.sqrt(1 - c * c);
  const p3 = (z - c * y) / two;
  const lastThird = p3 / two;
  return { left: Math.max(0, syy - y * y - p3 * p3), first: 0, second: (y - c * lastThird) * v, third: lastThird * w };
}

/** The law by which a section is read at a flow: of the side of its step on which the flow lies, else the one law that there is. */
export function lawAtFlow(pulls: readonly LawPoints[], flowKgS: number): { law: SectionLaw; step: SectionStep | null } {
  const step = stepOf(pulls);
  if (!step) return { law: fitLaw(pulls), step: null };
  return { law: flowKgS < step.atFlowKgS ? step.below : step.above, step };
}
