import { copyFileSync, existsSync, readFileSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { GezeitError, missing } from '@gezeit/core';
import { openDatabase } from '../database/open-database.js';
import { databaseFile, dataFolder, servingFile } from '../paths.js';

/** Writes everything (programmes, logs, findings) into one file, also while Gezeit runs. */
export async function backupCommand(file: string): Promise<void> {
  if (existsSync(file)) throw new GezeitError('exists', 'There is a file of that name already.', 'Choose another name.', { file });
  const database = databaseFile(dataFolder());
  if (!existsSync(database))
    throw new GezeitError('nothing-there', 'There is nothing to back up yet.', 'Check GEZEIT_DATA.', { file: database });
  const source = await openDatabase(database);
  try {
    await source.query('VACUUM INTO ?', [file]);
  } finally {
    await source.destroy();
  }
  console.log(`backed up to ${file}`);
}

/** Puts a backup in the place of the data folder's database; what was there is kept beside it. */
export async function restoreCommand(file: string): Promise<void> {
  if (!existsSync(file)) throw missing('There is no such file.', 'Check the path.', { file });
  const folder = dataFolder();
  const running = runningServer(folder);
  if (running)
    throw new GezeitError('running', `Gezeit is running on this data folder (process ${running}).`, 'Stop it first.', { file: folder });
  const database = databaseFile(folder);
  const arriving = join(folder, 'restoring.sqlite');
  copyFileSync(file, arriving);
  try {
    await (await openDatabase(arriving)).destroy();
  } catch {
    for (const tail of ['', '-wal', '-shm']) rmSync(`${arriving}${tail}`, { force: true });
    throw new GezeitError('no-backup', 'This is no backup of Gezeit.', 'Choose a file that "gezeit backup" wrote.', { file });
  }
  const kept = join(folder, `before-restore-${new Date().toISOString().replace(/[:.]/g, '-')}.sqlite`);
  if (existsSync(database)) {
    await (await openDatabase(database)).query('PRAGMA wal_checkpoint(TRUNCATE)').catch(() => {});
    renameSync(database, kept);
    for (const tail of ['-wal', '-shm']) rmSync(`${database}${tail}`, { force: true });
  }
  renameSync(arriving, database);
  for (const tail of ['-wal', '-shm']) rmSync(`${arriving}${tail}`, { force: true });
  console.log(`restored ${file}${existsSync(kept) ? `; what was there is kept as ${kept}` : ''}`);
}

/** Process that serves a data folder, or null. */
function runningServer(folder: string): number | null {
  try {
    const { pid } = JSON.parse(readFileSync(servingFile(folder), 'utf8')) as { pid: number };
    process.kill(pid, 0);
    return pid;
  } catch {
    return null;
  }
}
