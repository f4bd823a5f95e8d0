import { z } from './zod.js';
import { questionKindSchema } from './bundle.js';
import { drivesSchema } from './drive.js';

/**
 * Something that findings say, as a code with its values; its text stands beside it in the field that `said` names. Values are in the unit that
 * their name ends with.
 */
export const saidSchema = z.object({ code: z.string(), values: z.unknown() });
/** What the texts of an object say, by the text's field. */
export const saidFieldsSchema = z.record(z.string(), z.array(saidSchema));

export const PULL_FLAGS = [
  'throttle-closed',
  'slip',
  'short',
  'boost-low',
  'lean',
  'copied',
  'timing-pulled',
  'spike',
  'air-meter-implausible',
  'started-hot',
  'started-cold',
  'typed',
  // Those below leave nothing out, and cloud nothing by themselves.
  'wobble',
  'outlier',
  'learning',
  'misfire',
  'boost-off-target',
  'ramp-differs',
  'gear-differs',
  'smoothing-differs',
  'drop-not-square',
  'devices-contradict',
  'channel-stuck',
  'channel-saturated',
  'channel-unplugged',
  'channel-implausible',
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
  'condition-not-met',
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
  said: saidFieldsSchema,
  affects: z.array(affectedSchema),
  /** What the confound withholds here and now; empty where it is only said. */
  withholds: z.array(affectedSchema),
});
export type Confound = z.infer<typeof confoundSchema>;

export const estimateSchema = z.object({ pct: z.number(), low: z.number(), high: z.number() });
export type EstimatePct = z.infer<typeof estimateSchema>;

export const powerVerdictSchema = z.enum(['gain', 'loss', 'no-difference', 'not-resolved', 'withheld']);
export type PowerVerdict = z.infer<typeof powerVerdictSchema>;

/** The estimate that an answer quotes. */
export const ANSWER_ESTIMATES = [
  'levelled',
  'ownStart',
  'chargeTemperature',
  'pressureDrop',
  'lambda',
  'airMeter',
  'coolantTemperature',
  'response',
  'fade',
  'evidence',
] as const;

export const answerSchema = z.object({
  question: z.string(),
  kind: questionKindSchema,
  answer: z.enum(['gain', 'loss', 'no-difference', 'not-resolved', 'withheld']),
  estimate: z.number().nullable(),
  low: z.number().nullable(),
  high: z.number().nullable(),
  unit: z.string(),
  of: z.enum(ANSWER_ESTIMATES),
  /** The smallest difference that matters, or the limit, in the answer's unit. */
  smallest: z.number(),
  why: z.string(),
  said: saidFieldsSchema,
});
export type Answer = z.infer<typeof answerSchema>;

/** Rows of the split, in the order of their steps; `weighting` stands twice, once before each of the two levelled ends. */
export const CAUSES = [
  'weather',
  'heatState',
  'drift',
  'learning',
  'oil',
  'weighting',
  'chargeTemperature',
  'manifoldPressure',
  'breathing',
  'ignition',
  'mixture',
  'unexplained',
] as const;
export type Cause = (typeof CAUSES)[number];
/** What one step took out of the difference; null with the reason where its channel is missing. */
export const contributionSchema = z.object({
  cause: z.enum(CAUSES),
  pct: z.number().nullable(),
  low: z.number().nullable(),
  high: z.number().nullable(),
  reason: z.string().nullable(),
  /** Channels that it rests on. */
  restsOn: z.array(z.string()),
  said: saidFieldsSchema,
});
export type Contribution = z.infer<typeof contributionSchema>;

/** A pull of a pair on its way to the number; per cent of the reference's mean as run. What is not used is not levelled. */
export const levelledPullSchema = z.object({
  pull: z.string(),
  setup: z.string(),
  asRunPct: z.number(),
  levelledPct: z.number().nullable(),
  /** What was taken out of it, by cause: posterior means. */
  takenPct: z.partialRecord(z.enum(CAUSES), z.number()),
  badChance: z.number().nullable(),
});
export type LevelledPull = z.infer<typeof levelledPullSchema>;
/** What a habit would have reported from the same pulls. */
export const habitSchema = z.object({ code: z.enum(['best', 'mean', 'first', 'last']), pct: z.number() });
export type Habit = z.infer<typeof habitSchema>;
export const levellingSchema = z.object({ pulls: z.array(levelledPullSchema), habits: z.array(habitSchema) });
export type Levelling = z.infer<typeof levellingSchema>;

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

