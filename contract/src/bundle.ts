import { traceViewsSchema } from './trace-views.js';
import { z } from './zod.js';
import { benchSchema, conditionSchema, pathSectionSchema } from './bench.js';
import { changedAssumptionsSchema } from './assumptions.js';
import { lapsSchema } from './drive.js';
import { quantitySchema } from './quantities.js';

/** ISO 8601 with an offset or `Z`. */
export const instantSchema = z.iso.datetime({ offset: true });

const finite = z.number();
const nullableNumber = finite.nullish();

export const correctionSchema = z.enum(['SAE_J1349', 'STD_J607', 'DIN_70020', 'ISO_1585', 'NONE']);
export type Correction = z.infer<typeof correctionSchema>;

export const metricSchema = z.enum(['meanPower', 'peakPower', 'meanTorque', 'peakTorque']);
export type Metric = z.infer<typeof metricSchema>;

/** A band of engine speed, rpm. */
export const bandSchema = z
  .tuple([finite.positive(), finite.positive()])
  .refine(([low, high]) => low < high, { message: 'the first engine speed must be below the second' });

export const aspirationSchema = z.enum(['na', 'turbo', 'supercharged']);
export type Aspiration = z.infer<typeof aspirationSchema>;

export const boostControlSchema = z.enum(['absolute', 'gauge', 'mechanical', 'none']);
export type BoostControl = z.infer<typeof boostControlSchema>;

export const questionKindSchema = z.enum([
  'power-gain',
  'power-no-loss',
  'package-gain',
  'cooler-charge',
  'less-restriction',
  'no-fault-codes',
  'meter-unchanged',
  'mixture-within',
  'coolant-no-hotter',
  'not-louder',
  'quicker-response',
  'fades-less',
]);
export type QuestionKind = z.infer<typeof questionKindSchema>;

export const questionUnitSchema = z.enum(['pct', 'K', 'kPa', 'lambda', 'dB', 's', 'rpm']);
export type QuestionUnit = z.infer<typeof questionUnitSchema>;

/** What somebody found out about a question that no log answers: fault codes read, a sound level, a reading of the coolant. */
export const questionEvidenceSchema = z.looseObject({
  value: finite,
  unit: z.string().nullish(),
  note: z.string().default(''),
  by: z.string().nullish(),
  at: instantSchema.nullish(),
});
export type QuestionEvidence = z.infer<typeof questionEvidenceSchema>;

export const questionSchema = z.looseObject({
  id: z.string().min(1),
  kind: questionKindSchema,
  smallest: finite.positive().nullish(),
  unit: questionUnitSchema.nullish(),
  start: z.enum(['same', 'own']).nullish(),
  /** The question's own metric, band and setups; the programme's where absent. */
  metric: metricSchema.nullish(),
  bandRpm: bandSchema.nullish(),
  setups: z.array(z.string()).nullish(),
  /** Section of the tract that a question about restriction is asked of. */
  section: z.string().nullish(),
  /** What of response is asked: a level, per cent of the reference's own boost or torque, or the time between two speeds, rpm or km/h. */
  response: z
    .looseObject({
      of: z.enum(['boost', 'torque', 'engineSpeed', 'vehicleSpeed']).nullish(),
      levelPct: finite.positive().max(99).nullish(),
      from: nullableNumber,
      to: nullableNumber,
    })
    .nullish(),
  /** At which pull of a series with short rests fade is read; the last that both setups have where absent. */
  nth: z.int().min(2).max(50).nullish(),
  /** What was found where no log can answer, by setup; a single one counts for every candidate. */
  evidence: z.union([questionEvidenceSchema, z.record(z.string(), questionEvidenceSchema)]).nullish(),
  /** Asked after results had been seen. */
  afterwards: z.boolean().nullish(),
});
export type Question = z.infer<typeof questionSchema>;

export const claimSchema = z.looseObject({
  id: z.string().min(1),
  by: z.string().nullish(),
  text: z.string().nullish(),
  quantity: z.string().nullish(),
  value: nullableNumber,
  unit: z.string().nullish(),
  atRpm: nullableNumber,
  /** Over which band, where that is not the question's. */
  bandRpm: bandSchema.nullish(),
  powerAt: z.string().nullish(),
  correction: correctionSchema.nullish(),
  conditions: z.string().nullish(),
  /** Candidate that the claim is about; the first where it is not said. */
  setup: z.string().nullish(),
  afterwards: z.boolean().nullish(),
  /** A sentence of our own for the sheet, held against the measurement like any claim from outside. */
  ownWords: z.boolean().nullish(),
});
export type Claim = z.infer<typeof claimSchema>;

