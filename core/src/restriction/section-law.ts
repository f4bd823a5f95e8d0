import type { Vehicle } from '@gezeit/contract';
import type { AirState } from '../air/moist-air.js';
import { airDemandKgS, dryAirDensity } from '../demand/air-demand.js';
import { madeOnce } from '../made-once.js';
import type { PullCurve } from '../pull/curve.js';
import { GRID_STEP_RPM } from '../pull/resample.js';

/** Density at which pressure drops are stated: 25 °C and 100 kPa, dry. */
const STATED_DENSITY = dryAirDensity(100_000, 25);
const PREFIX = 'pressureDrop';
/** Fewer points over engine speed tell no law. */
const LEAST_POINTS = 8;

/** Law of a section: Δp = a·ṁ + b·ṁ²/ρ, a in Pa per kg/s, b in 1/m⁴ (formula e6 with the pull's own air). */
export interface SectionLaw {
  laminar: number;
  turbulent: number;
}

/** What one pull shows of a section, by engine speed: air mass flow, kg/s, ṁ²/ρ in the same units, and the drop, Pa. */
export interface LawPoints {
  rpm: Float64Array;
  flowKgS: Float64Array;
  square: Float64Array;
  dropPa: Float64Array;
  flowFrom: 'meter' | 'speed-density';
}

/** What of a pull a law needs. */
interface PullAir {
  curve: PullCurve | null;
  air: AirState | null;
}

/** Key of a section's drop in a curve; the empty text is a drop without a section. */
export const dropKey = (section: string) => (section ? `${PREFIX}/${section}` : PREFIX);

/** Sections whose drop a pull has logged. */
export const sectionsLogged = ({ channels }: Pick<PullCurve, 'channels'>): string[] =>
  [...channels.keys()].filter((key) => key === PREFIX || key.startsWith(`${PREFIX}/`)).map((key) => key.slice(PREFIX.length + 1));

const known = new WeakMap<PullCurve, Map<string, LawPoints | null>>();

/**
 * What a pull shows of a section; null where flow, drop or the air before the section is missing.
 * @param filling where no meter is: the share of the charge in the manifold that is drawn in (formula d1).
 */
export function lawPoints(vehicle: Vehicle, filling: number, { curve, air }: PullAir, section: string): LawPoints | null {
  if (!curve || !air) return null;
  const own = known.get(curve) ?? new Map<string, LawPoints | null>();
  known.set(curve, own);
  const key = `${section} ${filling}`;
  if (!own.has(key)) own.set(key, pointsOf(vehicle, filling, curve, air, section));
  return own.get(key)!;
}

function pointsOf(vehicle: Vehicle, filling: number, curve: PullCurve, air: AirState, section: string): LawPoints | null {
  const drop = curve.channels.get(dropKey(section));
  const metered = curve.channels.get('airMassFlow');
  const flow = metered ?? flowBySpeedAndDensity(vehicle, filling, curve, air);
  if (!drop || !flow) return null;
  const rows: [number, number, number, number][] = [];
  for (let i = 0; i < flow.length; i += 1) {
    const dropPa = drop[i]!;
    const density = upstreamDensity(curve, air, section, i, dropPa);
    if (density === null || !(flow[i]! > 0) || !Number.isFinite(dropPa)) continue;
    rows.push([curve.gridRpm[i]!, flow[i]!, flow[i]! ** 2 / density, dropPa]);
  }
  if (rows.length < LEAST_POINTS) return null;
  const column = (j: number) => Float64Array.from(rows, (row) => row[j]!);
  return { rpm: column(0), flowKgS: column(1), square: column(2), dropPa: column(3), flowFrom: metered ? 'meter' : 'speed-density' };
}

/** Air mass flow from engine speed and the charge in the manifold, kg/s (formula d1); null where displacement or the charge is not known. */
function flowBySpeedAndDensity(vehicle: Vehicle, filling: number, { channels, gridRpm }: PullCurve, air: AirState): Float64Array | null {
  const temperature = channels.get('intakeAirTemperature') ?? channels.get('coolerOutTemperature');
  const manifold = channels.get('manifoldPressure');
  if (!vehicle.displacementL || !temperature || (!manifold && vehicle.aspiration !== 'na')) return null;
  return gridRpm.map((rpm, i) => {
    // Without a compressor a wide open throttle leaves the manifold near what is around.
    const pressurePa = manifold ? manifold[i]! : air.pressurePa;
    if (!(pressurePa > 0) || !Number.isFinite(temperature[i]!) || !(rpm > 0)) return Number.NaN;
    const density = dryAirDensity(pressurePa, temperature[i]!);
    return airDemandKgS(filling, density, vehicle.displacementL! / 1000, rpm, 4);
  });
}