/** What a pull did to its intake air: °C, K, and how it fell back afterwards. */
export const pullHeatSchema = z.object({
  startC: z.number(),
  peakC: z.number(),
  riseK: z.number(),
  risePerS: z.number().nullable(),
  /** Per kJ of work where power is measured. */
  risePerWheelKJ: z.number().nullable(),
  startAboveAmbientK: z.number().nullable(),
  peakAboveAmbientK: z.number().nullable(),
  /** One exponential through the temperatures until the next pull: its time constant with its 95 % interval; null where too little is logged. */
  recovery: z.object({ tauS: z.number(), lowS: z.number(), highS: z.number(), endAboveAmbientK: z.number() }).nullable(),
});
export type PullHeat = z.infer<typeof pullHeatSchema>;

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
  heat: pullHeatSchema.nullable().default(null),
  flags: z.array(pullFlagSchema),
  warnings: z.array(z.string()),
  said: saidFieldsSchema,
});
export type PullFinding = z.infer<typeof pullFindingSchema>;

/** What else has seen the change, mean over the band, candidate minus reference; ratios in per cent, the rest in the unit kept inside. */
export const witnessSchema = z.object({
  /** A drop's is its channel, `pressureDrop/section`. */
  code: z.string(),
  kind: z.enum(['percent', 'pressureDifference', 'degrees']),
  value: z.number(),
  low: z.number().nullable(),
  high: z.number().nullable(),
  restsOn: z.array(z.string()),
  /** Whether it says what power says. */
  agrees: z.enum(['agrees', 'apart', 'cannot-tell']),
});
export type Witness = z.infer<typeof witnessSchema>;

/** An assumption that the answer rests on: moved by itself, it changes it. */
export const leansOnSchema = z.object({
  assumption: z.string(),
  from: z.union([z.number(), z.string()]).nullable(),
  to: z.union([z.number(), z.string()]),
  answerThen: powerVerdictSchema.exclude(['withheld']),
});
export type LeansOn = z.infer<typeof leansOnSchema>;

const rangeSchema = z.object({ low: z.number(), high: z.number() });

export const comparisonSchema = z.object({
  reference: z.string(),
  candidate: z.string(),
  bandUsedRpm: z.tuple([z.number(), z.number()]),
  asRun: estimateSchema.nullable(),
  levelled: estimateSchema.nullable(),
  ownStart: estimateSchema.nullable(),
  ownStartReason: z.string().nullable(),
  sameAir: estimateSchema.nullable(),
  sameAirReason: z.string().nullable(),
  /** What may differ beside the flow at the same air: changed, or not logged. Empty: it is what the flow did. */
  sameAirContains: z.array(z.enum(['tune', 'fuel', 'ignition', 'mixture', 'manifoldPressure'])),
  /** Where the engine control cut the band: the leading estimate on the whole asked band, closed throttle included. */
  wholeBand: estimateSchema.nullable(),
  wholeBandReason: z.string().nullable(),
  /** The estimate that `verdict.power` quotes. */
  leading: z.enum(['levelled', 'ownStart']),
  /** The plain difference without any weather correction. */
  uncorrected: estimateSchema.nullable(),
  /** The plain difference with the boosted-engine estimate c9; null where it does not apply. */
  boostedEstimate: estimateSchema.nullable(),
  contributions: z.array(contributionSchema),
  levelling: levellingSchema.nullable(),
  witnesses: z.array(witnessSchema),
  /** Rise of intake air over the sweep from the same start, candidate less reference, K; null where it is not logged. */
  riseAtEqualStartK: z.object({ value: z.number(), low: z.number(), high: z.number() }).nullable().default(null),
  /** What it would be at the engine: wheel power times an assumed factor, an estimate and no measurement; null where it cannot be made. */
  engineEstimate: z
    .object({ metric: z.string(), factor: rangeSchema, referenceKW: rangeSchema, differenceKW: rangeSchema })
    .nullable()
    .default(null),
  /** Single changes of a short list that change the answer; null where they have not been tried yet. */
  leansOn: z.array(leansOnSchema).nullable(),
  verdict: z.object({ power: powerVerdictSchema, why: z.string(), said: saidFieldsSchema }),
  answers: z.array(answerSchema),
  confounds: z.array(confoundSchema),
  smallestResolvablePct: z.number().nullable(),
  smallestNoDifferencePct: z.number().nullable(),
  morePulls: z.number().nullable(),
  morePullsReason: z.string().nullable(),
  weights: weightsSchema.nullable(),
  notes: z.array(z.string()),
  said: saidFieldsSchema,
});
export type Comparison = z.infer<typeof comparisonSchema>;

