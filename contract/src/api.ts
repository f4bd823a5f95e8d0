import { readReasonSchema } from './reading.js';
import { fixedEntrySchema } from './sheet.js';
import { tideSchema } from './tide.js';
import { traceViewsSchema } from './trace-views.js';
import { z } from './zod.js';
import { ASSUMPTION_KEYS, changedAssumptionsSchema } from './assumptions.js';
import { benchSchema, conditionSchema, evidenceSchema } from './bench.js';
import {
  aspirationSchema,
  bundleSchema,
  cellSchema,
  channelMappingSchema,
  channelsSchema,
  daySchema,
  deviceProfileSchema,
  planSchema,
  programmeSchema,
  pullKindSchema,
  typedFiguresSchema,
  questionKindSchema,
  setupSchema,
  vehicleSchema,
} from './bundle.js';
import { typedWeatherSchema } from './weather.js';
import { affectedSchema, findingsSchema, pullFlagSchema, powerVerdictSchema, saidFieldsSchema } from './findings.js';
import { quantitySchema } from './quantities.js';

/** An error as the server answers it: what, where, and what to do next. Never a stack trace. */
export const apiErrorSchema = z.object({
  error: z.object({
    code: z.string(),
    message: z.string(),
    nextStep: z.string(),
    place: z.object({ file: z.string().optional(), row: z.number().optional(), column: z.string().optional() }),
  }),
});
export type ApiError = z.infer<typeof apiErrorSchema>;

export const healthSchema = z.object({ status: z.literal('ok'), version: z.string(), database: z.literal('ok') });

/** An answer on the board's common scale: divided by the smallest difference that matters. */
export const boardAnswerSchema = z.object({
  candidate: z.string(),
  candidateName: z.string(),
  /** The question and its kind; null for an answer of an earlier programme, which was about power. */
  kind: questionKindSchema.nullable(),
  answer: powerVerdictSchema,
  /** Whether the candidate is a bound: never for sale. */
  bound: z.boolean(),
  estimate: z.number().nullable(),
  low: z.number().nullable(),
  high: z.number().nullable(),
  unit: z.string(),
  smallest: z.number(),
  why: z.string(),
  said: saidFieldsSchema,
});
export type BoardAnswer = z.infer<typeof boardAnswerSchema>;

export const boardEntrySchema = z.object({
  id: z.string(),
  title: z.string(),
  question: z.string(),
  vehicle: z.string(),
  cell: z.string(),
  version: z.number(),
  smallestGainPct: z.number(),
  pullsUsed: z.number(),
  pullsDriven: z.number(),
  lastPullAt: z.string().nullable(),
  /** What the plan could resolve, where nothing has run; per cent. */
  plannedResolvablePct: z.number().nullable(),
  answers: z.array(boardAnswerSchema),
  /** Fixed findings, and how many of them something has changed under. */
  fixed: z.object({ count: z.number(), outOfDate: z.number() }),
  /** Answers of the programme that this one repeats. */
  earlierAnswers: z.array(boardAnswerSchema),
  /** What is still open, by step. */
  gaps: z.array(z.string()),
  archived: z.boolean(),
  /** Its answers are being judged anew: what stands here is of an earlier state, or nothing yet. */
  judging: z.boolean(),
  /** A programme that cannot be analysed says why. */
  problem: z.string().nullable(),
});
export const boardSchema = z.object({ programmes: z.array(boardEntrySchema) });
export type BoardEntry = z.infer<typeof boardEntrySchema>;
export type Board = z.infer<typeof boardSchema>;

export const pullDetailSchema = z.object({
  id: z.string(),
  flags: z.array(
    z.object({
      flag: pullFlagSchema,
      detail: z.string(),
      said: saidFieldsSchema,
      leavesOut: z.boolean(),
      /** Whether leaving the pull out is suggested: the engineer decides. */
      suggestsLeavingOut: z.boolean(),
      /** What the pull says less about. */
      touches: z.array(affectedSchema),
      /** Where it is seen: channels and times, s after full throttle. */
      where: z.array(z.object({ channel: z.string(), fromS: z.number(), toS: z.number() })),
    }),
  ),
  startCoolantC: z.number().nullable(),
  startOilC: z.number().nullable(),
  ambientC: z.number().nullable(),
  alignments: z.array(z.object({ file: z.string(), offsetS: z.number(), how: z.string(), residualS: z.number().nullable() })),
  /** Chance that the pull is bad, as the judgement sees it: 0 to 1; null where it was not judged. */
  badChance: z.number().nullable(),
});
export type PullDetail = z.infer<typeof pullDetailSchema>;

