import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { GezeitError } from '@gezeit/core';
import Sqlite from 'better-sqlite3';
import { storageFailure } from './storage-failure.js';

const ADDRESS_FILE = 'address.txt';

/** A data folder that is held for one process; freed by the system when that process ends, however it ends. */
export interface FolderLock {
  /** Says for others where the one that holds it answers. */
  tell(address: string): void;
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
      `Another Gezeit is running on this data folder, and holds it${whereItAnswers(folder)}.`,
      'Use the one that runs, stop it, or name another folder by GEZEIT_DATA.',
      { file: folder },
      'conflict',
    );
  }
  return {
    tell(address) {
      try {
        writeFileSync(join(folder, ADDRESS_FILE), address);
      } catch {
        // It is a help for those who look for it, and no more.
      }
    },
    release: () => file.close(),
  };
}

/** Read only while the folder is held, when the one that holds it has written it. */
function whereItAnswers(folder: string): string {
  try {
    return ` (it answers at ${readFileSync(join(folder, ADDRESS_FILE), 'utf8').slice(0, 100)})`;
  } catch {
    return '';
  }
}
