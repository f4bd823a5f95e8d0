import { lockFolder } from '../database/folder-lock.js';
import { restoreDatabase } from '../database/restore.js';
import { dataFolder } from '../paths.js';

/** Puts a backup in the place of the data folder's database, while nothing runs on it. */
export async function restoreCommand(file: string): Promise<void> {
  const folder = dataFolder();
  const lock = lockFolder(folder);
  try {
    const kept = await restoreDatabase(file, folder);
    console.log(`restored ${file}${kept ? `; what was there is kept as ${kept}` : ''}`);
  } finally {
    lock.release();
  }
}
