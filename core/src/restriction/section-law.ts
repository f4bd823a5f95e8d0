import type { Vehicle } from '@gezeit/contract';
import type { AirState } from '../air/moist-air.js';
import { airDemandKgS, dryAirDensity } from '../demand/air-demand.js';
import { madeOnce } from '../made-once.js';
import type { PullCurve } from '../pull/curve.js';

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