const sectionSideSchema = z.object({ areaCm2: z.number(), low: z.number().nullable(), high: z.number().nullable() });
export const restrictionSchema = z.object({
  setup: z.string(),
  section: z.string(),
  /** Of the turbulent part; null where the section is laminar throughout. */
  effectiveAreaCm2: z.number().nullable(),
  low: z.number().nullable(),
  high: z.number().nullable(),
  /** Share of the drop that goes with the flow and not with its square, at the reference flow. */
  laminarShare: z.number(),
  dropKPa: z.number(),
  dropLow: z.number().nullable(),
  dropHigh: z.number().nullable(),
  atFlowKgS: z.number(),
  /** Whether the flow is a meter's, or made of engine speed and the charge in the manifold. */
  flowFrom: z.enum(['meter', 'speed-density']).default('meter'),
  /** The drop is more than the section's: ambient minus manifold pressure. */
  atMost: z.boolean().default(false),
  /** Used pulls it was fitted over; null in findings from before it was said. */
  pulls: z.number().nullable().default(null),
  /** Where the section changes at one engine speed, as a flap does, its area on both sides; the other figures are of the side of `atFlowKgS`. */
  step: z
    .object({
      atRpm: z.number(),
      atFlowKgS: z.number(),
      /** Change of the drop at that flow. */
      changePct: z.number(),
      below: sectionSideSchema.nullable(),
      above: sectionSideSchema.nullable(),
    })
    .nullable()
    .default(null),
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

const withIntervalSchema = z.object({ value: z.number(), low: z.number().nullable(), high: z.number().nullable() });
/** A run at full throttle in one gear on the road. */
export const roadRunSchema = z.object({
  pull: z.string(),
  setup: z.string(),
  /** By its channel or by the ratio of engine to road speed; null where neither tells. */
  gear: z.number().nullable(),
  rpmPerMS: z.number().nullable(),
  fromRpm: z.number(),
  toRpm: z.number(),
  seconds: z.number(),
  startIntakeAirC: z.number().nullable(),
  endIntakeAirC: z.number().nullable(),
  riseK: z.number().nullable(),
  sparkAtTopDeg: z.number().nullable(),
  knockAtTopDeg: z.number().nullable(),
  /** Estimated from mass, drag and slope, uniform over engine speed; null where the car's mass or the weather is not known. */
  wheelPower: z.object({ meanKW: z.number(), low: z.number(), high: z.number() }).nullable(),
});
export type RoadRun = z.infer<typeof roadRunSchema>;
/** What the runs of two setups in one gear have in common, candidate less reference. */
export const roadPairSchema = z.object({
  reference: z.string(),
  candidate: z.string(),
  gear: z.number(),
  fromRpm: z.number(),
  toRpm: z.number(),
  /** Whether some run went further: only what all have is compared. */
  unequal: z.boolean(),
  runs: z.object({ reference: z.number(), candidate: z.number() }),
  /** Time through the common part: the reference's mean, and the difference. */
  referenceS: z.number(),
  seconds: withIntervalSchema.nullable(),
  /** Rise of intake air, K/s. */
  risePerS: withIntervalSchema.nullable(),
});

export const claimStateSchema = z.enum(['holds', 'open', 'contradicted', 'withheld', 'not-checked']);
export const claimFindingSchema = z.object({
  claim: z.string(),
  candidate: z.string().nullable(),
  state: claimStateSchema,
  /** The estimate that it is held against; null where there is none. */
  of: z.enum([...ANSWER_ESTIMATES, 'flowBench']).nullable(),
  value: z.number().nullable(),
  low: z.number().nullable(),
  high: z.number().nullable(),
  unit: z.string(),
  why: z.string(),
  said: saidFieldsSchema,
});
export type ClaimFinding = z.infer<typeof claimFindingSchema>;

/** A sentence held against the measurement: what was understood of it, and what the measurement says to that. */
export const claimCheckedSchema = z.object({ understood: z.string(), finding: claimFindingSchema.nullable() });
export type ClaimChecked = z.infer<typeof claimCheckedSchema>;

export const findingsSchema = z.object({
  format: z.literal('gezeit-findings'),
  version: z.literal(1),
  pulls: z.array(pullFindingSchema),
  comparisons: z.array(comparisonSchema),
  claims: z.array(claimFindingSchema),
  restriction: z.array(restrictionSchema),
  chargeCooling: z.array(chargeCoolingSchema),
  road: z.object({ runs: z.array(roadRunSchema), pairs: z.array(roadPairSchema) }).default({ runs: [], pairs: [] }),
  drives: drivesSchema.default({ drives: [], pairs: [] }),
  warnings: z.array(z.string()),
  said: saidFieldsSchema,
});
export type Findings = z.infer<typeof findingsSchema>;