/** Device profiles that were saved, the newest first. */
export const deviceProfilesSchema = z.object({
  profiles: z.array(z.object({ id: z.string(), savedAt: z.string(), savedBy: z.string(), profile: deviceProfileSchema })),
});
export type SavedProfile = z.infer<typeof deviceProfilesSchema>['profiles'][number];

/** Moves a log of a pull against the first log's clock: first clock = own clock − offset, s; null gives it back to what the logs show. */
export const alignmentByHandSchema = z.object({ file: z.string().min(1), offsetS: z.number().min(-1e7).max(1e7).nullable() });
export type AlignmentByHand = z.infer<typeof alignmentByHandSchema>;

export const columnSchema = z.object({
  id: z.string(),
  position: z.number(),
  name: z.string(),
  quantity: quantitySchema.nullable(),
  unitText: z.string().nullable(),
  section: z.string().nullable(),
});

export const logSchema = z.object({
  id: z.string(),
  file: z.string(),
  device: z.string(),
  sha256: z.string(),
  byteCount: z.number(),
  rowCount: z.number(),
  report: z.object({
    encoding: z.string(),
    delimiter: z.string(),
    decimalMark: z.enum(['point', 'comma']),
    headerRow: z.number(),
    unitsRow: z.number().nullable(),
    firstDataRow: z.number(),
    rowCount: z.number(),
    preamble: z.array(z.string()),
    remarks: z.array(z.string()),
    timeColumn: z.string().nullable(),
    columns: z.array(
      z.object({
        name: z.string(),
        takenFor: quantitySchema.nullable(),
        unit: z.string().nullable(),
        // Absent in what was read before these were written down.
        header: z.string().optional(),
        section: z.string().nullish(),
        gauge: z.boolean().nullish(),
        low: z.number().nullish(),
        middle: z.number().nullish(),
        high: z.number().nullish(),
        sure: z.number().optional(),
        rivals: z.array(z.object({ quantity: quantitySchema, sure: z.number() })).optional(),
        duplicateOf: z.number().nullish(),
        used: z.boolean().optional(),
        reasons: z.array(readReasonSchema).optional(),
        // What was said before reasons were kept as what they are.
        why: z.string().optional(),
        note: z.string().nullish(),
      }),
    ),
    notes: z.array(z.string()),
    readAs: z.record(z.string(), channelMappingSchema).nullish(),
    problems: z
      .array(z.object({ row: z.number().nullable(), column: z.number().nullable(), what: z.string(), todo: z.string() }))
      .optional(),
  }),
  columns: z.array(columnSchema),
  pulls: z.array(z.string()),
});
export type LogView = z.infer<typeof logSchema>;

export const assumptionSchema = z.object({
  name: z.string(),
  value: z.string(),
  what: z.string(),
  /** What of it can be changed: the value now and where nothing is changed by hand, as shown (per cent, or a plain number). */
  fields: z.array(
    z.object({
      key: z.enum(ASSUMPTION_KEYS),
      label: z.string(),
      unit: z.enum(['%', '–', 'K', 'Pa', '°', 's', 'm/s']),
      value: z.number(),
      usual: z.number(),
    }),
  ),
  /** What stands behind the value: "per K". */
  per: z.string(),
});
export type ListedAssumption = z.infer<typeof assumptionSchema>;

export const CHANGE_KINDS = [
  'pull-excluded',
  'pull-amended',
  'files-added',
  'log-aligned',
  'edit',
  'evidence',
  'fixed',
  'attachment',
  'archived',
] as const;
export type ChangeKind = (typeof CHANGE_KINDS)[number];

/** A change that can be undone; its subject is what it was about, of an edit what was done, in words. */
export const changeSchema = z.object({
  id: z.number(),
  at: z.string(),
  by: z.string(),
  kind: z.enum(CHANGE_KINDS),
  subject: z.string(),
  undone: z.boolean(),
});
export type Change = z.infer<typeof changeSchema>;

