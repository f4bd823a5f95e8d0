import type { Bundle, Findings } from '@gezeit/contract';
import { dryAirDensity } from '../demand/air-demand.js';
import type { Assumptions } from '../judge/assumptions.js';
import { bandMean, type Band } from '../pull/band.js';
import type { AnalysedPull } from './analysed-pull.js';
import { sensorOf, together, type Sensor } from './sensor-accuracy.js';
import { mean, meanInterval } from '../numeric/means.js';

/** Density at which pressure drops are stated: 25 °C and 100 kPa, dry. */
const STATED_DENSITY = dryAirDensity(100_000, 25);
const PREFIX = 'pressureDrop';
/** Fewer points over engine speed tell no law. */
const LEAST_POINTS = 8;

const keyOf = (section: string) => (section ? `${PREFIX}/${section}` : PREFIX);

/** Sections whose pressure drop is logged on used pulls of all the setups; the empty text is a drop without a section. */
export function sectionsOf(pulls: readonly AnalysedPull[], setups: readonly string[]): string[] {
  const perSetup = setups.map((setup) => {
    const own = pulls.filter((entry) => entry.used && entry.curve && entry.pull.setup === setup);
    return new Set(
      own.flatMap(({ curve }) =>
        [...curve!.channels.keys()].filter((key) => key.startsWith(PREFIX)).map((key) => key.slice(PREFIX.length + 1)),
      ),
    );
  });
  return [...(perSetup[0] ?? [])].filter((section) => perSetup.every((known) => known.has(section)));
}

/** Law of a section in one pull: Δp = a·ṁ + b·ṁ²/ρ, a in Pa per kg/s, b in 1/m⁴ (formula e6 with the pull's own air). */
export interface SectionLaw {
  laminar: number;
  turbulent: number;
}

/**
 * Fits a section's law over the engine speeds of one pull by least squares without an intercept; a negative term is set to zero and the other
 * refitted (formula e7b). Null where flow, drop or the air before the section is missing.
 */
export function sectionLaw({ curve, air }: AnalysedPull, section: string): SectionLaw | null {
  const flow = curve?.channels.get('airMassFlow');
  const drop = curve?.channels.get(keyOf(section));
  if (!curve || !air || !flow || !drop) return null;
  let points = 0;
  let [s11, s12, s22, s1y, s2y] = [0, 0, 0, 0, 0];
  for (let i = 0; i < flow.length; i += 1) {
    const y = drop[i]!;
    const density = upstreamDensity({ curve, air }, section, i, y);
    if (density === null || !(flow[i]! > 0) || !Number.isFinite(y)) continue;
    const x1 = flow[i]!;
    const x2 = x1 ** 2 / density;
    points += 1;
    s11 += x1 * x1;
    s12 += x1 * x2;
    s22 += x2 * x2;
    s1y += x1 * y;
    s2y += x2 * y;
  }
  if (points < LEAST_POINTS) return null;
  const determinant = s11 * s22 - s12 * s12;
  const laminar = (s1y * s22 - s2y * s12) / determinant;
  const turbulent = (s2y * s11 - s1y * s12) / determinant;
  if (!(laminar > 0)) return { laminar: 0, turbulent: s2y / s22 };
  return turbulent > 0 ? { laminar, turbulent } : { laminar: s1y / s11, turbulent: 0 };
}

/** Air density before a section, kg/m³: of the charge for the cooler (its own drop added), else of the cell (losses before it are neglected). */
function upstreamDensity({ curve, air }: Pick<AnalysedPull, 'curve' | 'air'>, section: string, i: number, dropPa: number): number | null {
  if (section !== 'cooler') return dryAirDensity(air!.pressurePa, air!.temperatureC);
  const pressurePa = curve!.channels.get('manifoldPressure')?.[i];
  const temperatureC = curve!.channels.get('compressorOutTemperature')?.[i];
  if (!Number.isFinite(pressurePa) || !Number.isFinite(temperatureC) || !(pressurePa! + dropPa > 0)) return null;
  return dryAirDensity(pressurePa! + dropPa, temperatureC!);
}

/** Pressure drop of a law, Pa, at a mass flow, kg/s, and the density at which drops are stated. */
export function dropAtPa({ laminar, turbulent }: SectionLaw, flowKgS: number): number {
  return laminar * flowKgS + (turbulent * flowKgS ** 2) / STATED_DENSITY;
}

/** The flow at which setups are compared, kg/s: the mean of the reference's used pulls in the band; null where it is not logged. */
export function referenceFlowKgS(pulls: readonly AnalysedPull[], reference: string, band: Band): number | null {
  const flows = pulls.flatMap(({ used, pull, curve }) =>
    used && curve && pull.setup === reference ? (bandMean(curve, 'airMassFlow', band) ?? []) : [],
  );
  return flows.length === 0 ? null : mean(flows);
}