/** Air density before a section, kg/m³: of the charge for the cooler (its own drop added), else of the cell (losses before it are neglected). */
function upstreamDensity({ channels }: PullCurve, air: AirState, section: string, i: number, dropPa: number): number | null {
  if (section !== 'cooler') return dryAirDensity(air.pressurePa, air.temperatureC);
  const pressurePa = channels.get('manifoldPressure')?.[i];
  const temperatureC = channels.get('compressorOutTemperature')?.[i];
  if (!Number.isFinite(pressurePa) || !Number.isFinite(temperatureC) || !(pressurePa! + dropPa > 0)) return null;
  return dryAirDensity(pressurePa! + dropPa, temperatureC!);
}

/** By how much sensors may read off: so much added to every drop, Pa, and every flow times so much. */
export interface ReadOff {
  dropPa: number;
  flowFactor: number;
}

const AS_READ: ReadOff = { dropPa: 0, flowFactor: 1 };

/** What a pull would have shown of a section with sensors that read off. */
export function readOff(points: LawPoints, { dropPa, flowFactor }: ReadOff): LawPoints {
  return {
    ...points,
    flowKgS: points.flowKgS.map((flow) => flow * flowFactor),
    square: points.square.map((square) => square * flowFactor ** 2),
    dropPa: points.dropPa.map((drop) => drop + dropPa),
  };
}

/**
 * The law of a section by least squares over all points of all pulls given, without an intercept; a negative term is set to zero and the other
 * refitted (formula e7b).
 * @param off as if the sensors had read so: the points are not walked through again.
 */
export function fitLaw(pulls: readonly LawPoints[], off: ReadOff = AS_READ): SectionLaw {
  let [s11, s12, s22, s1y, s2y] = [0, 0, 0, 0, 0];
  for (const points of pulls) {
    const sum = lawSumsOf(points);
    s11 += sum.s11 * off.flowFactor ** 2;
    s12 += sum.s12 * off.flowFactor ** 3;
    s22 += sum.s22 * off.flowFactor ** 4;
    s1y += (sum.s1y + off.dropPa * sum.s1) * off.flowFactor;
    s2y += (sum.s2y + off.dropPa * sum.s2) * off.flowFactor ** 2;
  }
  const determinant = s11 * s22 - s12 * s12;
  const laminar = (s1y * s22 - s2y * s12) / determinant;
  const turbulent = (s2y * s11 - s1y * s12) / determinant;
  if (!(laminar > 0)) return { laminar: 0, turbulent: s2y / s22 };
  return turbulent > 0 ? { laminar, turbulent } : { laminar: s1y / s11, turbulent: 0 };
}

/** Sums over a pull's points of ṁ (1), ṁ²/ρ (2) and the drop (y), and of their products. */
interface LawSums {
  s1: number;
  s2: number;
  s11: number;
  s12: number;
  s22: number;
  s1y: number;
  s2y: number;
}

const lawSumsOf = madeOnce(({ flowKgS, square, dropPa }: LawPoints): LawSums => {
  let [s1, s2, s11, s12, s22, s1y, s2y] = [0, 0, 0, 0, 0, 0, 0];
  for (let i = 0; i < flowKgS.length; i += 1) {
    const [x1, x2, y] = [flowKgS[i]!, square[i]!, dropPa[i]!];
    s1 += x1;
    s2 += x2;
    s11 += x1 * x1;
    s12 += x1 * x2;
    s22 += x2 * x2;
    s1y += x1 * y;
    s2y += x2 * y;
  }
  return { s1, s2, s11, s12, s22, s1y, s2y };
});

/** Pressure drop of a law, Pa, at a mass flow, kg/s, and the density at which drops are stated. */
export function dropAtPa({ laminar, turbulent }: SectionLaw, flowKgS: number): number {
  return laminar * flowKgS + (turbulent * flowKgS ** 2) / STATED_DENSITY;
}

/** Effective area of the turbulent part of a law, m²: b = 1/(2A²) (formula e2); null where it is laminar throughout. */
export const areaOfLawM2 = ({ turbulent }: SectionLaw): number | null => (turbulent > 0 ? Math.sqrt(1 / (2 * turbulent)) : null);

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