/** What was decided about leaving a pull out: a reason, used in spite of the rules (false), or left to them (null); also where it was taken back. */
export const pullExclusionSchema = z.object({
  pull: z.string(),
  at: z.string(),
  by: z.string(),
  said: z.union([z.string(), z.literal(false), z.null()]),
  undone: z.boolean(),
});

/** A vehicle or cell, shared by programmes. */
export const sharedBySchema = z.array(z.object({ id: z.string(), title: z.string() }));
export const vehicleEntrySchema = z.object({ id: z.string(), vehicle: vehicleSchema, programmes: sharedBySchema });
export type VehicleEntry = z.infer<typeof vehicleEntrySchema>;
export const cellEntrySchema = z.object({ id: z.string(), cell: cellSchema, programmes: sharedBySchema });
export type CellEntry = z.infer<typeof cellEntrySchema>;

export const attachmentSchema = z.object({ file: z.string(), mediaType: z.string(), byteCount: z.number() });
export type Attachment = z.infer<typeof attachmentSchema>;

/** The parts of a programme that can be edited, each with its schema. */
export const EDITABLE_PARTS = {
  programme: programmeSchema,
  vehicle: vehicleSchema,
  vehicleId: z.string().min(1),
  cells: z.array(cellSchema).min(1),
  cellIds: z.array(z.string().min(1)).min(1),
  setups: z.array(setupSchema).min(1),
  condition: conditionSchema.nullable(),
  bench: benchSchema.nullable(),
  days: z.array(daySchema).nullable(),
  plan: planSchema.nullable(),
  assumptions: changedAssumptionsSchema.nullable(),
  channels: channelsSchema.nullable(),
  traceViews: traceViewsSchema.nullable(),
} as const;
export type EditablePart = keyof typeof EDITABLE_PARTS;
export type PartValue<P extends EditablePart> = z.infer<(typeof EDITABLE_PARTS)[P]>;

/** A change of one part: what it was where it was changed (so that another window's change is not lost), and what it is to be. */
export const editSchema = z.object({
  part: z.enum(Object.keys(EDITABLE_PARTS) as [EditablePart, ...EditablePart[]]),
  before: z.unknown(),
  value: z.unknown(),
  /** In words, for the list of changes: "section filter of B removed". */
  what: z.string().trim().min(1).max(200),
});
export type Edit = z.infer<typeof editSchema>;

export const newProgrammeSchema = z.object({
  title: z.string().trim().min(1, 'give the programme a title').max(200),
  aspiration: aspirationSchema.default('na'),
  vehicleId: z.string().nullish(),
  cellId: z.string().nullish(),
});
export const createdSchema = z.object({ id: z.string() });
export const archivedSchema = z.object({ archived: z.boolean() });

/** A part under which cars and programmes it was run. */
export const partHistorySchema = z.object({
  line: z.string(),
  revisions: z.array(
    z.object({
      part: z.string(),
      revision: z.string().nullable(),
      follows: z.string().nullable(),
      stage: z.string().nullable(),
      material: z.string().nullable(),
      specimens: z.array(
        z.object({
          serial: z.string().nullable(),
          cars: z.array(z.string()),
          programmes: z.array(z.object({ id: z.string(), title: z.string(), setup: z.string() })),
          pulls: z.number(),
          /** Between the first and the last odometer reading of days on which it ran; null where fewer than two are known. */
          distanceKm: z.number().nullable(),
        }),
      ),
    }),
  ),
});
export const partsSchema = z.object({ parts: z.array(partHistorySchema) });
export type PartHistory = z.infer<typeof partHistorySchema>;

export const searchHitSchema = z.object({
  kind: z.enum(['programme', 'part', 'file', 'note']),
  programmeId: z.string(),
  programme: z.string(),
  text: z.string(),
  /** Step on which it is found. */
  step: z.enum(['question', 'bench', 'logs']),
});
export const searchSchema = z.object({ hits: z.array(searchHitSchema) });
export type SearchHit = z.infer<typeof searchHitSchema>;

