import type { Bundle, Findings } from '@gezeit/contract';
import type { Assumptions } from '../judge/assumptions.js';
import { sensorOf, together, type Sensor } from '../judge/sensor-accuracy.js';
import { studentQuantile } from '../numeric/distributions.js';
import { mean, sumOfSquares } from '../numeric/means.js';
import { bandMean, type Band } from '../pull/band.js';
import { WHOLE_INTAKE } from '../pull/curve.js';
import {
  areaOfLawM2,
  dropAtPa,
  dropKey,
  fitLaw,
  lawPoints,
  readOff,
  sectionsLogged,
  type LawPoints,
  type ReadOff,
} from '../restriction/section-law.js';
import { lawAtFlow } from '../restriction/section-step.js';
import type { AnalysedPull } from './analysed-pull.js';

/** Sections whose pressure drop is logged on used pulls of all the setups; the empty text is a drop without a section. */
export function sectionsOf(pulls: readonly AnalysedPull[], setups: readonly string[]): string[] {
  const perSetup = setups.map((setup) => {
    const own = pulls.filter((entry) => entry.used && entry.curve && entry.pull.setup === setup);
    return new Set(own.flatMap(({ curve }) => sectionsLogged(curve!)));
  });
  return [...(perSetup[0] ?? [])].filter((section) => perSetup.every((known) => known.has(section)));
}

/** What a pull shows of a section. */
export const pointsOf = (bundle: Bundle, { sensors }: Assumptions, entry: AnalysedPull, section: string): LawPoints | null =>
  lawPoints(bundle.vehicle, sensors.filling, entry, section);

/** A section's drop in one pull, Pa, at a flow, kg/s, and the density at which drops are stated; null where the pull tells no law. */
export function dropOfPullPa(
  bundle: Bundle,
  assumptions: Assumptions,
  entry: AnalysedPull,
  section: string,
  flowKgS: number,
): number | null {
  const points = pointsOf(bundle, assumptions, entry, section);
  return points && dropAtPa(lawAtFlow([points], flowKgS).law, flowKgS);
}

