import { gzipSync } from 'node:zlib';
import type { DayHappening, DayMatch, FileQuestion } from '@gezeit/contract';
import { dayFileOf, matchFiles, matchMore, offsetText, readLog, zoneOf, type DayState, type DeviceFile } from '@gezeit/core';
import type { EntityManager } from 'typeorm';
import type { Database } from '../database/database.js';
import { Log } from '../database/entities.js';
import { sha256 } from '../bundle/sha256.js';
import { loadBundle } from '../store/load-bundle.js';
import { storeLog } from '../store/store-bundle.js';
import type { DeviceFileMade } from './device.js';

type Taken = Extract<DayHappening, { kind: 'file-taken' }>;
type Matched = Extract<DayHappening, { kind: 'files-matched' }>;

/**
 * Reads a file of a day and keeps it byte for byte; null where the same bytes belong to another day or to a bundle. Handed on twice (the
 * server may have stopped in between), it is kept once and told again. For the worker: a long file takes its time.
 * @throws GezeitError where it is no table.
 */
export async function keepFile(
  database: Database,
  programmeId: string,
  day: string,
  { name, bytes, madeAtMs }: DeviceFileMade,
): Promise<Taken | null> {
  const folder = `logs/${day}/`;
  const digest = sha256(bytes);
  const known = await database.manager.findOneBy(Log, { programmeId, sha256: digest });
  if (known && !known.file.startsWith(folder)) return null;
  const { channels, vehicle, cell, cells } = await loadBundle(database.manager, programmeId);
  // Where nobody says the cell's zone, its clocks are taken for those of this machine.
  const timeZone = zoneOf({ cell, cells }) ?? Intl.DateTimeFormat().resolvedOptions().timeZone;
  const { device } = dayFileOf(readLog(bytes, { file: name }), vehicle, timeZone);
  const wanted = folder + name.replace(/[^\p{L}\d._-]+/gu, '-');
  const table = readLog(bytes, { file: known?.file ?? wanted, device, channels: channels?.[device] });
  // Only what is written waits for others that write, and lets them wait.
  const original = { byteCount: bytes.length, sha256: digest, compressed: gzipSync(bytes, { level: 1 }) };
  const file =
    known?.file ??
    (await database.write(async (manager) => {
      const free = await freeName(manager, programmeId, wanted);
      await storeLog(manager, programmeId, free, table, original);
      return free;
    }));
  const { sweepsAtS, sweeps, lengthS, endedMs, weather } = dayFileOf(table, vehicle, timeZone);
  // Its own clock knows better than the moment at which a copy of it was made.
  return { kind: 'file-taken', file, device, madeAtMs: endedMs ?? madeAtMs, sweepsAtS, sweeps, lengthS, ...(weather ? { weather } : {}) };
}

async function freeName(manager: EntityManager, programmeId: string, wanted: string): Promise<string> {
  const dot = wanted.lastIndexOf('.') > wanted.lastIndexOf('/') ? wanted.lastIndexOf('.') : wanted.length;
  let file = wanted;
  for (let i = 2; await manager.findOneBy(Log, { programmeId, file }); i++) file = `${wanted.slice(0, dot)}-${i}${wanted.slice(dot)}`;
  return file;
}

const filesOf = (state: DayState, device: string): DeviceFile[] => state.files.filter((file) => file.device === device);
const momentsOf = (state: DayState) => state.pulls.map(({ id, startedMs }) => ({ id, startedMs }));

/** Devices with files of this day; the weather's are of no pull. */
export const devicesOf = (state: DayState): string[] => [
  ...new Set(state.files.flatMap(({ device }) => (device === 'weather' ? [] : [device]))),
];

/** What the files of a device say now: a matching to be kept, a question to be asked, or nothing new. */
export function matchDevice(state: DayState, device: string, final: boolean): { matched: Matched | null; question: FileQuestion | null } {
  const files = filesOf(state, device);
  const before = state.matches.get(device);
  const known = new Set(before?.matches.map(({ file }) => file));
  const fresh = files.filter(({ file }) => !known.has(file));
  if (fresh.length === 0) return { matched: null, question: null };
  const pulls = momentsOf(state);
  if (before?.offsetS != null) {
    const more = matchMore(fresh, pulls, before.matches, before.offsetS);
    const all = [...before.matches, ...more];
    const lastOf = pulls.findLastIndex(({ id }) => all.some(({ pull }) => pull === id));
    const gap = pulls.slice(0, lastOf).some(({ id }) => !all.some(({ pull }) => pull === id) && !isOld(id, before, pulls));
    if (more.every(({ pull }) => pull !== null) && !gap) return { matched: { ...before, matches: all, asked: false }, question: null };
  }
  const found = matchFiles(files, pulls, final);
  if (found.ask === null)
    return { matched: { kind: 'files-matched', device, offsetS: found.offsetS, matches: found.matches, asked: false }, question: null };
  const byName = new Map(files.map((entry) => [entry.file, entry]));
  const atMs = ({ file, sweep }: DayMatch) => {
    const { madeAtMs, lengthS, sweepsAtS } = byName.get(file)!;
    return madeAtMs - 1000 * (lengthS - (sweepsAtS[sweep ?? 0] ?? 0));
  };
  const clock = found.offsetS !== null && Math.abs(found.offsetS) > 90 ? ` Its clock is off: ${offsetText(found.offsetS)}.` : '';
  return {
    matched: null,
    question: {
      device,
      why: found.ask + clock,
      offsetS: found.offsetS,
      files: found.matches.map((match) => ({ ...match, atMs: atMs(match) })),
      missing: found.missing,
    },
  };
}

/** Whether a pull without a file was passed over by an earlier answer. */
function isOld(id: string, before: Matched, pulls: { id: string }[]): boolean {
  const lastOf = pulls.findLastIndex((pull) => before.matches.some((match) => match.pull === pull.id));
  return pulls.findIndex((pull) => pull.id === id) < lastOf;
}
