import { z } from './zod.js';
import { ASSUMPTION_KEYS } from './assumptions.js';
import { correctionSchema, metricSchema } from './bundle.js';
import { estimateSchema, leansOnSchema, powerVerdictSchema } from './findings.js';

/** One thing chosen otherwise than it was, beside the same pulls. */
export const choiceChangeSchema = z.discriminatedUnion('what', [
  /** `C9`: the estimate for boosted engines. */
  z.object({ what: z.literal('correction'), to: z.union([correctionSchema, z.literal('C9')]) }),
  /** Exponent of power on ambient temperature, with pressure corrected in full. */
  z.object({ what: z.literal('temperatureExponent'), to: z.number() }),
  z.object({ what: z.literal('metric'), to: metricSchema }),
  z.object({ what: z.literal('bandLow'), to: z.number() }),
  z.object({ what: z.literal('bandHigh'), to: z.number() }),
  /** A pull left out. */
  z.object({ what: z.literal('pull'), to: z.string() }),
  z.object({ what: z.literal('drift'), to: z.literal(0) }),
  z.object({ what: z.literal('learning'), to: z.literal(0) }),
  /** Power per kelvin at the start taken as known, a fraction. */
  z.object({ what: z.literal('powerPerKelvin'), to: z.number() }),
  /** Oil at the start not taken out. */
  z.object({ what: z.literal('oil'), to: z.literal(0) }),
  /** Peaks read from a curve smoothed over another window, rpm. */
  z.object({ what: z.literal('smoothing'), to: z.number() }),
]);
export type ChoiceChange = z.infer<typeof choiceChangeSchema>;

export const choiceAnswerSchema = powerVerdictSchema.exclude(['withheld']);
export type ChoiceAnswer = z.infer<typeof choiceAnswerSchema>;

/** Some things chosen otherwise, and what the same pulls then say; null where they then say nothing. */
export const choiceSchema = z.object({
  changes: z.array(choiceChangeSchema),
  estimate: estimateSchema.nullable(),
  answer: choiceAnswerSchema.nullable(),
});
export type Choice = z.infer<typeof choiceSchema>;

/** What an assumption does to the estimate when it is moved: by its own standard deviation, or by half of itself where it has none. */
export const assumptionEffectSchema = z.object({ key: z.enum(ASSUMPTION_KEYS), by: z.enum(['sd', 'half']), movesPct: z.number() });
export type AssumptionEffect = z.infer<typeof assumptionEffectSchema>;

/** The choices of one comparison, about the question of power that leads it. */
export const comparisonChoicesSchema = z.object({
  reference: z.string(),
  candidate: z.string(),
  /** The question; null where none about power was asked. */
  question: z.string().nullable(),
  smallestPct: z.number(),
  /** What was chosen, and its answer by the interval alone. */
  base: z.object({ estimate: estimateSchema, answer: choiceAnswerSchema }).nullable(),
  /** Whether the answer is withheld whatever is chosen. */
  withheld: z.boolean(),
  choices: z.array(choiceSchema),
  leansOn: z.array(leansOnSchema),
  effects: z.array(assumptionEffectSchema),
});
export type ComparisonChoices = z.infer<typeof comparisonChoicesSchema>;

/** How much is tried: only what the answer is known to lean on or not, which comes first, or everything. */
export const choicesExtentSchema = z.enum(['short', 'all']);
export type ChoicesExtent = z.infer<typeof choicesExtentSchema>;
export const choicesSchema = z.object({ comparisons: z.array(comparisonChoicesSchema) });
export type Choices = z.infer<typeof choicesSchema>;
