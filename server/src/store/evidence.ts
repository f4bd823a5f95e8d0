import { evidenceSchema, LIMITS, type Evidence } from '@gezeit/contract';
import { conflict, missing } from '@gezeit/core';
import { randomUUID } from 'node:crypto';
import type { EntityManager } from 'typeorm';
import { EvidenceEntity } from '../database/entities.js';
import { recordChange } from './changes.js';
import { refuseMore } from './refuse-more.js';

const FOLDER = 'evidence/';

/** The evidence of a programme, oldest first. */
export async function evidenceOf(manager: EntityManager, programmeId: string): Promise<Evidence[]> {
  const rows = await manager.findBy(EvidenceEntity, { programmeId, removed: false });
  return rows.map(({ body }) => evidenceSchema.parse(JSON.parse(body))).sort((a, b) => (a.at < b.at ? -1 : 1));
}

/** Where a piece of evidence stands in a bundle. */
export function evidenceFile(key: string): string {
  return `${FOLDER}${key}.json`;
}

/** The evidence among a bundle's files, and the names of files that are none although they stand among it. */
export function readEvidence(files: { names: string[]; read(file: string): Uint8Array }): { evidence: Evidence[]; unread: string[] } {
  const evidence: Evidence[] = [];
  const unread: string[] = [];
  for (const file of files.names) {
    if (!file.startsWith(FOLDER) || !file.endsWith('.json')) continue;
    const parsed = evidenceSchema.safeParse(parseJson(files.read(file)));
    if (parsed.success && evidenceFile(parsed.data.id) === file) evidence.push(parsed.data);
    else unread.push(file);
  }
  return { evidence, unread };
}

function parseJson(bytes: Uint8Array): unknown {
  try {
    return JSON.parse(new TextDecoder('utf-8').decode(bytes));
  } catch {
    return null;
  }
}

/** Keeps a result of the bench. @throws GezeitError `already-kept` where its id is taken, `too-many`. */
export async function keepEvidence(manager: EntityManager, programmeId: string, evidence: Evidence, by: string): Promise<void> {
  if (await manager.findOneBy(EvidenceEntity, { programmeId, key: evidence.id }))
    throw conflict('already-kept', 'This result is kept already.', 'Open it in the list of evidence.');
  refuseMore(await manager.countBy(EvidenceEntity, { programmeId, removed: false }), LIMITS.evidence, 'results of the bench');
  await manager.insert(EvidenceEntity, { id: randomUUID(), programmeId, key: evidence.id, removed: false, body: JSON.stringify(evidence) });
  await recordChange(manager, programmeId, by, { kind: 'evidence', subject: evidence.id, before: true, after: false });
}

/** Takes a piece of evidence away; it can be brought back. @throws GezeitError `not-found`. */
export async function removeEvidence(manager: EntityManager, programmeId: string, key: string, by: string): Promise<void> {
  const row = await manager.findOneBy(EvidenceEntity, { programmeId, key, removed: false });
  if (!row) throw missing('There is no such evidence.', 'Open the programme again.');
  await manager.update(EvidenceEntity, { id: row.id }, { removed: true });
  await recordChange(manager, programmeId, by, { kind: 'evidence', subject: key, before: false, after: true });
}
