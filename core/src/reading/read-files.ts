import { STANDING_FOLDER, type ChannelMapping, type DeviceProfile, type Reading, type ReadMember } from '@gezeit/contract';
import { inEffect } from '../channels/calibration.js';
import { GezeitError } from '../errors.js';
import { readLog } from '../log/read-log.js';
import type { ReadTable } from '../log/log-table.js';
import type { LooseFile, ReadingOptions, ReadLoose } from './loose-file.js';
import { alignMembers } from './align-members.js';
import type { DeviceKind } from './device-kind.js';
import { clockQuestions, dateQuestions } from './file-questions.js';
import { emptyReport, fileReport } from './file-report.js';
import { gatherPulls, kindOf } from './gather-pulls.js';
import { shiftOf, sweepEvents, type SweepEvent } from './sweep-event.js';
import { wallTime } from '../units/wall-time.js';

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
    const table = first.table ?? readLog(bytes, { file, device: first.device, channels: first.said, dateOrder, isLoose: true });
    const kind = first.table ? first.device : kindOf(table);
    const { unsettled } = table.report;
    if (unsettled) return { report: fileReport(table, kind, [], loose, timeZone), gather: null, clocks: unsettled.clocks };
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
  const table = readLog(bytes, { file, dateOrder, isLoose: true });
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

/** Brings files that were read together to pulls, and says what it takes everything for. */
export function readingOf(read: readonly ReadLoose[], { timeZone = null, hand }: ReadingOptions = {}): Reading {
  const copies = copiesOf(read);
  const files = read.flatMap((entry) => (entry.gather && !copies.has(entry) ? [entry.gather] : []));
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
      ...[...copies].map(([{ report }, of]) => ({ file: report.file, why: `It is the same file as ${of}, byte for byte.`, copyOf: of })),
      ...unmatched,
    ],
    questions: [...dateQuestions(files), ...clockQuestions(read), ...questions],
  };
}

/**
 * Files that are others once more, byte for byte, with the one of the shortest name: a pull that is copied is not driven twice. Files of pulls that
 * stand are theirs, whatever they hold.
 */
function copiesOf(read: readonly ReadLoose[]): Map<ReadLoose, string> {
  const alike = new Map<string, ReadLoose[]>();
  for (const entry of read) {
    const { sha256, sheet, file } = entry.report;
    if (!entry.gather || sha256 === '' || file.startsWith(STANDING_FOLDER)) continue;
    const key = `${sha256}#${sheet ?? ''}`;
    alike.set(key, [...(alike.get(key) ?? []), entry]);
  }
  const copies = new Map<ReadLoose, string>();
  for (const group of alike.values()) {
    const [first, ...others] = group.toSorted((a, b) => a.report.file.length - b.report.file.length);
    for (const entry of others) copies.set(entry, first!.report.file);
  }
  return copies;
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
