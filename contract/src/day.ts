import { z } from './zod.js';
import { holderSchema } from './access.js';
import { CHECKLISTS, instantSchema, planPullSchema, pullKindSchema, setupSchema, typedFiguresSchema } from './bundle.js';
import { quantitySchema } from './quantities.js';
import { typedWeatherSchema } from './weather.js';

const text = z.string().trim().min(1).max(2000);
const nullableNumber = z.number().nullable();

/** What was read of a gate at a moment, in the gate's own unit; null where nothing said it. */
export const stampSchema = z.record(z.string(), nullableNumber);

/** Weather as it was at a pull. */
export const dayWeatherSchema = z.object({
  temperatureC: nullableNumber,
  pressureKPa: nullableNumber,
  relativeHumidityPct: nullableNumber,
});

/** The air at a moment of a file of the weather, s from its first sample. */
const dayWeatherAtSchema = dayWeatherSchema.extend({ atS: z.number() });
export type DayWeatherAt = z.infer<typeof dayWeatherAtSchema>;

/** A sweep on its file's own clock, s. */
const dayFileSweepSchema = z.object({ recording: z.number().int(), startS: z.number(), endS: z.number() });
export type DayFileSweep = z.infer<typeof dayFileSweepSchema>;

/** A sweep of a file, by its place among the file's sweeps, and its pull; null for none of this day. */
export const dayMatchSchema = z.object({ file: z.string(), sweep: z.number().int().min(0).nullish(), pull: z.string().nullable() });
export type DayMatch = z.infer<typeof dayMatchSchema>;

/** How a pull began or ended: by the key, from a stream, or from a file that came. */
export const pullCauseSchema = z.enum(['key', 'stream', 'file']);

/** A limit that was passed, in its own unit; null where somebody called the stop. */
export const passedLimitSchema = z.object({
  label: z.string(),
  value: z.number(),
  limit: z.number(),
  unit: z.string(),
  above: z.boolean(),
});
export type PassedLimit = z.infer<typeof passedLimitSchema>;

/** What happened on a day, one thing each. The day is nothing but the list of these. */
export const dayHappeningSchema = z.discriminatedUnion('kind', [
  /** The plan's pulls as they stood: a later change of the plan does not change a day that runs. */
  z.object({ kind: z.literal('begun'), day: z.string().min(1), pulls: z.array(planPullSchema), fitted: z.string().nullable() }),
  z.object({
    kind: z.literal('checked'),
    list: z.enum(CHECKLISTS),
    /** What the list was for: a pull, a swap, or the day. */
    of: z.string(),
    items: z.array(z.string()),
    done: z.boolean(),
    reason: z.string().nullish(),
  }),
  z.object({
    kind: z.literal('pull-started'),
    pull: z.string().min(1),
    setup: z.string(),
    mapVersion: z.string().nullish(),
    pullKind: pullKindSchema,
    /** Place in the plan; null for a pull out of plan. */
    place: z.number().int().nullable(),
    stamp: stampSchema,
    weather: dayWeatherSchema.nullable(),
    start: z.object({ coolantC: nullableNumber, intakeAirC: nullableNumber, oilC: nullableNumber }),
    /** Why it was driven although a gate was not met. */
    anyway: z.string().nullable(),
    cause: pullCauseSchema,
  }),
  z.object({ kind: z.literal('pull-ended'), pull: z.string(), aborted: z.boolean(), reason: z.string().nullish(), cause: pullCauseSchema }),
  z.object({
    kind: z.literal('pull-amended'),
    pull: z.string(),
    pullKind: pullKindSchema.optional(),
    setup: z.string().optional(),
    aborted: z.boolean().optional(),
    typed: typedFiguresSchema.optional(),
    weather: dayWeatherSchema.optional(),
    /** Given where it is corrected afterwards: the pull carries it then. */
    why: z.string().optional(),
  }),
  z.object({ kind: z.literal('swap-started'), to: z.string(), confirmed: z.boolean().nullish() }),
  z.object({ kind: z.literal('swap-ended'), ecuReset: z.boolean() }),
  /** A change outside the plan: a setup of its own from then on, so that it is not forgotten. */
  z.object({
    kind: z.literal('setup-changed'),
    setup: setupSchema,
    /** Whether what is still planned of the setup before it is driven with this one. */
    restOfDay: z.boolean(),
  }),
  z.object({ kind: z.literal('skipped'), place: z.number().int(), reason: z.string().nullish() }),
  z.object({ kind: z.literal('inserted'), setup: z.string(), pullKind: pullKindSchema, count: z.number().int().min(1).max(20) }),
  z.object({ kind: z.literal('reading'), gate: z.string(), value: nullableNumber }),
  z.object({ kind: z.literal('weather'), weather: dayWeatherSchema }),
  /** Pressure channels with the engine off, Pa; a channel near the weather's pressure is absolute. */
  z.object({ kind: z.literal('zero'), channels: z.record(z.string(), z.number()) }),
  z.object({ kind: z.literal('note'), text, files: z.array(z.string()), pull: z.string().nullish() }),
  z.object({ kind: z.literal('stop-raised'), criterion: z.string(), text, passed: passedLimitSchema.nullish() }),
  z.object({ kind: z.literal('stop-acknowledged'), text: z.string().nullish() }),
  /** What the day could say after a pull. */
  z.object({
    kind: z.literal('said'),
    pull: z.string(),
    comparisons: z.array(
      z.object({
        reference: z.string(),
        candidate: z.string(),
        pct: nullableNumber,
        low: nullableNumber,
        high: nullableNumber,
        power: z.string(),
      }),
    ),
  }),
  z.object({
    kind: z.literal('file-taken'),
    file: z.string(),
    device: z.string(),
    madeAtMs: z.number(),
    sweepsAtS: z.array(z.number()),
    /** Where each of them stands on the file's own clock; null for one that has no speed or no time. */
    sweeps: z.array(dayFileSweepSchema.nullable()).optional(),
    lengthS: z.number(),
    /** Of a file of the weather. */
    weather: z.array(dayWeatherAtSchema).max(200).nullish(),
  }),
  /** Files of a device matched to pulls: file and place of the sweep in it, to the pull; null for none of this day. */
  z.object({
    kind: z.literal('files-matched'),
    device: z.string(),
    offsetS: nullableNumber,
    matches: z.array(dayMatchSchema),
    /** Whether somebody was asked. */
    asked: z.boolean(),
  }),
  /** The car left the rollers for another one, or came back: while it is off, nothing that streams or is exported is of it. */
  z.object({ kind: z.literal('rollers'), on: z.boolean(), other: z.string().nullish() }),
  z.object({ kind: z.literal('ended'), reason: z.string().nullable(), open: z.array(z.string()) }),
  z.object({ kind: z.literal('taken-back'), event: z.string() }),
]);
export type DayHappening = z.infer<typeof dayHappeningSchema>;

