import type { ChannelMapping, DeviceProfile, ReadFile, Reading, ReadMember } from '@gezeit/contract';
import { inEffect } from '../channels/calibration.js';
import { GezeitError } from '../errors.js';
import { readLog } from '../log/read-log.js';
import { reasonsText } from '../log/report-words.js';
import type { ReadTable } from '../log/log-table.js';
import type { Gearbox } from '../pull/gear-of.js';
import { alignMembers } from './align-members.js';
import type { HandPlacing } from './by-hand.js';
import type { DeviceKind } from './device-kind.js';
import { gatherPulls, kindOf } from './gather-pulls.js';
import type { GatherFile } from './timed.js';
import { rateHz, shiftOf, sweepEvents, type SweepEvent } from './sweep-event.js';
import { wallTime } from '../units/wall-time.js';

/** A loose file: its bytes, and where it stood. */
export interface LooseFile {
  file: string;
  bytes: Uint8Array;
  sha256: string;
  /** What it was turned into where it is no text: a sheet of a workbook, as a table parted by tabs. */
  sheet?: { name: string; text: Uint8Array } | null;
  /** It could not be opened at all: why. */
  refused?: GezeitError | null;
}

export interface ReadingOptions {
  profiles?: readonly DeviceProfile[];
  /** What was decided by hand, by device and by "file:…". */
  channels?: Readonly<Record<string, Record<string, ChannelMapping>>> | null;
  /** IANA name of the zone in which the clocks ran; null where nobody says it. */
  timeZone?: string | null;
  /** In which order dates stand that could be read both ways, where somebody has said it. */
  dateOrder?: 'day-first' | 'month-first' | null;
  /** What the car that was driven has for a gearbox, where it is known. */
  gearbox?: Gearbox;
  /** Pulls that stand already, and where sweeps were put by hand. */
  hand?: HandPlacing;
}

/** One file as it was read, with its table. */
export interface ReadLoose {
  report: ReadFile;
  gather: GatherFile | null;
}

/** Reads one loose file; one that cannot be read is no more than a problem. */
export function readLoose(
  loose: LooseFile,
  { profiles = [], channels = null, timeZone = null, dateOrder = null, gearbox }: ReadingOptions,
): ReadLoose {
  const { file, sha256, sheet, refused } = loose;
  const bytes = sheet?.text ?? loose.bytes;
  try {
    if (refused) throw refused;
    const first = unlessSaid(bytes, file, dateOrder, (table, device) => decided(table, device, profiles, channels ?? {}, file));
    const table = first.table ?? readLog(bytes, { file, device: first.device, channels: first.said, dateOrder });
    const kind = first.table ? first.device : kindOf(table);
    const events = sweepEvents(table, gearbox);
    return { report: fileReport(table, kind, events, loose, timeZone), gather: { table, device: kind, events } };
  } catch (error) {
    if (!(error instanceof GezeitError)) throw error;
    const problem = {
      row: typeof error.place.row === 'number' ? error.place.row : null,
      column: null,
      what: error.message,
      todo: error.nextStep,
    };
    return { report: { ...emptyReport(file, sha256, sheet?.name ?? null), problems: [problem] }, gather: null };
  }
}

/** A file as it is read by itself, unless something is said about its columns: then its table is let go before it is read again. */
function unlessSaid(
  bytes: Uint8Array,
  file: string,
  dateOrder: ReadingOptions['dateOrder'],
  saidOf: (table: ReadTable, device: DeviceKind) => Record<string, ChannelMapping> | null,
): { device: DeviceKind; table: ReadTable; said: null } | { device: DeviceKind; table: null; said: Record<string, ChannelMapping> } {
  const table = readLog(bytes, { file, dateOrder });
  const device = kindOf(table);
  const said = saidOf(table, device);
  return said ? { device, said, table: null } : { device, said, table: { ...table, device } };
}

/** What hand, bundle and profile say of a file's columns; null where nobody says anything. */
function decided(
  table: ReadTable,
  device: string,
  profiles: readonly DeviceProfile[],
  channels: Readonly<Record<string, Record<string, ChannelMapping>>>,
  file: string,
): Record<string, ChannelMapping> | null {
  const headers = new Set(table.report.columns.map(({ header }) => header));
  const profile = profiles.find(({ match }) => match.length > 0 && match.every((header) => headers.has(header)));
  const startsAtMs = table.clock?.startsAtMs ?? null;
  const day = startsAtMs === null ? null : new Date(startsAtMs).toISOString().slice(0, 10);
  const all = inEffect({ ...profile?.channels, ...channels[device], ...channels[`file:${file}`] }, day);
  return Object.keys(all).length > 0 ? all : null;
}

const emptyReport = (file: string, sha256: string, sheet: string | null): ReadFile => ({
  file,
  sha256,
  sheet,
  device: 'unknown',
  encoding: null,
  delimiter: null,
  decimal: null,
  headerRow: null,
  unitRow: null,
  firstDataRow: null,
  rows: 0,
  time: null,
  preamble: [],
  columns: [],
  sweeps: [],
  problems: [],
});