/** An answer as it stood when it was copied into a re-validation. */
export const earlierAnswerSchema = z.looseObject({
  candidate: z.string(),
  candidateName: z.string(),
  power: z.enum(['gain', 'loss', 'no-difference', 'not-resolved', 'withheld']),
  pct: nullableNumber,
  low: nullableNumber,
  high: nullableNumber,
});

export const programmeSchema = z.looseObject({
  title: z.string().min(1),
  question: z.string().default(''),
  metric: metricSchema.default('meanPower'),
  bandRpm: bandSchema,
  smallestGainPct: finite.positive(),
  correction: correctionSchema,
  questions: z.array(questionSchema).nullish(),
  claims: z.array(claimSchema).nullish(),
  comparisons: z.array(z.tuple([z.string(), z.string()])).nullish(),
  /** The smallest gain as the engineer said it, where that was not per cent: `smallestGainPct` is made from it. */
  smallestGainSaid: z.looseObject({ value: finite.positive(), unit: z.string(), ofKW: finite.positive() }).nullish(),
  /** What the engineer expects, stored before the day. */
  expected: z.looseObject({ lowPct: finite, highPct: finite, by: z.string(), at: instantSchema }).nullish(),
  /** Fields that hold a default of the application and still wait for an answer. */
  unanswered: z.array(z.string()).nullish(),
  /** Which terms were changed after results were seen: of the programme, or of one question. */
  changedAfterwards: z
    .array(z.looseObject({ what: z.string(), question: z.string().nullish(), at: instantSchema, by: z.string() }))
    .nullish(),
  /** How drives on a track are cut into laps. */
  laps: lapsSchema.nullish(),
  /** The programme that this one repeats, with its answers as they stood. */
  revalidates: z
    .looseObject({ programme: z.string(), title: z.string(), at: instantSchema, answers: z.array(earlierAnswerSchema) })
    .nullish(),
});
export type Programme = z.infer<typeof programmeSchema>;

export const vehicleSchema = z.looseObject({
  name: z.string().min(1),
  aspiration: aspirationSchema,
  displacementL: finite.positive().nullish(),
  cylinders: z.int().positive().nullish(),
  compressors: z.int().nonnegative().nullish(),
  boostControl: boostControlSchema.nullish(),
  ignition: z.enum(['spark', 'compression']).nullish(),
  fuel: z.string().nullish(),
  maxRpm: finite.positive().nullish(),
  gearbox: z.string().nullish(),
  gearRatios: z.array(finite.positive()).nullish(),
  finalDrive: finite.positive().nullish(),
  tyreRadiusM: finite.positive().nullish(),
  massKg: finite.positive().nullish(),
  dragAreaM2: finite.positive().nullish(),
  strokes: z.union([z.literal(2), z.literal(4)]).nullish(),
  airMetering: z.enum(['meter', 'speed-density']).nullish(),
  tyre: z.string().nullish(),
  testGear: z.string().nullish(),
});
export type Vehicle = z.infer<typeof vehicleSchema>;

export const cellSchema = z.looseObject({
  id: z.string().nullish(),
  name: z.string().min(1),
  kind: z.enum(['inertia', 'brake', 'hub', 'engine', 'road', 'track']).nullish(),
  powerAt: z.enum(['wheel', 'hub', 'crank']).default('wheel'),
  repeatabilityPct: finite.positive().nullish(),
  timeZone: z.string().nullish(),
  /** Known drift, per cent an hour; standard deviation. */
  driftPctPerHour: finite.positive().nullish(),
  smoothing: z.string().nullish(),
  rampOrLoad: z.string().nullish(),
  rollerInertiaKgM2: finite.positive().nullish(),
  fans: z.string().nullish(),
  elevationM: nullableNumber,
  sensors: z
    .array(
      z.looseObject({
        channel: z.string().min(1),
        place: z.string().default(''),
        range: z.string().default(''),
        accuracy: z.string().default(''),
        calibratedOn: z.string().nullish(),
      }),
    )
    .nullish(),
});
export type Cell = z.infer<typeof cellSchema>;

/** Free keys; the known ones are listed in docs/bundle.md. */
export const setupStateSchema = z.record(z.string(), z.union([z.string(), z.number(), z.boolean(), z.null()]));
export type SetupState = z.infer<typeof setupStateSchema>;

