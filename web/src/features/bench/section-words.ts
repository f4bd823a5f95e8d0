import type { LossSource, SECTION_FINDINGS, SectionKind, SectionPurpose } from '@gezeit/contract';
import type { UnitName } from '@gezeit/core';

export const SECTION_WORDS: Record<SectionKind, string> = {
  opening: 'opening',
  duct: 'duct',
  step: 'step',
  snorkel: 'snorkel',
  filter: 'filter',
  'box-outlet': 'box outlet',
  hose: 'hose',
  'meter-housing': 'air meter housing',
  bend: 'bend',
  coupler: 'coupler',
  'compressor-entry': 'compressor entry',
  cooler: 'cooler',
  throttle: 'throttle',
};
/** Where a loss comes from: the word always stands beside the figure. */
export const SOURCE_WORDS: Record<LossSource, string> = { geometry: 'estimated', bench: 'flow bench', car: 'in the car' };
export const SOURCE_WHY: Record<LossSource, string> = {
  geometry: 'Estimated from geometry: good to a factor of about one and a half.',
  bench: 'Measured on the flow bench, with its interval.',
  car: 'Measured in the car: from the logged drop of its pulls, or a drop that is typed.',
};
export const FINDING_WORDS: Record<(typeof SECTION_FINDINGS)[number], string> = {
  obstruction: 'something in the way',
  'leak-path': 'way past it',
  'rough-wall': 'rough wall',
  'soft-wall': 'wall that gives way',
  'area-change': 'sudden area change',
  'shape-change': 'shape change',
  other: 'something else',
};
/** A finding's kind in words; one that is not on offer is its own word. */
export function findingWord(kind: string): string {
  return (FINDING_WORDS as Record<string, string>)[kind] ?? kind;
}
export const PURPOSE_WORDS: Record<SectionPurpose, string> = {
  movement: 'engine movement',
  access: 'access',
  sound: 'sound',
  water: 'water',
  dust: 'dust',
  emissions: 'emissions',
  'meter-flow': 'guiding the flow to the meter',
  condensation: 'condensation',
  'extra-air': 'extra air at high load',
};

export interface GeometryWords {
  label: string;
  unit: UnitName;
  /** Factor from the stored field to the unit kept inside. */
  factor: number;
  why: string;
}
export type GeometryNumber =
  | 'areaCm2'
  | 'areaAfterCm2'
  | 'lengthMm'
  | 'bendRadiusMm'
  | 'bendAngleDeg'
  | 'mediaAreaM2'
  | 'mediaResistancePaSM'
  | 'lossCoefficient';
export const GEOMETRY_WORDS: Record<GeometryNumber, GeometryWords> = {
  areaCm2: { label: 'Area', unit: 'cm²', factor: 1e-4, why: 'Smallest free area of the section.' },
  areaAfterCm2: { label: 'Area behind it', unit: 'cm²', factor: 1e-4, why: 'What the step leads into.' },
  lengthMm: { label: 'Length', unit: 'mm', factor: 1e-3, why: 'Along the middle line.' },
  bendRadiusMm: { label: 'Radius of the bend', unit: 'mm', factor: 1e-3, why: 'Of the middle line.' },
  bendAngleDeg: { label: 'Angle', unit: '°', factor: 1, why: 'How far it turns; 90 where nothing is said.' },
  mediaAreaM2: { label: 'Media area', unit: 'm²', factor: 1, why: 'Pleats × depth × length × 2; the filter instrument makes it.' },
  mediaResistancePaSM: {
    label: 'Resistance of the medium',
    unit: 'Pa·s/m',
    factor: 1,
    why: 'Drop over face velocity; 2000 where nothing is said (assumption).',
  },
  lossCoefficient: { label: 'Loss coefficient', unit: '–', factor: 1, why: 'Where you know better than the estimate by kind.' },
};
export const EDGE_WORDS = { sharp: 'sharp', rounded: 'rounded', 'bell-mouth': 'bell mouth' };
