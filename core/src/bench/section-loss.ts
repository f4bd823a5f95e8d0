import type { Findings, PathSection, SectionGeometry, SectionKind } from '@gezeit/contract';
import { viscosityPaS } from '../air/moist-air.js';
import { dryAirDensity } from '../demand/air-demand.js';
import type { DropLaw, GasState } from '../flow/drop-law.js';
import { dropOfLaw } from '../flow/drop-law.js';

/** Loss coefficients by kind of section, referred to its own area; assumptions after Idelchik and Weisbach. */
export const LOSS_ASSUMPTIONS = {
  edge: { sharp: 0.5, rounded: 0.2, 'bell-mouth': 0.05 },
  frictionSmooth: 0.02,
  frictionCorrugated: 0.08,
  meterHousing: 0.3,
  compressorEntry: 0.1,
  throttle: 0.2,
  boxOutlet: 0.5,
  /** Resistance of a dry medium, Pa per m/s of face velocity. */
  mediaResistancePaSM: 2000,
  /** An estimate from geometry lies within these factors of the truth. */
  low: 0.6,
  high: 1.6,
} as const;

/** What a geometry needs, by kind of section; what is not named here is not asked. */
export const GEOMETRY_FIELDS: Record<SectionKind, readonly (keyof SectionGeometry)[]> = {
  opening: ['areaCm2', 'edge', 'lossCoefficient'],
  duct: ['areaCm2', 'lengthMm', 'corrugated', 'lossCoefficient'],
  step: ['areaCm2', 'areaAfterCm2', 'lossCoefficient'],
  snorkel: ['areaCm2', 'lengthMm', 'edge', 'lossCoefficient'],
  filter: ['mediaAreaM2', 'mediaResistancePaSM', 'areaCm2'],
  'box-outlet': ['areaCm2', 'edge', 'lossCoefficient'],
  hose: ['areaCm2', 'lengthMm', 'corrugated', 'lossCoefficient'],
  'meter-housing': ['areaCm2', 'lossCoefficient'],
  bend: ['areaCm2', 'bendRadiusMm', 'bendAngleDeg', 'lossCoefficient'],
  coupler: ['areaCm2', 'areaAfterCm2', 'lossCoefficient'],
  'compressor-entry': ['areaCm2', 'lossCoefficient'],
  cooler: ['areaCm2', 'lossCoefficient'],
  throttle: ['areaCm2', 'lossCoefficient'],
};

/** Law of a section's loss, its relative limits where they are known, and where it comes from. */
export interface SectionLoss {
  law: DropLaw;
  /** Limits of the drop, as factors; null where only one reading exists. */
  low: number | null;
  high: number | null;
  source: PathSection['source'];
  /** Largest volume flow that was measured, m³/s. */
  largestFlowM3S: number | null;
}
export type MissingLoss = { missing: string };

const AIR_25C: GasState = { viscosityPaS: viscosityPaS(25), densityKgM3: dryAirDensity(100_000, 25) };

/**
 * Loss of a section from the source that it names: estimated from geometry, measured on the flow bench, or measured in the car (the
 * setup's own findings where there are any). Says what is missing where it cannot be had.
 */
export function sectionLoss(
  section: PathSection,
  setup: string,
  findings: Pick<Findings, 'restriction'> | null,
): SectionLoss | MissingLoss {
  if (section.source === 'bench') return benchLoss(section);
  if (section.source === 'car') return carLoss(section, setup, findings);
  const law = lawOfGeometry(section.kind, section.geometry);
  if ('missing' in law) return law;
  return { law, low: LOSS_ASSUMPTIONS.low, high: LOSS_ASSUMPTIONS.high, source: 'geometry', largestFlowM3S: null };
}

function benchLoss({ bench }: PathSection): SectionLoss | MissingLoss {
  if (!bench) return { missing: 'no reading of the flow bench is taken over yet' };
  const half = bench.halfWidthPct == null ? null : bench.halfWidthPct / 100;
  return {
    law: { viscousPerM3: bench.viscousPerM3, inertialPerM4: bench.inertialPerM4 },
    low: half === null ? null : Math.max(0, 1 - half),
    high: half === null ? null : 1 + half,
    source: 'bench',
    largestFlowM3S: bench.largestFlowM3S ?? null,
  };
}

