import { gunzipSync } from 'node:zlib';
import type { EntityManager } from 'typeorm';
import { Log } from '../database/entities.js';
import { loadBundle } from './load-bundle.js';

/** The files of a programme as a bundle: its description, and its logs byte for byte. */
export async function exportFiles(manager: EntityManager, id: string): Promise<Record<string, Uint8Array>> {
  const bundle = await loadBundle(manager, id);
  const files: Record<string, Uint8Array> = { 'gezeit.json': Buffer.from(`${JSON.stringify(bundle, null, 2)}\n`) };
  for (const { file, compressed } of await manager.find(Log, { where: { programmeId: id }, select: { file: true, compressed: true } })) {
    files[file] = gunzipSync(compressed);
  }
  return files;
}
