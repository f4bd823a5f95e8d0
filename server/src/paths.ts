import { mkdirSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import envPaths from 'env-paths';

/** The folder that holds the database: GEZEIT_DATA, else a folder in the user's data directory. Made where it is missing. */
export function dataFolder(): string {
  const folder = process.env['GEZEIT_DATA']
    ? resolve(process.env['INIT_CWD'] ?? process.cwd(), process.env['GEZEIT_DATA'])
    : envPaths('gezeit', { suffix: '' }).data;
  mkdirSync(folder, { recursive: true });
  return folder;
}

/** The database file of a data folder. */
export function databaseFile(folder: string): string {
  return join(folder, 'gezeit.sqlite');
}

/** Where dropped files are kept until they become a programme or are thrown away. */
export function stagedFolder(database: string): string {
  return join(dirname(database), 'staged');
}

/** Where uploads are kept until they are imported. */
export function incomingFolder(database: string): string {
  return join(dirname(database), 'incoming');
}
