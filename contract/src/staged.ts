import { z } from './zod.js';
import { aspirationSchema, channelsSchema } from './bundle.js';
import { readingSchema, type ReadPull } from './reading.js';

/** `drive`: all of the recording that holds the sweep is one drive, laps or a long run. */
export const STAGED_KINDS = ['measured', 'conditioning', 'aborted', 'drive', 'left-out'] as const;
export type StagedKind = (typeof STAGED_KINDS)[number];

const dayText = z.string().regex(/^\d{4}-\d{2}-\d{2}$/, 'say the day as 2026-03-04');
const clockText = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d(:[0-5]\d)?$/, 'say the time as 09:12');

/** What was decided about dropped files that are not kept yet. */
export const stagedDecisionsSchema = z.object({
  title: z.string().max(200),
  timeZone: z.string().nullable(),
  dateOrder: z.enum(['day-first', 'month-first']).nullable(),
  /** Where no file tells: the day, and when its first pull was. */
  day: dayText.nullable(),
  firstAt: clockText.nullable(),
  weather: z
    .object({ temperatureC: z.number(), pressureKPa: z.number().positive(), relativeHumidityPct: z.number().nullable() })
    .nullable(),
  setups: z
    .array(z.object({ id: z.string().min(1).max(20), name: z.string().min(1).max(200) }))
    .min(1)
    .max(30),
  /** By where a pull stands in its first file; see `stagedKey`. */
  pulls: z.record(z.string(), z.object({ setup: z.string(), kind: z.enum(STAGED_KINDS) })),
  /** Of which pull a sweep is, where somebody said it: by the sweep's key, or `file#` of a file that shows none, the pull's key, `own` or `none`. */
  places: z.record(z.string(), z.string()).default({}),
  channels: channelsSchema.nullable(),
});
export type StagedDecisions = z.infer<typeof stagedDecisionsSchema>;

/** The setups of dropped files before anybody has named them. */
export const FIRST_SETUPS: StagedDecisions['setups'] = [
  { id: 'A', name: 'Stock' },
  { id: 'B', name: 'New part' },
];

/** By what a sweep of a file is known, whatever else is read anew. */
export function sweepKey({ file, recording, startS }: { file: string; recording: number; startS: number | null }): string {
  return `${file}#${recording}@${startS === null ? '' : Math.round(startS)}`;
}

type KeyedPull = Pick<ReadPull, 'id' | 'members'>;

/** The recording in which a pull was found: the sweeps of one recording are one drive, or none of them is. */
export const recordingOfPull = ({ id, members }: KeyedPull): string =>
  members[0] ? `${members[0].file}#${members[0].recording}` : `pull:${id}`;

/** By what a pull of a reading is known: where it stands in its first file. */
export function stagedKey({ id, members }: KeyedPull): string {
  return members[0] ? sweepKey(members[0]) : `pull:${id}`;
}

/** What was decided about a pull; a file that came to it since, even as its first one, changes nothing about that. */
export function decidedOf<T>(pull: KeyedPull, decided: Readonly<Record<string, T>>): T | undefined {
  return [...pull.members.map(sweepKey), `pull:${pull.id}`].map((key) => decided[key]).find((entry) => entry !== undefined);
}

/** What could be told from the files beside the reading. */
export const stagedHintsSchema = z.object({
  aspiration: aspirationSchema,
  bandRpm: z.tuple([z.number(), z.number()]),
  /** The air as a column, a line above a table or a weather file says it. */
  weather: z.object({ temperatureC: z.number(), pressureKPa: z.number(), relativeHumidityPct: z.number().nullable() }).nullable(),
  /** Of each pull by its key: the air as one of its own files logged it. */
  ambients: z
    .record(z.string(), z.object({ temperatureC: z.number(), pressureKPa: z.number(), relativeHumidityPct: z.number().nullable() }))
    .default({}),
  /** Of each pull by its key: the highest power in its sweep, W, with its engine speed. */
  peaks: z.record(z.string(), z.object({ powerW: z.number(), rpm: z.number().nullable() })),
  /** Seconds from the first pull, where one clock runs through all of them; by key. */
  afterS: z.record(z.string(), z.number()).nullable(),
  /** What the names of the files tell: the setups, the reference first (null where it has no name), and by its key which of them a pull is of. */
  named: z
    .object({
      names: z.array(z.string().nullable()),
      pulls: z.record(z.string(), z.object({ setup: z.number().int().nullable(), isConditioning: z.boolean() })),
    })
    .nullable()
    .default(null),
});
export type StagedHints = z.infer<typeof stagedHintsSchema>;

/** The programme to which files are added: its pulls stand. */
export const standingSchema = z.object({
  programmeId: z.string(),
  title: z.string(),
  setups: z.array(z.object({ id: z.string(), name: z.string() })),
  pulls: z.array(z.object({ id: z.string(), setup: z.string(), kind: z.enum(STAGED_KINDS) })),
});
export type Standing = z.infer<typeof standingSchema>;

/** To which programme dropped files are added. */
export const stagedIntoSchema = z.object({ programmeId: z.string().max(100).nullable() });

/** Files of the programme itself stand in a reading under this folder. */
export const STANDING_FOLDER = 'in the programme/';

export const stagedSchema = z.object({
  id: z.string(),
  state: z.enum(['reading', 'ready', 'failed']),
  progress: z.number(),
  detail: z.string(),
  error: z.object({ code: z.string(), message: z.string(), nextStep: z.string() }).nullable(),
  receivedAt: z.string(),
  by: z.string(),
  /** The programme that it was kept as; it is no longer shown on the board then, and can be sorted again. */
  keptAs: z.string().nullable(),
  into: standingSchema.nullable(),
  files: z.number(),
  /** The newest date of the files themselves, as the browser knew it; null where it knew none. */
  lastModified: z.string().nullable(),
  decisions: stagedDecisionsSchema,
  reading: readingSchema.nullable(),
  hints: stagedHintsSchema.nullable(),
});
export type Staged = z.infer<typeof stagedSchema>;

/** Something was done that has no other answer. */
export const doneSchema = z.object({ done: z.literal(true) });

export const stagedListSchema = z.object({
  staged: z.array(z.object({ id: z.string(), title: z.string(), receivedAt: z.string(), files: z.number(), pulls: z.number().nullable() })),
});
export type StagedList = z.infer<typeof stagedListSchema>;