/** Sensors by which a setup's section was read: of the drop and of the flow; the first pull that has them tells. */
export function sectionSensors(
  bundle: Bundle,
  assumptions: Assumptions,
  pulls: readonly AnalysedPull[],
  setup: string,
  section: string,
  at: { dropPa: number; flowKgS: number },
): { drop: Sensor; flow: Sensor } | null {
  for (const { used, curve, pull } of pulls) {
    if (!used || !curve || pull.setup !== setup) continue;
    const drop = sensorOf(bundle, assumptions, curve, keyOf(section), at.dropPa);
    const flow = sensorOf(bundle, assumptions, curve, 'airMassFlow', at.flowKgS);
    if (drop && flow) return { drop, flow };
  }
  return null;
}

/**
 * What sensors may put into the logarithm of one section's drop against another's, as a half width at 95 %: each sensor's own error where
 * the setups were read by different ones; where it is the same one, only what its error does not do to both alike.
 */
export function sensorHalfWidth(a: { drop: Sensor; flow: Sensor; dropPa: number }, b: typeof a, flowKgS: number): number {
  // The drop goes about with the square of the flow.
  const flowShare = (sensor: Sensor) => (2 * sensor.accuracy) / flowKgS;
  const drop =
    a.drop.id === b.drop.id
      ? a.drop.accuracy * Math.abs(1 / b.dropPa - 1 / a.dropPa)
      : together(a.drop.accuracy / a.dropPa, b.drop.accuracy / b.dropPa);
  return together(drop, a.flow.id === b.flow.id ? 0 : together(flowShare(a.flow), flowShare(b.flow)));
}

/** Every logged section of every setup: its drop at the reference's flow, the effective area of its turbulent part, and the laminar share. */
export function restrictionFindings(
  bundle: Bundle,
  assumptions: Assumptions,
  pulls: readonly AnalysedPull[],
  setups: readonly string[],
  band: Band,
): Findings['restriction'] {
  const reference = bundle.setups.find((setup) => setup.reference)?.id ?? setups[0]!;
  return setups.flatMap((setup) =>
    sectionsOf(pulls, [setup]).flatMap((section) => {
      const own = pulls.filter((entry) => entry.used && entry.pull.setup === setup);
      const laws = own.flatMap((entry) => sectionLaw(entry, section) ?? []);
      const flowKgS = referenceFlowKgS(pulls, reference, band) ?? referenceFlowKgS(pulls, setup, band);
      if (laws.length === 0 || flowKgS === null) return [];
      const drop = meanInterval(laws.map((law) => dropAtPa(law, flowKgS)))!;
      const sensors = sectionSensors(bundle, assumptions, pulls, setup, section, { dropPa: drop.value, flowKgS });
      const dropHalfPa = sensors ? together(sensors.drop.accuracy, (2 * sensors.flow.accuracy * drop.value) / flowKgS) : 0;
      const dropPa = widened(drop, dropHalfPa);
      const area = areaOf(laws);
      // An area goes with the flow and with the inverse root of the drop.
      const areaHalf =
        sensors && area ? area.value * together(sensors.drop.accuracy / (2 * drop.value), sensors.flow.accuracy / flowKgS) : 0;
      const areaM2 = area && widened(area, areaHalf);
      const cm2 = (value: number | null | undefined) => (value == null ? null : value * 1e4);
      return [
        {
          setup,
          section,
          effectiveAreaCm2: cm2(areaM2?.value),
          low: cm2(areaM2?.low),
          high: cm2(areaM2?.high),
          laminarShare: mean(laws.map((law) => (law.laminar * flowKgS) / dropAtPa(law, flowKgS))),
          dropKPa: dropPa.value / 1000,
          dropLow: dropPa.low === null ? null : dropPa.low / 1000,
          dropHigh: dropPa.high === null ? null : dropPa.high / 1000,
          atFlowKgS: flowKgS,
        },
      ];
    }),
  );
}

/** Effective area of the turbulent part, m²: b = 1/(2A²), from the mean of b; null where the section is laminar throughout. */
function areaOf(laws: readonly SectionLaw[]) {
  const turbulent = meanInterval(laws.map((law) => law.turbulent))!;
  if (!(turbulent.value > 0)) return null;
  const area = (b: number) => Math.sqrt(1 / (2 * b));
  const { low, high } = turbulent;
  return { value: area(turbulent.value), low: high === null ? null : area(high), high: low === null || low <= 0 ? null : area(low) };
}

/** An interval widened by an independent half width; without repeats there is none. */
function widened(interval: { value: number; low: number | null; high: number | null }, half: number) {
  const { value, low, high } = interval;
  return {
    value,
    low: low === null ? null : value - together(value - low, half),
    high: high === null ? null : value + together(high - value, half),
  };
}
