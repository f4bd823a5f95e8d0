import { join } from 'node:path';
import { GezeitError } from '@gezeit/core';
import Sqlite from 'better-sqlite3';
import { storageFailure } from './storage-failure.js';

/** A data folder that is held for one process; freed by the system when that process ends, however it ends. */
export interface FolderLock {
  release(): void;
}

/**
 * Holds a data folder: an exclusive transaction on a small database file beside the real one. Nothing is written down that could be stale.
 * @throws GezeitError `folder-in-use` where another process holds it.
 */
export function lockFolder(folder: string): FolderLock {
  const file = new Sqlite(join(folder, 'lock.sqlite'), { timeout: 0 });
  try {
    file.exec('BEGIN EXCLUSIVE');
  } catch (error) {
    file.close();
    if (storageFailure(error)?.code !== 'busy') throw storageFailure(error) ?? error;
    throw new GezeitError(
      'folder-in-use',
      'Another Gezeit is running on this data folder, and holds it.',
      'Use the one that runs, stop it, or name another folder by GEZEIT_DATA.',
      { file: folder },
      'conflict',
    );
  }
  return { release: () => file.close() };
}
