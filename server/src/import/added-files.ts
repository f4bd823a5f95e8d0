import { gunzipSync } from 'node:zlib';
import { In, type EntityManager } from 'typeorm';
import { Change, Log, Programme } from '../database/entities.js';

/** What was added to a programme, or to an earlier version of it, after its bundle had come. */
export interface AddedSince {
  /** Digests of files. */
  digests: ReadonlySet<string>;
  /** Ids of pulls that came with them. */
  pulls: ReadonlySet<string>;
}

/** What was added by dropping files on any version of a programme, and not taken back. */
export async function addedSince(manager: EntityManager, lineage: string): Promise<AddedSince> {
  const versions = await manager.find(Programme, { where: { lineage }, select: { id: true } });
  const changes = await manager.find(Change, {
    where: { programmeId: In(versions.map(({ id }) => id)), kind: 'files-added', undone: false },
  });
  const digests = new Set<string>();
  const pulls = new Set<string>();
  for (const { programmeId, before, after } of changes) {
    for (const pull of (JSON.parse(before) as { pulls: string[] }).pulls) pulls.add(pull);
    const logs = await manager.find(Log, { where: { programmeId, file: In(JSON.parse(after) as string[]) }, select: { sha256: true } });
    for (const { sha256 } of logs) digests.add(sha256);
  }
  return { digests, pulls };
}

/** The bytes of some of a programme's logs, as they came. */
export async function bytesOfLogs(manager: EntityManager, programmeId: string, files: readonly string[]): Promise<Map<string, Uint8Array>> {
  const rows = await manager.find(Log, { where: { programmeId, file: In([...files]) }, select: { file: true, compressed: true } });
  return new Map(rows.map(({ file, compressed }) => [file, gunzipSync(compressed)]));
}
