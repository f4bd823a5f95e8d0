import { z } from './zod.js';
import { evidenceSchema } from './bench.js';
import { bundleSchema } from './bundle.js';
import { curvesSchema } from './curves.js';
import { findingsSchema } from './findings.js';
import { tideSchema } from './tide.js';

/** Everything that a validation sheet is made from: as it is now, or as it was when a finding was fixed. */
export const sheetSourceSchema = z.object({
  bundle: bundleSchema,
  findings: findingsSchema,
  curves: curvesSchema,
  tide: tideSchema,
  /** What the bench had found; absent in findings that were fixed without it. */
  evidence: z.array(evidenceSchema).optional(),
});
export type SheetSource = z.infer<typeof sheetSourceSchema>;

/** How findings are computed: an equal number, and equal inputs, give equal figures. */
export const METHOD_VERSION = 1;

/** An answer that was fixed: its numbers and words, and what they were made from. It is never computed again. */
export const fixedFindingSchema = z.looseObject({
  format: z.literal('gezeit-fixed-finding'),
  version: z.literal(1),
  id: z.string().min(1).max(80),
  /** The comparisons, as they stood. */
  finding: z.looseObject({ comparisons: findingsSchema.shape.comparisons }),
  /** Every answer in a sentence, in the units of the exchange format. */
  words: z.array(z.string()),
  /** Digests of what it was made from: of a part of the programme as canonical JSON (RFC 8785), of a file by its bytes. */
  inputs: z.record(z.string(), z.string()),
  assumptions: z.record(z.string(), z.unknown()),
  method: z.number(),
  seed: z.number(),
  by: z.string(),
  at: z.string(),
  why: z.string().trim().min(1).max(300),
  /** What the sheet of it is drawn from. */
  sheet: sheetSourceSchema,
});
export type FixedFinding = z.infer<typeof fixedFindingSchema>;

/** A fixed finding in the list of them. */
export const fixedEntrySchema = z.object({
  id: z.string(),
  by: z.string(),
  at: z.string(),
  why: z.string(),
  /** Of the whole fixed finding: what stands on the sheet. */
  digest: z.string(),
  words: z.array(z.string()),
  /** Inputs that have changed since; none where it is up to date. */
  changed: z.array(z.string()),
});
export type FixedEntry = z.infer<typeof fixedEntrySchema>;

export const fixedAnswerSchema = z.object({ entry: fixedEntrySchema, fixed: fixedFindingSchema });
export const fixDraftSchema = z.object({ why: z.string().trim().min(1, 'say why it is fixed').max(300) });

/** A figure that another computation of the same gives otherwise. */
export const differingFigureSchema = z.object({ where: z.string(), fixed: z.string(), now: z.string() });
export type DifferingFigure = z.infer<typeof differingFigureSchema>;

/** What computing it again gives beside it. */
export const checkedAgainSchema = z.object({
  /** Whether what it was made from is what it was. */
  sameInputs: z.boolean(),
  sameMethod: z.boolean(),
  differing: z.array(differingFigureSchema),
});
export type CheckedAgain = z.infer<typeof checkedAgainSchema>;