/** A part's revision and specimen; revisions form a line from the first prototype to production. */
export const partDetailSchema = z.looseObject({
  /** As it stands in `parts`. */
  part: z.string().min(1),
  /** Name of the line that the revisions belong to. */
  line: z.string().nullish(),
  revision: z.string().nullish(),
  /** The revision that this one follows. */
  follows: z.string().nullish(),
  stage: z.enum(['printed-prototype', 'prototype', 'pre-production', 'production', 'stock']).nullish(),
  material: z.string().nullish(),
  serial: z.string().nullish(),
  tuneFile: z.string().nullish(),
  underTest: z.boolean().nullish(),
});
export type PartDetail = z.infer<typeof partDetailSchema>;

export const setupSchema = z.looseObject({
  id: z.string().min(1),
  name: z.string().min(1),
  reference: z.boolean().nullish(),
  bound: z.boolean().nullish(),
  parts: z.array(z.string()).default([]),
  state: setupStateSchema.default({}),
  sensorPlaces: z.record(z.string(), z.string()).nullish(),
  /** What is known of the parts, by their text in `parts`. */
  partDetails: z.array(partDetailSchema).nullish(),
  /** The air's way from opening to valve. */
  path: z.array(pathSectionSchema).nullish(),
  archived: z.boolean().nullish(),
  /** Added after results had been seen. */
  afterwards: z.boolean().nullish(),
});
export type Setup = z.infer<typeof setupSchema>;

export const logReferenceSchema = z.looseObject({
  file: z
    .string()
    .min(1)
    .refine((file) => !file.split(/[\\/]/).includes('..') && !/^([\\/]|[A-Za-z]:)/.test(file), {
      message: 'a log is named by its path inside the bundle, such as logs/p01-ecu.csv',
    }),
  device: z.string().min(1),
  /** Which run of the file's clock, and which stretch of it, on the file's own clock, s; absent: sweeps belong to pulls in their order. */
  recording: z.number().int().nonnegative().nullish(),
  startS: nullableNumber,
  endS: nullableNumber,
  /** Own clock = clock of the pull's first file + `offsetS`; `how`: by what it was found, `hand` where somebody put it there. */
  offsetS: nullableNumber,
  how: z.string().nullish(),
  withinS: nullableNumber,
  /** What stood there before a hand moved it. */
  asRead: z.object({ offsetS: nullableNumber, how: z.string().nullish(), withinS: nullableNumber }).nullish(),
});
export type LogReference = z.infer<typeof logReferenceSchema>;

/** `drive`: laps on a track, or a long run. */
export const pullKindSchema = z.enum(['measured', 'conditioning', 'tuning', 'steady', 'drive']);
export type PullKind = z.infer<typeof pullKindSchema>;

/** Figures read off a cell's screen or sheet. */
export const typedFiguresSchema = z.looseObject({
  peakPowerKW: nullableNumber,
  peakPowerRpm: nullableNumber,
  bandMeanPowerKW: nullableNumber,
  peakTorqueNm: nullableNumber,
  peakTorqueRpm: nullableNumber,
  bandMeanTorqueNm: nullableNumber,
  /** The standard that the figures are corrected by already; null for none; absent where nobody was asked: taken as uncorrected, and said. */
  corrected: correctionSchema.nullish(),
  points: z.array(z.object({ rpm: finite.positive(), powerKW: finite })).nullish(),
  photo: z.string().nullish(),
});
export type TypedFigures = z.infer<typeof typedFiguresSchema>;

export const pullSchema = z.looseObject({
  id: z.string().min(1),
  setup: z.string().min(1),
  kind: pullKindSchema.default('measured'),
  startedAt: instantSchema,
  /** Nobody knows when it was: `startedAt` only says in which order. In a bundle it is null then. */
  startUnknown: z.boolean().nullish(),
  ambient: z.looseObject({ temperatureC: nullableNumber, pressureKPa: nullableNumber, relativeHumidityPct: nullableNumber }).nullish(),
  start: z.looseObject({ coolantC: nullableNumber, intakeAirC: nullableNumber, oilC: nullableNumber }).nullish(),
  logs: z.array(logReferenceSchema).default([]),
  ecuReset: z.boolean().nullish(),
  aborted: z.boolean().nullish(),
  excluded: z.union([z.string().min(1), z.literal(false), z.null()]).optional(),
  day: z.string().nullish(),
  cell: z.string().nullish(),
  /** Why it was driven although a gate was not met. */
  anyway: z.string().nullish(),
  /** What of it was corrected afterwards, by whom and why. */
  amended: z.array(z.looseObject({ what: z.string(), why: z.string(), by: z.string(), at: instantSchema })).nullish(),
  /** Read off a screen or sheet: peak, mean over the band, points of the curve, and where the photo lies. */
  typed: typedFiguresSchema.nullish(),
  programmes: z.array(z.string()).nullish(),
  note: z.string().nullish(),
});
export type Pull = z.infer<typeof pullSchema>;

