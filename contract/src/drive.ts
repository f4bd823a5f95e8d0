import { z } from './zod.js';
import { quantitySchema } from './quantities.js';

const finite = z.number().finite();
const placeSchema = z.object({ latitude: finite.min(-90).max(90), longitude: finite.min(-180).max(180) });

/** A line across the track: a lap ends and the next begins where it is passed. */
export const lapLineSchema = z.object({ from: placeSchema, to: placeSchema });
export type LapLine = z.infer<typeof lapLineSchema>;

/** How drives are cut into laps: by hand before the line, by the line before a lap channel. */
export const lapsSchema = z.looseObject({
  line: lapLineSchema.nullish(),
  /** By pull: when laps begin and end, s since the first sample of the drive. */
  atS: z.record(z.string(), z.array(finite.nonnegative())).nullish(),
});
export type Laps = z.infer<typeof lapsSchema>;

export const lapCutSchema = z.enum(['channel', 'line', 'hand']);
export type LapCut = z.infer<typeof lapCutSchema>;

const withIntervalSchema = z.object({ value: z.number(), low: z.number().nullable(), high: z.number().nullable() });

/** A whole lap. */
export const lapSchema = z.object({
  number: z.number(),
  /** On the clock of the drive's logger. */
  startS: z.number(),
  endS: z.number(),
  seconds: z.number(),
  distanceM: z.number().nullable(),
  fullThrottleShare: z.number().nullable(),
  intakeAirStartC: z.number().nullable(),
  intakeAirMeanC: z.number().nullable(),
  intakeAirPeakC: z.number().nullable(),
  aboveAmbientK: z.number().nullable(),
  coolantPeakC: z.number().nullable(),
  oilPeakC: z.number().nullable(),
  knockPeakDeg: z.number().nullable(),
  /** Whether it is compared: not much slower than the drive's usual one. */
  counts: z.boolean(),
});
export type Lap = z.infer<typeof lapSchema>;

/** A drive on a track or a road: its laps, and what drifts over its distance. */
export const driveSchema = z.object({
  file: z.string(),
  startS: z.number(),
  seconds: z.number(),
  distanceM: z.number().nullable(),
  distanceFrom: z.enum(['distance', 'vehicleSpeed', 'latitude']).nullable(),
  /** By what it was cut into laps; null where nothing tells. */
  cutBy: lapCutSchema.nullable(),
  laps: z.array(lapSchema),
  courses: z.array(
    z.object({
      quantity: quantitySchema,
      /** Less the ambient temperature at that moment. */
      aboveAmbient: z.boolean(),
      /** In the unit kept inside. */
      mean: withIntervalSchema,
      perHundredKm: withIntervalSchema.nullable(),
    }),
  ),
});
export type Drive = z.infer<typeof driveSchema>;

export const driveFindingSchema = driveSchema.extend({ pull: z.string(), setup: z.string() });
export type DriveFinding = z.infer<typeof driveFindingSchema>;

export const LAP_FIGURES = ['seconds', 'fullThrottleShare', 'intakeAirMeanC', 'aboveAmbientK', 'intakeAirPeakC', 'coolantPeakC'] as const;
export type LapFigure = (typeof LAP_FIGURES)[number];

/** What the laps of two setups differ by, candidate less reference. */
export const drivePairSchema = z.object({
  reference: z.string(),
  candidate: z.string(),
  laps: z.object({ reference: z.number(), candidate: z.number() }),
  drives: z.object({ reference: z.number(), candidate: z.number() }),
  /** The interval is between drives where both setups have several; else between laps, and what differs from drive to drive is not in it. */
  between: z.enum(['drives', 'laps']),
  figures: z.array(z.object({ of: z.enum(LAP_FIGURES), reference: z.number(), difference: withIntervalSchema })),
});
export type DrivePair = z.infer<typeof drivePairSchema>;

export const drivesSchema = z.object({ drives: z.array(driveFindingSchema), pairs: z.array(drivePairSchema) });
export type Drives = z.infer<typeof drivesSchema>;
