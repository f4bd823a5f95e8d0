import { closeSync, copyFileSync, existsSync, linkSync, openSync, readSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { GezeitError, missing } from '@gezeit/core';
import { databaseFile } from '../paths.js';
import { Database } from './database.js';
import { storageFailure } from './storage-failure.js';
import { syncFile } from './sync-file.js';

const BESIDE = ['', '-wal', '-shm'];
/** A checked backup, brought to this version, that only waits to be put in place. */
const READY = 'restore-ready.sqlite';
const ARRIVING = 'restore-arriving.sqlite';
const HEADER = 'SQLite format 3\0';

/**
 * Puts a backup in the place of a data folder's database, whatever state that is in; what was there is kept beside it. The backup is checked
 * first: identity, integrity, version. What is interrupted is finished by the next start, or has changed nothing. The folder must be held.
 * @returns where what was there is kept; null where nothing was.
 * @throws GezeitError `not-found`, `no-backup`, `garbled-backup`, `newer-backup`, and what storing throws.
 */
export async function restoreDatabase(file: string, folder: string): Promise<string | null> {
  if (!existsSync(file)) throw missing('There is no such file.', 'Check the path.', { file });
  try {
    finishRestore(folder);
    await prepare(file, folder);
    return finishRestore(folder);
  } catch (error) {
    throw storageFailure(error) ?? error;
  } finally {
    remove(join(folder, ARRIVING));
  }
}

/** Copies a backup, checks the copy and brings it to this version; then, at once, calls it ready. */
async function prepare(file: string, folder: string): Promise<void> {
  const arriving = join(folder, ARRIVING);
  remove(arriving);
  if (!looksLikeDatabase(file)) throw noBackup(file);
  copyFileSync(file, arriving);
  const checked = Database.check(arriving);
  if (checked === 'foreign') throw noBackup(file);
  if (checked === 'garbled')
    throw new GezeitError('garbled-backup', 'The backup is damaged: its contents do not hold together.', 'Choose an earlier one.', {
      file,
    });
  try {
    await (await Database.open(arriving)).close();
  } catch (error) {
    if (error instanceof GezeitError && error.code === 'newer-data')
      throw new GezeitError('newer-backup', 'This backup was made by a newer Gezeit.', 'Restore it with that version.', { file });
    throw error;
  }
  if (existsSync(`${arriving}-wal`))
    throw new GezeitError('garbled-backup', 'The backup could not be read to its end.', 'Try again.', { file });
  syncFile(arriving);
  renameSync(arriving, join(folder, READY));
  syncFile(folder);
}

/**
 * Puts a backup that is ready in place, also one that an interrupted restore has left; may be interrupted and done again at any point.
 * @returns where what was there is kept; null where nothing was, or nothing was ready.
 */
export function finishRestore(folder: string): string | null {
  const ready = join(folder, READY);
  if (!existsSync(ready)) return null;
  const database = databaseFile(folder);
  const kept = join(folder, `before-restore-${new Date().toISOString().replace(/[:.]/g, '-')}.sqlite`);
  const wasThere = existsSync(database);
  // A second name for what is there first: at no moment is it without one.
  if (wasThere)
    for (const tail of BESIDE.slice(0, 2)) if (existsSync(`${database}${tail}`)) linkSync(`${database}${tail}`, `${kept}${tail}`);
  for (const tail of BESIDE.slice(1)) rmSync(`${database}${tail}`, { force: true });
  renameSync(ready, database);
  syncFile(folder);
  return wasThere ? kept : null;
}

function looksLikeDatabase(file: string): boolean {
  const handle = openSync(file, 'r');
  try {
    const head = Buffer.alloc(HEADER.length);
    return readSync(handle, head) === HEADER.length && head.toString('latin1') === HEADER;
  } finally {
    closeSync(handle);
  }
}

const noBackup = (file: string) =>
  new GezeitError('no-backup', 'This is no backup of Gezeit.', 'Choose a file that "gezeit backup" wrote.', { file });

const remove = (file: string) => BESIDE.forEach((tail) => rmSync(`${file}${tail}`, { force: true }));