export const planPullSchema = z.looseObject({
  setup: z.string(),
  kind: pullKindSchema,
  atMin: finite,
  /** Rest before this pull where it is not the plan's, and a break on top of it. */
  restMin: finite.nonnegative().nullish(),
  breakMin: finite.nonnegative().nullish(),
});
export type PlanPull = z.infer<typeof planPullSchema>;

/** A swap from one setup to another that takes its own time, or that has no way back. */
export const planSwapSchema = z.looseObject({
  from: z.string(),
  to: z.string(),
  minutes: finite.positive().nullish(),
  /** `never`: it cannot be undone; `not-today`: too long to return the same day. */
  back: z.enum(['never', 'not-today']).nullish(),
});
export type PlanSwap = z.infer<typeof planSwapSchema>;

/** What must or should be reached before a pull. */
export const planGateSchema = z.looseObject({
  id: z.string().min(1),
  label: z.string().min(1),
  target: finite,
  tolerance: finite.nonnegative(),
  /** In the unit of this name: °C, K, min, kPa, rpm, km/h, m. */
  unit: z.string(),
  /** What a device streams for it (in K: above the ambient air); null where it is typed, and left out where its name says it. */
  quantity: quantitySchema.nullish(),
  must: z.boolean(),
  /** Which side of the band counts: both, or only its upper or lower end. */
  side: z.enum(['within', 'at-most', 'at-least']).nullish(),
});
export type PlanGate = z.infer<typeof planGateSchema>;

/** A limit at which everything stops. */
export const planStopSchema = z.looseObject({
  id: z.string().min(1),
  label: z.string().min(1),
  limit: finite.nullable(),
  unit: z.string(),
  /** What a device streams for it; left out where its id says it. */
  quantity: quantitySchema.nullish(),
  above: z.boolean(),
});
export type PlanStop = z.infer<typeof planStopSchema>;

export const CHECKLISTS = ['beforeDay', 'beforePull', 'beforeSwap', 'afterSwap', 'atEnd'] as const;
export type ChecklistName = (typeof CHECKLISTS)[number];
export const checklistItemSchema = z.looseObject({ id: z.string().min(1), text: z.string().min(1), safety: z.boolean().default(false) });
export type ChecklistItem = z.infer<typeof checklistItemSchema>;

export const planSchema = z.looseObject({
  pulls: z.array(planPullSchema),
  /** Null or absent: the application's own by kind of engine. */
  gates: z.array(planGateSchema).nullish(),
  stops: z.array(planStopSchema).nullish(),
  checklists: z.partialRecord(z.enum(CHECKLISTS), z.array(checklistItemSchema)).nullish(),
  /** From pull to pull of one setup, and across a swap, minutes. */
  restMin: finite.positive().nullish(),
  swapMin: finite.positive().nullish(),
  swaps: z.array(planSwapSchema).nullish(),
  /** Heat constants of the forecast where they are not the car's own: K above ambient, and s. */
  heat: z
    .looseObject({
      perPullK: finite,
      quickShare: finite,
      quickS: finite.positive(),
      slowS: finite.positive(),
      firstK: finite,
      standingK: finite,
    })
    .partial()
    .nullish(),
});
export type Plan = z.infer<typeof planSchema>;

/** Temperatures of a day as they were streamed, one in so many seconds; blanks where a device was silent. */
export const dayTemperaturesSchema = z.looseObject({
  atMs: z.array(finite),
  intakeAirC: z.array(finite.nullable()),
  coolantC: z.array(finite.nullable()),
  ambientC: z.array(finite.nullable()),
});
export type DayTemperatures = z.infer<typeof dayTemperaturesSchema>;

/** What is known of one visit to a cell. */
export const daySchema = z.looseObject({
  day: z.string().min(1),
  odometerKm: nullableNumber,
  ecuSoftware: z.string().nullish(),
  /** Between the pulls too, where devices streamed. */
  temperatures: dayTemperaturesSchema.nullish(),
  /** What stood open on the lists when the day was ended, and why. */
  openAtEnd: z.looseObject({ items: z.array(z.string()), reason: z.string() }).nullish(),
});
export type Day = z.infer<typeof daySchema>;

