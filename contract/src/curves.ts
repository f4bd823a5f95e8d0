import { z } from './zod.js';
import { metricSchema } from './bundle.js';
import { estimateSchema, powerVerdictSchema, saidFieldsSchema } from './findings.js';

/** The same question over a part of the band, by another metric, or at a claimed engine speed. */
export const bandPartSchema = z.object({
  kind: z.enum(['part', 'outside', 'metric', 'claimed']),
  metric: metricSchema,
  fromRpm: z.number(),
  toRpm: z.number(),
  estimate: estimateSchema,
  answer: powerVerdictSchema.exclude(['withheld']),
});
export type BandPart = z.infer<typeof bandPartSchema>;

/** Where the peaks of power stand, means of the used pulls; moved where they lie further apart than their scatter. */
export const peakMoveSchema = z.object({ referenceRpm: z.number(), candidateRpm: z.number(), apartRpm: z.number(), moved: z.boolean() });
export type PeakMove = z.infer<typeof peakMoveSchema>;

/** Mechanisms that the shape fits: hints, never a proof. */
export const HINTS = ['restriction', 'spool', 'flap', 'tract-tuning', 'charge-density', 'downstream'] as const;
export const hintSchema = z.enum(HINTS);
export type Hint = z.infer<typeof hintSchema>;

/** Another channel's difference over engine speed, plain means of the used pulls; ratios in per cent, the rest in the unit kept inside. */
export const channelDifferenceSchema = z.object({
  key: z.string(),
  kind: z.enum(['percent', 'temperatureDifference', 'pressureDifference', 'degrees', 'lambda', 'number']),
  engineSpeedRpm: z.array(z.number()),
  value: z.array(z.number()),
  /** At each speed by itself, and of the whole curve at once; null where nothing was repeated. */
  low: z.array(z.number().nullable()),
  high: z.array(z.number().nullable()),
  wholeLow: z.array(z.number().nullable()),
  wholeHigh: z.array(z.number().nullable()),
});
export type ChannelDifference = z.infer<typeof channelDifferenceSchema>;

/** A curve over engine speed with its 95 % band; SI units. */
export const setupCurveSchema = z.object({
  setup: z.string(),
  pulls: z.number(),
  engineSpeedRpm: z.array(z.number()),
  powerW: z.array(z.number()),
  powerLowW: z.array(z.number().nullable()),
  powerHighW: z.array(z.number().nullable()),
  torqueNm: z.array(z.number()),
  torqueLowNm: z.array(z.number().nullable()),
  torqueHighNm: z.array(z.number().nullable()),
  /** Mean logged air mass flow, kg/s; null where no used pull has logged it there. */
  airMassFlowKgS: z.array(z.number().nullable()),
});
export type SetupCurve = z.infer<typeof setupCurveSchema>;

export const differenceCurveSchema = z.object({
  reference: z.string(),
  candidate: z.string(),
  engineSpeedRpm: z.array(z.number()),
  pct: z.array(z.number()),
  lowPct: z.array(z.number()),
  highPct: z.array(z.number()),
  /** Band that holds the whole curve at once, in 95 of 100 cases. */
  wholeLowPct: z.array(z.number()),
  wholeHighPct: z.array(z.number()),
  /** Where that band excludes zero. */
  real: z.array(z.object({ fromRpm: z.number(), toRpm: z.number(), isLoss: z.boolean() })),
  /** Ranges outside the judged band where a gain or a loss is real, in words. */
  outside: z.string(),
  said: saidFieldsSchema,
  parts: z.array(bandPartSchema),
  peak: peakMoveSchema.nullable(),
  hints: z.array(hintSchema),
  channels: z.array(channelDifferenceSchema),
  /** The estimate of the leading question, point by point; levelled where its own start cannot be given. */
  of: z.enum(['levelled', 'ownStart']),
});
export type DifferenceCurve = z.infer<typeof differenceCurveSchema>;

export const pullCurveSchema = z.object({
  id: z.string(),
  setup: z.string(),
  used: z.boolean(),
  engineSpeedRpm: z.array(z.number()),
  powerW: z.array(z.number()),
});
/** What one pull shows of a section, by engine speed: rpm, kg/s, Pa. */
export const sectionPointsSchema = z.object({
  pull: z.string(),
  setup: z.string(),
  section: z.string(),
  engineSpeedRpm: z.array(z.number()),
  flowKgS: z.array(z.number()),
  dropPa: z.array(z.number()),
});
export type SectionPoints = z.infer<typeof sectionPointsSchema>;
/** A law of a section as it is drawn: at the air of the pulls, over the flow that they cover. */
export const sectionLawCurveSchema = z.object({
  setup: z.string(),
  section: z.string(),
  flowKgS: z.array(z.number()),
  dropPa: z.array(z.number()),
});
export const curvesSchema = z.object({
  setups: z.array(setupCurveSchema),
  differences: z.array(differenceCurveSchema),
  pulls: z.array(pullCurveSchema),
  sections: z.object({ points: z.array(sectionPointsSchema), laws: z.array(sectionLawCurveSchema) }).default({ points: [], laws: [] }),
});
export type Curves = z.infer<typeof curvesSchema>;
