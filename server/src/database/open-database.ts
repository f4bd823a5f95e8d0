import { DataSource } from 'typeorm';
import { ENTITIES } from './entities.js';
import { FirstProgrammes1795602780000 } from './migrations/0001-first-programmes.js';
import { SharedCellsAndEvidence1795689180000 } from './migrations/0002-shared-cells-and-evidence.js';
import { Days1795775580000 } from './migrations/0003-days.js';
import { Products1795861980000 } from './migrations/0004-products.js';

export const MIGRATIONS = [FirstProgrammes1795602780000, SharedCellsAndEvidence1795689180000, Days1795775580000, Products1795861980000];

/** Opens a database file (or ":memory:"), brought to the newest migration: WAL, foreign keys, full durability on commit. */
export async function openDatabase(file: string): Promise<DataSource> {
  const source = new DataSource({
    type: 'better-sqlite3',
    database: file,
    entities: ENTITIES,
    migrations: MIGRATIONS,
    enableWAL: true,
    prepareDatabase: (database) => {
      database.pragma('foreign_keys = ON');
      database.pragma('synchronous = FULL');
      database.pragma('busy_timeout = 10000');
    },
  });
  await source.initialize();
  await source.runMigrations();
  return source;
}