/** What somebody has decided about a column; what is absent is judged by the evidence. */
export const channelMappingSchema = z.looseObject({
  quantity: quantitySchema.nullish(),
  unit: z.string().nullish(),
  section: z.string().nullish(),
  /** Taken off what is written; then times `factor`, then plus `offset`, all in `unit`. */
  zero: nullableNumber,
  factor: nullableNumber,
  offset: nullableNumber,
  /** Days (both included, as the clock on the wall had them) on which factor and offset count; of a file, the day of its first pull. */
  from: z.iso.date().nullish(),
  to: z.iso.date().nullish(),
  gauge: z.boolean().nullish(),
  corrected: correctionSchema.nullish(),
  afrStoich: finite.positive().nullish(),
  /** What the sensor may be off by, ± at 95 %, in `unit`; shared by all pulls that it read. */
  accuracy: finite.nonnegative().nullish(),
  /** How columns of one quantity are put together: banks of one engine add up, or their mean counts; first: the others are left. */
  combine: z.enum(['sum', 'mean', 'first']).nullish(),
  /** Of columns of one quantity, the one that counts. */
  use: z.boolean().nullish(),
  /** Taken for nothing, and not asked about. */
  ignore: z.boolean().nullish(),
});
export type ChannelMapping = z.infer<typeof channelMappingSchema>;

export const channelsSchema = z.record(z.string(), z.record(z.string(), channelMappingSchema));

/** What was decided about the columns of a device, to be offered at its next file. */
export const deviceProfileSchema = z.looseObject({
  format: z.literal('gezeit-device-profile'),
  version: z.literal(1),
  name: z.string().min(1).max(200),
  device: z.string().min(1),
  /** Headers by which a file of it is known. */
  match: z.array(z.string()),
  channels: z.record(z.string(), channelMappingSchema),
});
export type DeviceProfile = z.infer<typeof deviceProfileSchema>;
export type Channels = z.infer<typeof channelsSchema>;

export const bundleSchema = z
  .looseObject({
    format: z.literal('gezeit-bundle'),
    version: z.literal(1),
    programme: programmeSchema,
    vehicle: vehicleSchema,
    cell: cellSchema.nullish(),
    cells: z.array(cellSchema).nullish(),
    setups: z.array(setupSchema).min(1),
    pulls: z.array(pullSchema),
    plan: planSchema.nullish(),
    channels: channelsSchema.nullish(),
    /** What a draft of loose files does not tell: with one of these left it is read and shown, and not judged. */
    unanswered: z.array(z.looseObject({ path: z.string(), what: z.string() })).nullish(),
    condition: conditionSchema.nullish(),
    bench: benchSchema.nullish(),
    days: z.array(daySchema).nullish(),
    assumptions: changedAssumptionsSchema.nullish(),
    traceViews: traceViewsSchema.nullish(),
  })
  .superRefine((bundle, context) => {
    const setups = new Set(bundle.setups.map((setup) => setup.id));
    reportRepeats(
      bundle.setups.map((setup) => setup.id),
      'setups',
      context,
    );
    reportRepeats(
      bundle.pulls.map((pull) => pull.id),
      'pulls',
      context,
    );
    bundle.pulls.forEach((pull, index) => {
      if (setups.has(pull.setup)) return;
      context.addIssue({
        code: 'custom',
        path: ['pulls', index, 'setup'],
        message: `no setup has the id "${pull.setup}"; the setups are ${[...setups].join(', ')}`,
      });
    });
    bundle.programme.comparisons?.forEach((pair, index) => {
      for (const id of pair) {
        if (!setups.has(id)) {
          context.addIssue({
            code: 'custom',
            path: ['programme', 'comparisons', index],
            message: `no setup has the id "${id}"`,
          });
        }
      }
    });
    if (!bundle.cell && !bundle.cells?.length) {
      context.addIssue({ code: 'custom', path: ['cell'], message: 'say where the pulls were driven: add "cell"' });
    }
  });
export type Bundle = z.infer<typeof bundleSchema>;

function reportRepeats(ids: string[], list: string, context: z.RefinementCtx): void {
  ids.forEach((id, index) => {
    if (ids.indexOf(id) !== index) {
      context.addIssue({ code: 'custom', path: [list, index, 'id'], message: `the id "${id}" is used twice` });
    }
  });
}