/** A happening with its moment on the day's clock, and who. Sent twice (after a lost connection), it is one. */
export const dayEventSchema = z.object({ id: z.string().min(8).max(64), at: instantSchema, by: z.string(), what: dayHappeningSchema });
export type DayEvent = z.infer<typeof dayEventSchema>;
/** Weather that somebody typed is held to what weather can be as it comes in; what is stored already is read as it stands. */
const newDayEventSchema = dayEventSchema.omit({ by: true }).superRefine(({ what }, context) => {
  const typed = what.kind === 'weather' || what.kind === 'pull-amended' ? what.weather : undefined;
  for (const { message, path } of typed ? (typedWeatherSchema.safeParse(typed).error?.issues ?? []) : [])
    context.addIssue({ code: 'custom', message, path: ['what', 'weather', ...path] });
});
export const dayEventsSchema = z.object({
  events: z.array(newDayEventSchema).min(1).max(500),
});

/** The newest reading of a channel of any device, in the unit kept inside. */
export const liveReadingSchema = z.object({ quantity: quantitySchema, value: z.number(), atMs: z.number() });
export type LiveReading = z.infer<typeof liveReadingSchema>;

/** A device that a day listens to. */
/** Whether the port of an address is one. */
function hasRealPort(address: string): boolean {
  const port = Number(/:(\d{1,5})(?:\/|$)/.exec(address)?.[1] ?? 0);
  return port >= 1 && port <= 65_535;
}

/** A device's name is part of a folder's. */
const deviceIdSchema = z.string().regex(/^[A-Za-z0-9][A-Za-z0-9_-]{0,39}$/, 'letters, digits, - and _ only');

export const deviceSettingSchema = z.discriminatedUnion('kind', [
  z.object({
    id: deviceIdSchema,
    kind: z.literal('folder'),
    path: z.string().min(1).max(1000) /** Whether files that lie there already are taken too. */,
    takeExisting: z.boolean(),
  }),
  z.object({
    id: deviceIdSchema,
    kind: z.literal('stream'),
    /** tcp://127.0.0.1:PORT or ws://127.0.0.1:PORT/… */
    address: z
      .string()
      .max(300)
      .regex(
        /^(tcp|ws):\/\/(127\.0\.0\.1|localhost|\[::1\]):\d{1,5}(\/\S*)?$/,
        'a stream is read from this machine only: tcp://127.0.0.1:PORT or ws://127.0.0.1:PORT',
      )
      .refine(hasRealPort, 'a port is a number from 1 to 65535'),
    /** Whether the stream of each pull is kept as its log: for devices that write no file. */
    keep: z.boolean(),
  }),
  z.object({
    id: deviceIdSchema,
    kind: z.literal('rig'),
    speed: z.number().min(1).max(60),
    /** Whether the simulated driver pulls when the screen says so. */
    follows: z.boolean(),
    seed: z.number().int(),
    /** The rig's logger clock is wrong by this much, s. */
    clockWrongS: z.number(),
  }),
]);
export type DeviceSetting = z.infer<typeof deviceSettingSchema>;

