import { isDeepStrictEqual } from 'node:util';
import { gunzipSync } from 'node:zlib';
import type { Bundle } from '@gezeit/contract';
import { decidedChannels, type ReadReport } from '@gezeit/core';
import { In } from 'typeorm';
import { devicesOf, readTable } from '../bundle/read-tables.js';
import type { Database } from '../database/database.js';
import { Log, Trace } from '../database/entities.js';
import { storeTraces } from './store-bundle.js';

/** Whether a log was read as it is decided now. */
export function isReadAs({ readAs = null }: Pick<ReadReport, 'readAs'>, bundle: Bundle, device: string, file: string): boolean {
  return isDeepStrictEqual(readAs, decidedChannels(bundle, device, file));
}

/**
 * Reads those logs again about whose columns something else is decided now than when they were read: the original stays as it is, its traces
 * are new. For a worker.
 */
export async function rereadDecided(database: Database, programmeId: string, bundle: Bundle, files: readonly string[]): Promise<void> {
  const devices = devicesOf(bundle);
  const logs = await database.manager.find(Log, {
    where: { programmeId, file: In([...files]) },
    select: { id: true, file: true, device: true, report: true },
  });
  for (const { id, file, device, report } of logs) {
    const own = devices.get(file) ?? device;
    if (isReadAs(JSON.parse(report) as ReadReport, bundle, own, file)) continue;
    const { compressed } = await database.manager.findOneOrFail(Log, { where: { id }, select: { id: true, compressed: true } });
    const table = readTable(bundle, file, own, gunzipSync(compressed));
    await database.write(async (manager) => {
      await manager.delete(Trace, { logId: id });
      await manager.update(Log, { id }, { report: JSON.stringify(table.report), rowCount: table.rowCount });
      await storeTraces(manager, id, table);
    });
  }
}
