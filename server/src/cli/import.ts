import { userInfo } from 'node:os';
import { GezeitError } from '@gezeit/core';
import { readBundle } from '../bundle/read-bundle.js';
import { Database } from '../database/database.js';
import { databaseFile, dataFolder } from '../paths.js';
import { importBundle, type ImportChoice } from '../import/import-bundle.js';

/** Imports a bundle into the data folder; a changed one needs `--as version` or `--as copy`. */
export async function importCommand(path: string, choice: ImportChoice): Promise<void> {
  const files = await readBundle(path);
  const database = await Database.open(databaseFile(dataFolder()));
  try {
    const outcome = await importBundle(database, files, `${userInfo().username} (command)`, choice, () => {});
    if (outcome.kind === 'needs-choice') {
      throw new GezeitError('needs-choice', `"${outcome.title}" is there already, with other contents.`, 'Say --as version or --as copy.', {
        file: path,
      });
    }
    if (outcome.kind === 'opened') console.log(`already imported, unchanged: programme ${outcome.programmeId}`);
    if (outcome.kind === 'imported') {
      for (const note of outcome.notes) console.log(note);
      console.log(`imported: programme ${outcome.programmeId}`);
    }
  } finally {
    await database.close();
  }
}