/** The flow at which setups are compared, kg/s: the mean of the reference's used pulls in the band; null where it cannot be had. */
export function referenceFlowKgS(
  bundle: Bundle,
  assumptions: Assumptions,
  pulls: readonly AnalysedPull[],
  reference: string,
  band: Band,
): number | null {
  const own = pulls.filter(({ used, pull, curve }) => used && curve && pull.setup === reference);
  const metered = own.flatMap(({ curve }) => bandMean(curve!, 'airMassFlow', band) ?? []);
  if (metered.length > 0) return mean(metered);
  const made = own.flatMap((entry) => {
    const points = sectionsLogged(entry.curve!)
      .map((section) => pointsOf(bundle, assumptions, entry, section))
      .find((found) => found !== null);
    const inside = points ? [...points.flowKgS].filter((_, i) => points.rpm[i]! >= band[0] && points.rpm[i]! <= band[1]) : [];
    return inside.length > 0 ? [mean(inside)] : [];
  });
  return made.length === 0 ? null : mean(made);
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
    const drop = sensorOf(bundle, assumptions, curve, dropKey(section), at.dropPa);
    const { fillingShare } = assumptions.sensors;
    const flow = sensorOf(bundle, assumptions, curve, 'airMassFlow', at.flowKgS) ?? {
      id: 'speed and density',
      accuracy: fillingShare * at.flowKgS,
    };
    if (drop) return { drop, flow };
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

/** A figure of a setup's section, with what resampling its pulls and its sensors leave open. */
interface SectionFigure {
  value: number;
  low: number | null;
  high: number | null;
}

/**
 * Every logged section of every setup: one law over all its pulls, its drop at the reference's flow, the effective area of its turbulent part,
 * the laminar share, and the engine speed at which it changes, where it does. What a pull more or less would change is found by leaving out
 * whole pulls (jackknife; Efron and Tibshirani, *An Introduction to the Bootstrap*), what the sensors may be off by is put in before the fit.
 */
export function restrictionFindings(
  bundle: Bundle,
  assumptions: Assumptions,
  pulls: readonly AnalysedPull[],
  setups: readonly string[],
  band: Band,
): Findings['restriction'] {
  const reference = bundle.setups.find((setup) => setup.reference)?.id ?? setups[0]!;
  const flowOf = (setup: string) => referenceFlowKgS(bundle, assumptions, pulls, setup, band);
  const of = (setup: string, section: string) =>
    pulls.flatMap((entry) => (entry.used && entry.pull.setup === setup ? (pointsOf(bundle, assumptions, entry, section) ?? []) : []));
  return setups.flatMap((setup) =>
    sectionsOf(pulls, [setup]).flatMap((section) => {
      const own = of(setup, section);
      const flowKgS = flowOf(reference) ?? flowOf(setup);
      if (own.length === 0 || flowKgS === null) return [];
      const { law, step } = lawAtFlow(own, flowKgS);
      const dropPa = dropAtPa(law, flowKgS);
      const sensors = sectionSensors(bundle, assumptions, pulls, setup, section, { dropPa, flowKgS });
      const figures = figuresOf(own, sensors, flowKgS, step !== null);
      const [drop, area] = [figures('dropPa')!, figures('areaM2')];
      return [
        {
          setup,
          section,
          effectiveAreaCm2: area ? area.value * 1e4 : null,
          low: scaled(area?.low ?? null, 1e4),
          high: scaled(area?.high ?? null, 1e4),
          laminarShare: (law.laminar * flowKgS) / dropPa,
          dropKPa: dropPa / 1000,
          dropLow: scaled(drop.low, 1e-3),
          dropHigh: scaled(drop.high, 1e-3),
          atFlowKgS: flowKgS,
          flowFrom: own[0]!.flowFrom,
          atMost: section === WHOLE_INTAKE.atMost,
          pulls: own.length,
          step: step && {
            atRpm: step.atRpm,
            atFlowKgS: step.atFlowKgS,
            changePct: step.stepPct,
            below: inCm2(figures('belowM2')),
            above: inCm2(figures('aboveM2')),
          },
        },
      ];
    }),
  );
}

const scaled = (value: number | null, by: number): number | null => (value === null ? null : value * by);

const inCm2 = (side: SectionFigure | null) =>
  side && { areaCm2: side.value * 1e4, low: scaled(side.low, 1e4), high: scaled(side.high, 1e4) };

/** What one law over some pulls says; null where it has no such figure. */
interface LawFigures {
  dropPa: number;
  areaM2: number | null;
  belowM2: number | null;
  aboveM2: number | null;
}

/** @param isStepped whether a step is looked for: what all pulls together do not show, all but one do not either. */
function lawFigures(pulls: readonly LawPoints[], flowKgS: number, isStepped: boolean, off?: ReadOff): LawFigures {
  const asRead = () => (off ? pulls.map((points) => readOff(points, off)) : pulls);
  const { law, step } = isStepped ? lawAtFlow(asRead(), flowKgS) : { law: fitLaw(pulls, off), step: null };
  return {
    dropPa: dropAtPa(law, flowKgS),
    areaM2: areaOfLawM2(law),
    belowM2: step && areaOfLawM2(step.below),
    aboveM2: step && areaOfLawM2(step.above),
  };
}

/** Figures from all pulls, their intervals from leaving out one after the other and from sensors that are off; none from a single pull. */
function figuresOf(
  pulls: readonly LawPoints[],
  sensors: { drop: Sensor; flow: Sensor } | null,
  flowKgS: number,
  isStepped: boolean,
): (key: keyof LawFigures) => SectionFigure | null {
  const all = lawFigures(pulls, flowKgS, isStepped);
  const isRepeated = pulls.length > 1;
  const without = isRepeated
    ? pulls.map((_, left) =>
        lawFigures(
          pulls.filter((__, i) => i !== left),
          flowKgS,
          isStepped,
        ),
      )
    : [];
  const bySensors =
    isRepeated && sensors
      ? [
          lawFigures(pulls, flowKgS, isStepped, { dropPa: sensors.drop.accuracy, flowFactor: 1 }),
          lawFigures(pulls, flowKgS, isStepped, { dropPa: 0, flowFactor: 1 + sensors.flow.accuracy / flowKgS }),
        ]
      : [];
  return (key) => {
    const value = all[key];
    if (value === null) return null;
    if (!isRepeated) return { value, low: null, high: null };
    const left = without.flatMap((figures) => figures[key] ?? []);
    const count = left.length;
    const spread = count < 2 ? 0 : studentQuantile(count - 1) * Math.sqrt(((count - 1) / count) * sumOfSquares(left));
    const half = together(spread, ...bySensors.map((figures) => (figures[key] ?? value) - value));
    return { value, low: value - half, high: value + half };
  };
}
