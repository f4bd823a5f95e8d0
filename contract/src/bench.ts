import { z } from './zod.js';

const finite = z.number();
const nullableNumber = finite.nullish();

/** Sections of the air's way, in its order. */
export const SECTION_KINDS = [
  'opening',
  'duct',
  'step',
  'snorkel',
  'filter',
  'box-outlet',
  'hose',
  'meter-housing',
  'bend',
  'coupler',
  'compressor-entry',
  'cooler',
  'throttle',
] as const;
export const sectionKindSchema = z.enum(SECTION_KINDS);
export type SectionKind = z.infer<typeof sectionKindSchema>;

/** What was found on a section, as it is offered; a bundle may name other kinds. */
export const SECTION_FINDINGS = ['obstruction', 'leak-path', 'rough-wall', 'soft-wall', 'area-change', 'shape-change', 'other'] as const;
/** What a stock section is there for. */
export const SECTION_PURPOSES = [
  'movement',
  'access',
  'sound',
  'water',
  'dust',
  'emissions',
  'meter-flow',
  'condensation',
  'extra-air',
] as const;
export type SectionPurpose = (typeof SECTION_PURPOSES)[number];

/** Where a section's loss comes from; always shown with it. */
export const LOSS_SOURCES = ['geometry', 'bench', 'car'] as const;
export type LossSource = (typeof LOSS_SOURCES)[number];

export const sectionGeometrySchema = z.looseObject({
  areaCm2: nullableNumber,
  areaAfterCm2: nullableNumber,
  lengthMm: nullableNumber,
  bendRadiusMm: nullableNumber,
  bendAngleDeg: nullableNumber,
  edge: z.enum(['sharp', 'rounded', 'bell-mouth']).nullish(),
  corrugated: z.boolean().nullish(),
  mediaAreaM2: nullableNumber,
  /** Resistance of the medium, Pa per m/s of face velocity. */
  mediaResistancePaSM: nullableNumber,
  /** Loss coefficient referred to `areaCm2`, where the engineer knows better than the estimate. */
  lossCoefficient: nullableNumber,
});
export type SectionGeometry = z.infer<typeof sectionGeometrySchema>;

/** Loss of a section as measured on the flow bench: Δp = a·μ·V + b·ρ·V², with the relative half width of its 95 % interval. */
export const benchLossSchema = z.looseObject({
  viscousPerM3: finite.nonnegative(),
  inertialPerM4: finite.nonnegative(),
  /** Half width of the drop's 95 % interval, per cent of the drop. */
  halfWidthPct: finite.nonnegative().nullish(),
  /** Largest volume flow that was measured, m³/s. */
  largestFlowM3S: finite.positive().nullish(),
  evidence: z.string().nullish(),
  /** The item of that evidence, as the sheet calls it. */
  item: z.string().nullish(),
});

/** Loss of a section as measured in the car: a drop at a flow and density. */
export const carLossSchema = z.looseObject({
  /** Name of the logged section; its figures are taken from the pulls where there are any. */
  section: z.string().nullish(),
  dropKPa: finite.positive().nullish(),
  lowKPa: nullableNumber,
  highKPa: nullableNumber,
  atFlowKgS: finite.positive().nullish(),
});

export const pathSectionSchema = z.looseObject({
  id: z.string().min(1),
  kind: sectionKindSchema,
  name: z.string().min(1),
  geometry: sectionGeometrySchema.default({}),
  findings: z.array(z.looseObject({ kind: z.string().min(1), text: z.string().default(''), photo: z.string().nullish() })).default([]),
  purposes: z
    .array(
      z.looseObject({
        purpose: z.enum(SECTION_PURPOSES),
        /** What the new part does instead, and how that was checked. */
        replacedBy: z.string().default(''),
        checkedHow: z.string().default(''),
      }),
    )
    .default([]),
  source: z.enum(LOSS_SOURCES).default('geometry'),
  bench: benchLossSchema.nullish(),
  car: carLossSchema.nullish(),
});
export type PathSection = z.infer<typeof pathSectionSchema>;

/** A number, text, list or table as an instrument of the bench takes it; in the unit kept inside. */
export const benchInputSchema = z.union([
  finite,
  z.string(),
  z.array(finite),
  z.array(z.record(z.string(), z.union([finite, z.string(), z.null()]))),
  z.null(),
]);
export type BenchInput = z.infer<typeof benchInputSchema>;
export const benchInputsSchema = z.record(z.string(), benchInputSchema);
export type BenchInputs = z.infer<typeof benchInputsSchema>;

/** The bench of a programme: what each instrument was last set to, and at which engine speed the budget stands. */
export const benchSchema = z.looseObject({
  inputs: z.record(z.string(), benchInputsSchema).default({}),
  budgetRpm: finite.positive().nullish(),
});
export type Bench = z.infer<typeof benchSchema>;

export const figureSchema = z.looseObject({
  name: z.string(),
  label: z.string(),
  /** In the unit kept inside (SI; °C, rpm, %). Null where it cannot be had. */
  value: finite.nullable(),
  unit: z.string(),
  low: finite.nullish(),
  high: finite.nullish(),
  /** A difference of temperatures has no zero to shift. */
  difference: z.boolean().nullish(),
});
export type Figure = z.infer<typeof figureSchema>;

/** A result of the bench that was kept: `evidence/<id>.json`. */
export const evidenceSchema = z.looseObject({
  format: z.literal('gezeit-evidence'),
  version: z.literal(1),
  id: z.string().regex(/^[A-Za-z0-9_-]{1,80}$/),
  instrument: z.string().min(1),
  title: z.string().min(1),
  sentence: z.string().default(''),
  setup: z.string().nullish(),
  section: z.string().nullish(),
  inputs: benchInputsSchema,
  figures: z.array(figureSchema),
  warnings: z.array(z.string()).default([]),
  formulas: z.array(z.string()).default([]),
  assumptions: z.array(z.looseObject({ name: z.string(), value: z.string() })).default([]),
  note: z.string().default(''),
  by: z.string(),
  at: z.iso.datetime({ offset: true }),
});
export type Evidence = z.infer<typeof evidenceSchema>;
/** Evidence as a page sends it: who and when are the server's to say. */
export const evidenceDraftSchema = evidenceSchema.omit({ by: true, at: true });
export type EvidenceDraft = z.infer<typeof evidenceDraftSchema>;

/** What is looked at before the first pull, so that the reference is in service-new condition. */
export const CONDITION_ITEMS = ['filter', 'box', 'leaks', 'clamps', 'codes', 'oil', 'plugs', 'tyres'] as const;
export type ConditionItem = (typeof CONDITION_ITEMS)[number];
export const conditionSchema = z.array(
  z.looseObject({
    item: z.enum(CONDITION_ITEMS),
    state: z.enum(['good', 'not-good']),
    note: z.string().default(''),
    by: z.string(),
    at: z.iso.datetime({ offset: true }),
  }),
);
export type Condition = z.infer<typeof conditionSchema>;
