import type { Bundle, Evidence } from '@gezeit/contract';
import type { EntityManager } from 'typeorm';
import { Log, type ProgrammeRow } from '../database/entities.js';
import { evidenceOf } from '../store/evidence.js';
import { findProgramme, loadBundleOf } from '../store/load-bundle.js';

/** Everything that a programme's analysis is made from, but the samples of its logs. */
export interface ProgrammeState {
  id: string;
  bundle: Bundle;
  /** Digest of each log by its file. */
  logs: ReadonlyMap<string, string>;
  evidence: readonly Evidence[];
}

/** Loads a programme's state: once a request, and handed down from there. @throws GezeitError `not-found`. */
export async function loadState(manager: EntityManager, id: string): Promise<ProgrammeState> {
  return stateOf(manager, await findProgramme(manager, id));
}

/** The same where the programme's row is known. */
export async function stateOf(manager: EntityManager, row: ProgrammeRow): Promise<ProgrammeState> {
  const logs = await manager.find(Log, { where: { programmeId: row.id }, select: { file: true, sha256: true } });
  return {
    id: row.id,
    bundle: await loadBundleOf(manager, row),
    logs: new Map(logs.map(({ file, sha256 }) => [file, sha256])),
    evidence: await evidenceOf(manager, row.id),
  };
}