export const programmeViewSchema = z.object({
  id: z.string(),
  /** Changes with everything that is stored of it. */
  stamp: z.string(),
  vehicleId: z.string(),
  cellIds: z.array(z.string()),
  /** Other programmes on the same car, and in the same cells. */
  vehicleSharedBy: sharedBySchema,
  cellsSharedBy: sharedBySchema,
  evidence: z.array(evidenceSchema),
  fixed: z.array(fixedEntrySchema),
  attachments: z.array(attachmentSchema),
  gaps: z.array(z.object({ step: z.enum(['question', 'bench']), field: z.string(), text: z.string() })),
  version: z.number(),
  versions: z.array(z.object({ id: z.string(), version: z.number(), createdAt: z.string(), superseded: z.boolean() })),
  createdAt: z.string(),
  createdBy: z.string(),
  bundle: bundleSchema,
  findings: findingsSchema,
  tide: tideSchema,
  pulls: z.array(pullDetailSchema),
  logs: z.array(logSchema),
  assumptions: z.array(assumptionSchema),
  changes: z.array(changeSchema),
  /** The newest first. */
  exclusions: z.array(pullExclusionSchema),
});
export type ProgrammeView = z.infer<typeof programmeViewSchema>;

/** What changes with everything that is stored of a programme: two windows that hold the same one show the same. */
export const stampAnswerSchema = z.object({ stamp: z.string() });

/** What a change leaves of a programme: everything but its logs, which no change of a programme touches. */
export const programmeChangedSchema = programmeViewSchema.omit({ logs: true });
export type ProgrammeChanged = z.infer<typeof programmeChangedSchema>;

/** What an undo leaves, and the change that it took back: another window may have made it, or taken one back before. */
export const undoneSchema = programmeChangedSchema.extend({ takenBack: z.number() });
export type Undone = z.infer<typeof undoneSchema>;

export const exclusionSchema = z.object({
  /** A text leaves the pull out for this reason; false uses it in spite of the rules; null lets the rules decide. */
  excluded: z.union([z.string().trim().min(1, 'say why the pull is left out').max(300), z.literal(false), z.null()]),
});

/** A driven pull corrected afterwards; what is absent stays. */
export const amendmentSchema = z
  .object({
    why: z.string().trim().min(1, 'say why it is corrected').max(300),
    weather: typedWeatherSchema.optional(),
    setup: z.string().min(1).optional(),
    pullKind: pullKindSchema.optional(),
    aborted: z.boolean().optional(),
    typed: typedFiguresSchema.optional(),
  })
  .refine(({ why: _why, ...rest }) => Object.values(rest).some((value) => value !== undefined), 'say what is corrected');
export type Amendment = z.infer<typeof amendmentSchema>;

export const importChoiceSchema = z.object({ choice: z.enum(['version', 'copy']) });

export const IMPORT_STEPS = ['receiving', 'unpacking', 'reading', 'judging', 'storing', 'done'] as const;
export const importStateSchema = z.object({
  id: z.string(),
  step: z.enum(IMPORT_STEPS),
  /** Share of the whole work: 0 to 1. */
  progress: z.number(),
  detail: z.string(),
  outcome: z
    .discriminatedUnion('kind', [
      z.object({ kind: z.literal('imported'), programmeId: z.string(), notes: z.array(z.string()) }),
      z.object({ kind: z.literal('opened'), programmeId: z.string() }),
      z.object({ kind: z.literal('needs-choice'), programmeId: z.string(), title: z.string() }),
      z.object({ kind: z.literal('failed'), error: apiErrorSchema.shape.error }),
      z.object({ kind: z.literal('cancelled') }),
    ])
    .nullable(),
});
export type ImportState = z.infer<typeof importStateSchema>;

/** Header of a binary trace answer: a little-endian Uint32 with the header's length, the header as JSON, then its arrays as Float64. */
export const traceHeaderSchema = z.object({
  log: z.string(),
  /** Whether neighbouring samples were reduced to their lowest and highest. */
  reduced: z.boolean(),
  series: z.array(z.object({ column: z.string(), length: z.number() })),
});
export type TraceHeader = z.infer<typeof traceHeaderSchema>;

/** Answers that are lists. */
export const vehicleEntriesSchema = z.array(vehicleEntrySchema);
export const cellEntriesSchema = z.array(cellEntrySchema);
