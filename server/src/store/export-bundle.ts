import { gunzipSync } from 'node:zlib';
import type { EntityManager } from 'typeorm';
import { AttachmentEntity, Log } from '../database/entities.js';
import { evidenceFile, evidenceOf } from './evidence.js';
import { loadBundle } from './load-bundle.js';

/** The files of a programme as a bundle: its description, its logs and attachments byte for byte, and its evidence. */
export async function exportFiles(manager: EntityManager, id: string): Promise<Record<string, Uint8Array>> {
  const bundle = await loadBundle(manager, id);
  const files: Record<string, Uint8Array> = { 'gezeit.json': Buffer.from(`${JSON.stringify(bundle, null, 2)}\n`) };
  for (const { file, compressed } of await manager.find(Log, { where: { programmeId: id }, select: { file: true, compressed: true } })) {
    files[file] = gunzipSync(compressed);
  }
  for (const evidence of await evidenceOf(manager, id))
    files[evidenceFile(evidence.id)] = Buffer.from(`${JSON.stringify(evidence, null, 2)}\n`);
  const kept = await manager.find(AttachmentEntity, {
    where: { programmeId: id, removed: false },
    select: { file: true, compressed: true },
  });
  for (const { file, compressed } of kept) files[file] = gunzipSync(compressed);
  return files;
}
