import { gunzipSync } from 'node:zlib';
import { STANDING_FOLDER, type Bundle, type Channels, type Standing } from '@gezeit/contract';
import { letGo } from '../bundle/let-go.js';
import { decidedChannels, readLoose, wallMs, zoneOf, type ReadLoose, type StandingPull } from '@gezeit/core';
import type { EntityManager } from 'typeorm';
import { devicesOf } from '../bundle/read-tables.js';
import { Log } from '../database/entities.js';
import { loadBundle } from '../store/load-bundle.js';

/** A programme to which files are added, as the reading takes part of it. */
export interface StandingProgramme {
  bundle: Bundle;
  said: Standing;
  pulls: StandingPull[];
  timeZone: string | null;
  /** What is decided about columns by device; what is decided about one file stays with it. */
  channels: Channels;
  /** Its logs that pulls list, read when asked. */
  files: { sha256: string; read(): Promise<ReadLoose> }[];
}

/** Under which name a file of the programme takes part in a reading, and back. */
const standingName = (file: string): string => `${STANDING_FOLDER}${file}`;
export const ownName = (name: string): string | null => (name.startsWith(STANDING_FOLDER) ? name.slice(STANDING_FOLDER.length) : null);

/** @throws GezeitError `not-found`. */
export async function standingOf(manager: EntityManager, programmeId: string): Promise<StandingProgramme> {
  const bundle = await loadBundle(manager, programmeId);
  const timeZone = zoneOf(bundle);
  const devices = devicesOf(bundle);
  const logs = await manager.find(Log, { where: { programmeId }, select: { id: true, file: true, device: true, sha256: true } });
  return {
    bundle,
    timeZone,
    channels: Object.fromEntries(Object.entries(bundle.channels ?? {}).filter(([key]) => !key.startsWith('file:'))),
    said: {
      programmeId,
      title: bundle.programme.title,
      setups: bundle.setups.filter(({ archived }) => !archived).map(({ id, name }) => ({ id, name: name ?? id })),
      pulls: bundle.pulls.map(({ id, setup, kind, aborted }) => ({
        id,
        setup,
        kind: aborted ? 'aborted' : kind === 'conditioning' ? 'conditioning' : 'measured',
      })),
    },
    pulls: bundle.pulls
      .toSorted((a, b) => Date.parse(a.startedAt) - Date.parse(b.startedAt))
      .map((pull) => ({
        id: pull.id,
        startedMs: pull.startUnknown ? null : wallMs(pull.startedAt, timeZone),
        logs: pull.logs.map(({ file, recording, startS }) => ({ file: standingName(file), recording, startS })),
      })),
    files: logs
      .filter(({ file }) => devices.has(file))
      .map(({ id, file, device, sha256 }) => ({
        sha256,
        async read() {
          const { compressed } = await manager.findOneOrFail(Log, { where: { id }, select: { id: true, compressed: true } });
          const own = decidedChannels(bundle, devices.get(file) ?? device, file);
          const name = standingName(file);
          const channels = own ? { [`file:${name}`]: own } : null;
          const bytes = gunzipSync(compressed);
          const read = readLoose({ file: name, bytes, sha256 }, { channels, timeZone, gearbox: bundle.vehicle });
          letGo(bytes);
          return read;
        },
      })),
  };
}