export const deviceStateSchema = z.object({
  /** What is listened to, or what was kept and cannot be read any more. */
  setting: z.union([deviceSettingSchema, z.object({ id: z.string(), kind: z.literal('unreadable') })]),
  state: z.enum(['listening', 'waiting', 'failed']),
  detail: z.string(),
  files: z.number(),
});
export type DeviceState = z.infer<typeof deviceStateSchema>;

/** What the files of a device need to be asked about. */
export const fileQuestionSchema = z.object({
  device: z.string(),
  why: z.string(),
  offsetS: nullableNumber,
  /** `atMs`: when the sweep began by the device's own clock. */
  files: z.array(dayMatchSchema.extend({ atMs: z.number() })),
  missing: z.array(z.string()),
});
export type FileQuestion = z.infer<typeof fileQuestionSchema>;

export const RIG_MISHAPS = ['slip', 'late-lift', 'spike', 'throttle-closed', 'soft'] as const;
export const rigStateSchema = z.object({
  nowMs: z.number(),
  speed: z.number(),
  fitted: z.string(),
  doing: z.enum(['idle', 'off', 'pull']),
  follows: z.boolean(),
  pulls: z.number(),
  nextMishap: z.enum(RIG_MISHAPS).nullable(),
});
export type RigState = z.infer<typeof rigStateSchema>;
export const rigCommandSchema = z.discriminatedUnion('do', [
  z.object({ do: z.literal('pull') }),
  z.object({ do: z.literal('fit'), setup: z.string(), ecuReset: z.boolean() }),
  z.object({ do: z.literal('engine'), on: z.boolean() }),
  z.object({ do: z.literal('mishap'), mishap: z.enum(RIG_MISHAPS).nullable() }),
  z.object({ do: z.literal('speed'), speed: z.number().min(1).max(60) }),
  z.object({ do: z.literal('follow'), follows: z.boolean() }),
]);
export type RigCommand = z.infer<typeof rigCommandSchema>;
/** What the rig alone knows: true difference of a comparison on this day, per cent. */
export const rigTruthSchema = z.object({
  pairs: z.array(z.object({ reference: z.string(), candidate: z.string(), levelledPct: z.number() })),
});

/** The day's clock: what time it is there, and how fast it goes against this machine's. */
export const dayClockSchema = z.object({ nowMs: z.number(), speed: z.number() });

/** The traces of the pull under way or just closed, thinned for the screen. */
export const liveTraceSchema = z.object({
  pull: z.string().nullable(),
  engineSpeedRpm: z.array(z.number()),
  /** One value a sample for every channel that was seen, in its unit inside (W, Pa, °C), by quantity. */
  channels: z.record(z.string(), z.array(nullableNumber)),
});
export type LiveTrace = z.infer<typeof liveTraceSchema>;

/** Temperature history for the ready moment: seconds on the day's clock, °C, by quantity. */
export const liveHistorySchema = z.record(z.string(), z.object({ atMs: z.array(z.number()), value: z.array(z.number()) }));
export type LiveHistory = z.infer<typeof liveHistorySchema>;

export const dayViewSchema = z.object({
  day: z.string().nullable(),
  events: z.array(dayEventSchema),
  clock: dayClockSchema,
  devices: z.array(deviceStateSchema),
  readings: z.array(liveReadingSchema),
  history: liveHistorySchema,
  trace: liveTraceSchema,
  questions: z.array(fileQuestionSchema),
  rig: rigStateSchema.nullable(),
  /** Who acts on it; null while no day runs, or nobody has acted yet. */
  holder: holderSchema.nullable(),
  /** Other programmes on the same car or with a day under way, for a pull that serves them too. */
  others: z.array(z.object({ id: z.string(), title: z.string(), sameCar: z.boolean(), running: z.boolean() })),
});
export type DayView = z.infer<typeof dayViewSchema>;

/** What a window that follows is sent: a whole view when something happened, else only what moves. */
export const dayMessageSchema = z.discriminatedUnion('type', [
  z.object({ type: z.literal('view'), view: dayViewSchema }),
  z.object({
    type: z.literal('live'),
    clock: dayClockSchema,
    readings: z.array(liveReadingSchema),
    /** Samples that are new since the last message. */
    history: liveHistorySchema,
    trace: liveTraceSchema.nullable(),
    rig: rigStateSchema.nullable(),
  }),
]);
export type DayMessage = z.infer<typeof dayMessageSchema>;

/** What is still open after files were matched, and after one was brought: the file's name where it was new. */
export const fileMatchSchema = z.object({ questions: z.array(fileQuestionSchema) });
export const dayFileSchema = fileMatchSchema.extend({ file: z.string().nullable() });
