import { userInfo } from 'node:os';
import { GezeitError } from '@gezeit/core';
import { readBundle } from '../bundle/read-bundle.js';
import { Database } from '../database/database.js';
import { databaseFile, dataFolder } from '../paths.js';
import { importBundle, type ImportChoice } from '../import/import-bundle.js';

/** Imports bundles into the data folder, one after the other: what stands before one that is refused is kept. A changed one needs `--as version` or `--as copy`. */
export async function importCommand(paths: readonly string[], choice: ImportChoice): Promise<void> {
  const database = await Database.open(databaseFile(dataFolder()));
  try {
    for (const path of paths) await importInto(database, path, choice);
  } finally {
    await database.close();
  }
}

async function importInto(database: Database, path: string, choice: ImportChoice): Promise<void> {
  const files = await readBundle(path);
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
}