function fileReport(
  table: ReadTable,
  device: ReadFile['device'],
  events: readonly SweepEvent[],
  loose: LooseFile,
  timeZone: string | null,
): ReadFile {
  const { report, clock } = table;
  const isText = !loose.sheet && report.encoding !== 'JSON lines';
  return {
    ...emptyReport(loose.file, loose.sha256, loose.sheet?.name ?? null),
    device,
    encoding: isText ? report.encoding.split(' ')[0]! : null,
    delimiter: isText ? report.delimiter : null,
    decimal: isText ? (report.decimalMark === 'comma' ? ',' : '.') : null,
    headerRow: report.headerRow,
    unitRow: report.unitsRow,
    firstDataRow: report.firstDataRow,
    rows: report.rowCount,
    time: clock && {
      columns: clock.columns,
      kind: clock.kind,
      startsAt: clock.startsAtMs === null ? null : wallTime(clock.startsAtMs, clock.zoneMin, timeZone),
      rateHz: rateHz(table),
      recordings: clock.recordings.length,
    },
    preamble: table.preamble,
    columns: report.columns.map(
      ({ header, takenFor, unit, section, gauge, low, middle, high, sure, rivals, duplicateOf, used, reasons }) => ({
        header,
        quantity: takenFor,
        unit,
        section,
        gauge,
        low,
        middle,
        high,
        sure,
        rivals,
        duplicateOf,
        used,
        reasons,
        why: reasonsText(reasons),
      }),
    ),
    sweeps: events.map((event) => ownSweep(table, event)),
    problems: report.problems,
  };
}

function ownSweep(table: ReadTable, { recording, startS, endS, fromRpm, toRpm, gear }: SweepEvent) {
  const shiftS = shiftOf(table, recording);
  return { recording, startS: startS - shiftS, endS: endS - shiftS, fromRpm, toRpm, gear };
}

/** Brings files that were read together to pulls, and says what it takes everything for. */
export function readingOf(read: readonly ReadLoose[], { timeZone = null, hand }: ReadingOptions = {}): Reading {
  const files = read.flatMap(({ gather }) => (gather ? [gather] : []));
  const tables = new Map(files.map(({ table }) => [table.file, table]));
  const { pulls, unmatched, questions } = gatherPulls(files, hand);
  const ids = idsOf(pulls);
  return {
    format: 'gezeit-reading',
    version: 1,
    files: read.map(({ report }) => report),
    pulls: pulls.map((pull, i) => ({
      id: ids[i]!,
      startedAt: pull.startedMs === null ? null : wallTime(pull.startedMs, pull.zoneMin, timeZone),
      members: ownMembers(alignMembers(pull), tables),
    })),
    unmatched: [
      ...read.filter(({ gather }) => !gather).map(({ report }) => ({ file: report.file, why: report.problems[0]!.what })),
      ...unmatched,
    ],
    questions: [...dateQuestions(files), ...questions],
  };
}

/** Pulls that stand keep their id; the others are numbered on. */
function idsOf(pulls: readonly { id: string | null }[]): string[] {
  const width = Math.max(2, String(pulls.length).length);
  const taken = new Set(pulls.map(({ id }) => id));
  let number = pulls.filter(({ id }) => id !== null).length;
  return pulls.map(({ id }) => {
    if (id !== null) return id;
    let free: string;
    do free = `p${String(++number).padStart(width, '0')}`;
    while (taken.has(free));
    return free;
  });
}

/** Members on the files' own clocks. */
function ownMembers(members: ReturnType<typeof alignMembers>, tables: ReadonlyMap<string, ReadTable>): ReadMember[] {
  const shift = ({ file, recording }: SweepEvent) => shiftOf(tables.get(file)!, recording);
  const firstShiftS = members[0] ? shift(members[0].event) : 0;
  return members.map(({ event, offsetS, how, withinS }) => {
    const isCurve = Number.isNaN(event.startS);
    const shiftS = shift(event);
    return {
      file: event.file,
      recording: event.recording,
      startS: isCurve ? null : rounded(event.startS - shiftS),
      endS: isCurve ? null : rounded(event.endS - shiftS),
      // Own clock = clock of the first member + offset.
      offsetS: offsetS === null ? null : rounded(offsetS - shiftS + firstShiftS),
      how,
      withinS: withinS === null ? null : rounded(withinS),
    };
  });
}

const rounded = (seconds: number) => Math.round(seconds * 1e4) / 1e4;

/** A date that can be read in two ways is asked about once for all files that write it so. */
function dateQuestions(files: readonly GatherFile[]): Reading['questions'] {
  const asked = files.flatMap(({ table }) => (table.report.dateQuestion ? [{ file: table.file, ...table.report.dateQuestion }] : []));
  const [first] = asked;
  return first
    ? [
        {
          about: 'date-order',
          what: `${first.text}: day first or month first?`,
          choices: first.choices,
          files: asked.map(({ file }) => file),
        },
      ]
    : [];
}