function carLoss({ car, name }: PathSection, setup: string, findings: Pick<Findings, 'restriction'> | null): SectionLoss | MissingLoss {
  const logged = findings?.restriction.find((entry) => entry.setup === setup && entry.section === (car?.section ?? name));
  const measured = logged
    ? {
        dropPa: logged.dropKPa * 1000,
        flowKgS: logged.atFlowKgS,
        low: ratio(logged.dropLow, logged.dropKPa),
        high: ratio(logged.dropHigh, logged.dropKPa),
        laminarShare: logged.laminarShare,
      }
    : car?.dropKPa && car.atFlowKgS
      ? {
          dropPa: car.dropKPa * 1000,
          flowKgS: car.atFlowKgS,
          low: ratio(car.lowKPa, car.dropKPa),
          high: ratio(car.highKPa, car.dropKPa),
          laminarShare: 0,
        }
      : null;
  if (!measured) return { missing: 'no pull has logged this section, and no drop is typed' };
  const volumeFlow = measured.flowKgS / AIR_25C.densityKgM3;
  return {
    law: {
      viscousPerM3: (measured.laminarShare * measured.dropPa) / (AIR_25C.viscosityPaS * volumeFlow),
      inertialPerM4: ((1 - measured.laminarShare) * measured.dropPa) / (AIR_25C.densityKgM3 * volumeFlow ** 2),
    },
    low: measured.low,
    high: measured.high,
    source: 'car',
    largestFlowM3S: volumeFlow,
  };
}

const ratio = (value: number | null | undefined, of: number) => (value == null ? null : value / of);

/** Law of a section estimated from its geometry, or what is missing. */
export function lawOfGeometry(kind: SectionKind, geometry: SectionGeometry): DropLaw | MissingLoss {
  const area = geometry.areaCm2 ? geometry.areaCm2 * 1e-4 : null;
  if (kind === 'filter' && geometry.mediaAreaM2) {
    const resistance = geometry.mediaResistancePaSM ?? LOSS_ASSUMPTIONS.mediaResistancePaSM;
    const frame = area ? 1 / (2 * area ** 2) : 0;
    return { viscousPerM3: resistance / (AIR_25C.viscosityPaS * geometry.mediaAreaM2), inertialPerM4: frame };
  }
  if (!area || area <= 0) return { missing: kind === 'filter' ? 'the media area is not said' : 'the area is not said' };
  const coefficient = geometry.lossCoefficient ?? estimatedCoefficient(kind, geometry, area);
  if (typeof coefficient === 'object') return coefficient;
  return { viscousPerM3: 0, inertialPerM4: Math.max(0, coefficient) / (2 * area ** 2) };
}

function estimatedCoefficient(kind: SectionKind, geometry: SectionGeometry, areaM2: number): number | MissingLoss {
  const a = LOSS_ASSUMPTIONS;
  const diameterM = Math.sqrt((4 * areaM2) / Math.PI);
  const friction = () => ((geometry.corrugated ? a.frictionCorrugated : a.frictionSmooth) * ((geometry.lengthMm ?? 0) / 1000)) / diameterM;
  switch (kind) {
    case 'opening':
      return a.edge[geometry.edge ?? 'sharp'];
    case 'snorkel':
      return a.edge[geometry.edge ?? 'sharp'] + friction();
    case 'duct':
    case 'hose':
      return geometry.lengthMm ? friction() : { missing: 'the length is not said' };
    case 'step':
    case 'coupler': {
      if (!geometry.areaAfterCm2) return { missing: 'the area behind it is not said' };
      const after = geometry.areaAfterCm2 * 1e-4;
      // Widening loses the difference of velocities (Borda–Carnot); narrowing about half of what the throat's speed holds (Idelchik).
      return after >= areaM2 ? (1 - areaM2 / after) ** 2 : 0.5 * (1 - after / areaM2) * (areaM2 / after) ** 2;
    }
    case 'bend': {
      if (!geometry.bendRadiusMm) return { missing: 'the radius is not said' };
      // Weisbach; the radius is the pipe's middle line.
      const perRight = 0.131 + 0.163 * Math.min(8, (diameterM / (geometry.bendRadiusMm / 1000)) ** 3.5);
      return (perRight * (geometry.bendAngleDeg ?? 90)) / 90;
    }
    case 'box-outlet':
      return geometry.edge ? a.edge[geometry.edge] : a.boxOutlet;
    case 'meter-housing':
      return a.meterHousing;
    case 'compressor-entry':
      return a.compressorEntry;
    case 'throttle':
      return a.throttle;
    default:
      // A cooler's area is taken as an effective one.
      return 1;
  }
}

/** Drop of a loss, Pa, with its limits, at a mass flow, kg/s, of air of a pressure, Pa, and temperature, °C. */
export function dropOfLossPa(
  loss: SectionLoss,
  massFlowKgS: number,
  pressurePa: number,
  temperatureC: number,
): { dropPa: number; lowPa: number | null; highPa: number | null; beyond: boolean } {
  const gas = { viscosityPaS: viscosityPaS(temperatureC), densityKgM3: dryAirDensity(pressurePa, temperatureC) };
  const flow = massFlowKgS / gas.densityKgM3;
  const { dropPa } = dropOfLaw(loss.law, flow, gas);
  return {
    dropPa,
    lowPa: loss.low === null ? null : loss.low * dropPa,
    highPa: loss.high === null ? null : loss.high * dropPa,
    beyond: loss.largestFlowM3S !== null && flow > 1.2 * loss.largestFlowM3S,
  };
}
