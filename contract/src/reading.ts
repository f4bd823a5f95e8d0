import { z } from './zod.js';
import { quantitySchema } from './quantities.js';

const number = z.number();
const orNull = number.nullable();

const rivalSchema = z.object({ quantity: quantitySchema, sure: number });

/** Why a column is taken for something, or for nothing. */
export const readReasonSchema = z.discriminatedUnion('code', [
  z.object({ code: z.enum(['hand', 'ignored', 'name', 'unit', 'values', 'shape', 'columns', 'afr', 'gauge', 'clock', 'unsure']) }),
  /** Taken as an absolute pressure: since it says so, or since its values stand where none against ambient does. */
  z.object({ code: z.literal('absolute'), by: z.enum(['stated', 'values', 'shut-throttle']) }),
  z.object({ code: z.literal('unit-judged'), unit: z.string(), rivals: z.array(z.string()) }),
  z.object({ code: z.literal('unit-unsure'), units: z.array(z.string()) }),
  z.object({ code: z.literal('unit-unknown'), text: z.string() }),
  z.object({ code: z.literal('unit-apart'), unit: z.string() }),
  /** It holds the values of another column. */
  z.object({ code: z.literal('copy'), of: z.string() }),
  /** Another column of the same quantity is used in its stead, or it is put together with that one. */
  z.object({ code: z.literal('other-used'), other: z.string() }),
  z.object({ code: z.literal('combined'), how: z.enum(['sum', 'mean']), with: z.string() }),
]);
export type ReadReason = z.infer<typeof readReasonSchema>;

/** What one column of a loose file is taken for. */
export const readColumnSchema = z.object({
  header: z.string(),
  quantity: quantitySchema.nullable(),
  unit: z.string().nullable(),
  section: z.string().nullable(),
  gauge: z.boolean().nullable(),
  low: orNull,
  middle: orNull,
  high: orNull,
  sure: number,
  rivals: z.array(rivalSchema),
  duplicateOf: orNull,
  used: z.boolean(),
  reasons: z.array(readReasonSchema),
  /** The reasons in words. */
  why: z.string(),
});
export type ReadColumn = z.infer<typeof readColumnSchema>;

export const readSweepSchema = z.object({ recording: number, startS: number, endS: number, fromRpm: orNull, toRpm: orNull, gear: orNull });
export type ReadSweep = z.infer<typeof readSweepSchema>;

export const READ_DEVICES = ['ecu', 'dyno', 'daq', 'weather', 'unknown'] as const;

/** What a loose file is taken for. */
export const readFileSchema = z.object({
  file: z.string(),
  sha256: z.string(),
  sheet: z.string().nullable(),
  device: z.enum(READ_DEVICES),
  encoding: z.string().nullable(),
  delimiter: z.string().nullable(),
  decimal: z.string().nullable(),
  headerRow: orNull,
  unitRow: orNull,
  firstDataRow: orNull,
  rows: number,
  time: z
    .object({
      columns: z.array(number),
      kind: z.enum(['elapsed', 'clock', 'dateTime', 'epoch', 'serial']),
      startsAt: z.string().nullable(),
      rateHz: orNull,
      recordings: number,
    })
    .nullable(),
  preamble: z.array(z.object({ quantity: quantitySchema, value: number, text: z.string() })),
  columns: z.array(readColumnSchema),
  sweeps: z.array(readSweepSchema),
  problems: z.array(z.object({ row: orNull, column: orNull, what: z.string(), todo: z.string() })),
});
export type ReadFile = z.infer<typeof readFileSchema>;

export const MEMBER_HOWS = [
  'first',
  'engine-speed',
  'roller-speed',
  'vehicle-speed',
  'step',
  'trigger',
  'clock',
  'order',
  'hand',
  'assumed',
  'curve',
] as const;

/** A file's part in a pull. */
export const readMemberSchema = z.object({
  file: z.string(),
  recording: number,
  startS: orNull,
  endS: orNull,
  offsetS: orNull,
  how: z.enum(MEMBER_HOWS),
  withinS: orNull,
});
export type ReadMember = z.infer<typeof readMemberSchema>;

export const readPullSchema = z.object({ id: z.string(), startedAt: z.string().nullable(), members: z.array(readMemberSchema) });
export type ReadPull = z.infer<typeof readPullSchema>;

/** What reading asks: in which order dates are written, which of two time columns is right, or of which pull files are. */
export const readQuestionSchema = z.object({
  about: z.enum(['date-order', 'which-clock', 'which-pull']),
  what: z.string(),
  choices: z.array(z.string()),
  files: z.array(z.string()),
});
export type ReadQuestion = z.infer<typeof readQuestionSchema>;

/** What a folder of exports is taken for, before there is a bundle. */
export const readingSchema = z.object({
  format: z.literal('gezeit-reading'),
  version: z.literal(1),
  files: z.array(readFileSchema),
  pulls: z.array(readPullSchema),
  /** `copyOf`: the file that it is once more, byte for byte. */
  unmatched: z.array(z.object({ file: z.string(), why: z.string(), copyOf: z.string().optional() })),
  questions: z.array(readQuestionSchema),
});
export type Reading = z.infer<typeof readingSchema>;
