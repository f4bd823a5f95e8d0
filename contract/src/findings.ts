import { z } from './zod.js';

export const PULL_FLAGS = [
  'throttle-closed',
  'slip',
  'short',
  'boost-low',
  'lean',
  'timing-pulled',
  'spike',
  'air-meter-implausible',
  'started-hot',
  'started-cold',
  'typed',
] as const;
export const pullFlagSchema = z.enum(PULL_FLAGS);
export type PullFlag = z.infer<typeof pullFlagSchema>;

export const CONFOUND_CODES = [
  'tune-changed',
  'fuel-changed',
  'boost-changed',
  'boost-target-changed',
  'bonnet-changed',
  'fan-changed',
  'gear-changed',
  'drive-mode-changed',
  'tyres-changed',
  'learned-state-changed',
  'air-meter-changed',
  'sensor-moved',
  'weather-out-of-range',
  'different-day',
  'different-cell',
  'different-vehicle',
  'coolant-start-apart',
  'several-parts-changed',
  'timing-changed',
  'fuelling-changed',
  'order-confounded',
  'single-pull',
  'air-meter-disagrees',
  // A flag on every pull of a setup becomes a confound of that setup under the flag's own name.
  ...PULL_FLAGS,
] as const;
export const confoundCodeSchema = z.enum(CONFOUND_CODES);
export type ConfoundCode = z.infer<typeof confoundCodeSchema>;

export const affectedSchema = z.enum(['power', 'temperature', 'restriction']);
export type Affected = z.infer<typeof affectedSchema>;

export const confoundSchema = z.object({
  code: confoundCodeSchema,
  detail: z.string(),
  affects: z.array(affectedSchema),
  /** What the confound withholds here and now; empty where it is only said. */
  withholds: z.array(affectedSchema),
});
export type Confound = z.infer<typeof confoundSchema>;

export const estimateSchema = z.object({ pct: z.number(), low: z.number(), high: z.number() });
export type EstimatePct = z.infer<typeof estimateSchema>;

export const powerVerdictSchema = z.enum(['gain', 'loss', 'no-difference', 'not-resolved', 'withheld']);
export type PowerVerdict = z.infer<typeof powerVerdictSchema>;

export const answerSchema = z.object({
  question: z.string(),
  answer: z.enum(['gain', 'loss', 'no-difference', 'not-resolved', 'withheld']),
  estimate: z.number().nullable(),
  low: z.number().nullable(),
  high: z.number().nullable(),
  unit: z.string(),
  why: z.string(),
});
export type Answer = z.infer<typeof answerSchema>;

export const CAUSES = [
  'uncorrected',
  'weather',
  'asRun',
  'heatState',
  'drift',
  'learning',
  'oil',
  'levelled',
  'chargeTemperature',
  'manifoldPressure',
  'sameAir',
  'breathing',
  'ignition',
  'mixture',
  'unexplained',
] as const;
export const contributionSchema = z.object({
  cause: z.enum(CAUSES),
  pct: z.number().nullable(),
  low: z.number().nullable(),
  high: z.number().nullable(),
  reason: z.string().nullish(),
});

/** How the judgement weighed the day, shown next to the number. */
export const weightsSchema = z.object({
  /** Standard deviation of one pull, per cent, as the day itself suggests it. */
  noisePct: z.number(),
  /** Chance of each story of the engine control unit: 0 to 1. */
  story: z.object({ none: z.number(), day: z.number(), swap: z.number() }),
  /** Chance that a pull is bad, by pull id: 0 to 1. */
  badPull: z.record(z.string(), z.number()),
});
export type Weights = z.infer<typeof weightsSchema>;

export const pullFindingSchema = z.object({
  id: z.string(),
  setup: z.string(),
  status: z.enum(['used', 'excluded']),
  reasons: z.array(z.string()),
  startS: z.number().nullable(),
  endS: z.number().nullable(),
  correctionFactor: z.number().nullable(),
  meanPowerUncorrectedKW: z.number().nullable(),
  meanPowerKW: z.number().nullable(),
  peakPowerKW: z.number().nullable(),
  peakPowerRpm: z.number().nullable(),
  startIntakeAirC: z.number().nullable(),
  intakeAirRiseK: z.number().nullable(),
  flags: z.array(pullFlagSchema),
  warnings: z.array(z.string()),
});
export type PullFinding = z.infer<typeof pullFindingSchema>;

export const comparisonSchema = z.object({
  reference: z.string(),
  candidate: z.string(),
  bandUsedRpm: z.tuple([z.number(), z.number()]),
  asRun: estimateSchema.nullable(),
  levelled: estimateSchema.nullable(),
  ownStart: estimateSchema.nullable(),
  ownStartReason: z.string().nullable(),
  sameAir: estimateSchema.nullable(),
  /** The plain difference without any weather correction. */
  uncorrected: estimateSchema.nullable(),
  /** The plain difference with the boosted-engine estimate c9; null where it does not apply. */
  boostedEstimate: estimateSchema.nullable(),
  contributions: z.array(contributionSchema),
  verdict: z.object({ power: powerVerdictSchema, why: z.string() }),
  answers: z.array(answerSchema),
  confounds: z.array(confoundSchema),
  smallestResolvablePct: z.number().nullable(),
  smallestNoDifferencePct: z.number().nullable(),
  morePulls: z.number().nullable(),
  morePullsReason: z.string().nullable(),
  weights: weightsSchema.nullable(),
  notes: z.array(z.string()),
});
export type Comparison = z.infer<typeof comparisonSchema>;

export const restrictionSchema = z.object({
  setup: z.string(),
  section: z.string(),
  effectiveAreaCm2: z.number(),
  low: z.number().nullable(),
  high: z.number().nullable(),
  dropKPa: z.number(),
  atFlowKgS: z.number(),
});

export const chargeCoolingSchema = z.object({
  setup: z.string(),
  effectiveness: z.number(),
  low: z.number().nullable(),
  high: z.number().nullable(),
  coldSide: z.enum(['ambient', 'coolingAir', 'coolantIn']),
  intakeAirRiseK: z.number().nullable(),
  risePerKJ: z.number().nullable(),
  pressureDropKPa: z.number().nullable(),
});
export type ChargeCooling = z.infer<typeof chargeCoolingSchema>;

export const findingsSchema = z.object({
  format: z.literal('gezeit-findings'),
  version: z.literal(1),
  pulls: z.array(pullFindingSchema),
  comparisons: z.array(comparisonSchema),
  restriction: z.array(restrictionSchema),
  chargeCooling: z.array(chargeCoolingSchema),
  warnings: z.array(z.string()),
});
export type Findings = z.infer<typeof findingsSchema>;
