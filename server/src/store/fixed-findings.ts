import canonicalize from 'canonicalize';
import { randomUUID } from 'node:crypto';
import { fixedFindingSchema, type FixedFinding } from '@gezeit/contract';
import { missing } from '@gezeit/core';
import type { EntityManager } from 'typeorm';
import { FixedFindingEntity } from '../database/entities.js';
import { recordChange } from './changes.js';
import { sha256 } from '../bundle/sha256.js';

const FOLDER = 'findings/';
/** Digest of something as canonical JSON (RFC 8785): whatever the order of its keys. */
export const digestOfJson = (value: unknown): string => sha256(canonicalize(value) ?? '');

/** Where a fixed finding stands in a bundle. */
export const fixedFile = (key: string) => `${FOLDER}${key}.json`;

/** As it is kept and goes out: byte for byte the same. */
export const bodyOf = (fixed: FixedFinding) => `${JSON.stringify(fixed, null, 2)}\n`;

/** The next free name of a fixed finding; one that was taken away keeps its. */
export async function nextFixedKey(manager: EntityManager, programmeId: string): Promise<string> {
  const rows = await manager.find(FixedFindingEntity, { where: { programmeId }, select: { key: true } });
  const numbers = rows.map(({ key }) => Number(/^fixed-(\d+)$/.exec(key)?.[1] ?? 0));
  return `fixed-${Math.max(0, ...numbers) + 1}`;
}

/** Stores a fixed finding as it came: its text stays what it is. */
export async function storeFixed(manager: EntityManager, programmeId: string, fixed: FixedFinding, body: string): Promise<void> {
  const { id: key, at, by, why, inputs } = fixed;
  const row = {
    id: randomUUID(),
    programmeId,
    key,
    removed: false,
    at,
    by,
    why,
    inputs: JSON.stringify(inputs),
    digest: digestOfJson(JSON.parse(body)),
    body,
  };
  await manager.insert(FixedFindingEntity, row);
}

/** Takes a fixed finding away; it can be brought back. @throws GezeitError `not-found`. */
export async function removeFixed(manager: EntityManager, programmeId: string, key: string, by: string): Promise<void> {
  const row = await manager.findOneBy(FixedFindingEntity, { programmeId, key, removed: false });
  if (!row) throw missing('There is no such fixed finding.', 'Open the programme again.');
  await manager.update(FixedFindingEntity, { id: row.id }, { removed: true });
  await recordChange(manager, programmeId, by, { kind: 'fixed', subject: key, before: false, after: true });
}

/** The texts of all fixed findings of a programme, by the files that they are in a bundle. */
export async function fixedFiles(manager: EntityManager, programmeId: string): Promise<Map<string, string>> {
  const rows = await manager.find(FixedFindingEntity, { where: { programmeId, removed: false }, order: { at: 'ASC' } });
  return new Map(rows.map(({ key, body }) => [fixedFile(key), body]));
}

/** The fixed findings among a bundle's files, each with its text; what is none is left to be kept as a file. */
export function readFixed(files: { names: string[]; read(file: string): Uint8Array }): { fixed: FixedFinding; body: string }[] {
  return files.names.flatMap((file) => {
    if (!file.startsWith(FOLDER) || !file.endsWith('.json')) return [];
    const body = new TextDecoder('utf-8').decode(files.read(file));
    const parsed = fixedFindingSchema.safeParse(jsonOf(body));
    return parsed.success && fixedFile(parsed.data.id) === file ? [{ fixed: parsed.data, body }] : [];
  });
}

function jsonOf(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}
