import { LRUCache } from 'lru-cache';
import type { EntityManager } from 'typeorm';
import type { TraceRow } from '../database/entities.js';
import { bufferToSamples } from './samples.js';

/** So much of what was looked at last is kept unpacked, so that a step of zooming does not read a whole day again. An assumption. */
const MOST_BYTES = 96 * 1024 * 1024;

/** Samples of the columns that were looked at last. A column that is read anew gets another id. */
export class KeptSamples {
  readonly #kept = new LRUCache<string, Float64Array>({ maxSize: MOST_BYTES, sizeCalculation: ({ byteLength }) => byteLength + 1 });

  /** Of columns of one log, by their ids. */
  async of(manager: EntityManager, ids: readonly string[]): Promise<Map<string, Float64Array>> {
    const found = new Map<string, Float64Array>();
    for (const id of ids) {
      const kept = this.#kept.get(id);
      if (kept) found.set(id, kept);
    }
    const lacking = ids.filter((id) => !found.has(id));
    if (lacking.length === 0) return found;
    // Straight from the driver: the mapper copies and compares whole blobs.
    const rows = `SELECT "id", "samples" FROM "trace" WHERE "id" IN (${lacking.map(() => '?').join(', ')})`;
    for (const { id, samples } of await manager.query<Pick<TraceRow, 'id' | 'samples'>[]>(rows, lacking)) {
      const unpacked = bufferToSamples(samples);
      found.set(id, unpacked);
      this.#kept.set(id, unpacked);
    }
    return found;
  }
}
