import { existsSync } from 'node:fs';
import { GezeitError } from '@gezeit/core';
import { Database } from '../database/database.js';
import { storageFailure } from '../database/storage-failure.js';
import { databaseFile, dataFolder } from '../paths.js';

/** Writes everything (programmes, logs, findings) into one file, also while Gezeit runs. */
export async function backupCommand(file: string): Promise<void> {
  if (existsSync(file)) throw new GezeitError('exists', 'There is a file of that name already.', 'Choose another name.', { file });
  const path = databaseFile(dataFolder());
  if (!existsSync(path)) throw new GezeitError('nothing-there', 'There is nothing to back up yet.', 'Check GEZEIT_DATA.', { file: path });
  const database = await Database.open(path);
  try {
    database.backup(file);
  } catch (error) {
    throw storageFailure(error) ?? error;
  } finally {
    await database.close();
  }
  console.log(`backed up to ${file}`);
}
