import { readFileSync } from 'node:fs';
import { deviceProfileSchema, type DeviceProfile, type Reading } from '@gezeit/contract';
import { GezeitError, isTimeZone, readingOf, readLoose, type LooseFile, type ReadingOptions, type ReadLoose } from '@gezeit/core';
import { findFiles, looseFile } from '../reading/loose-files.js';
import { readingTable } from './reading-table.js';

export interface ReadCommandOptions {
  profile: string | null;
  timeZone: string | null;
  json: boolean;
}

/** Says what loose files are taken for; stores nothing. Exit 2 where none could be read. */
export async function readCommand(paths: readonly string[], options: ReadCommandOptions): Promise<void> {
  const { reading, read } = await readPaths(paths, options);
  process.stdout.write(`${options.json ? JSON.stringify(reading, null, 2) : readingTable(reading)}\n`);
  if (!read.some(({ gather }) => gather !== null)) process.exitCode = 2;
}

/** Reads loose files, one after the other: only their tables stay. */
export async function readPaths(
  paths: readonly string[],
  { profile, timeZone }: Omit<ReadCommandOptions, 'json'>,
): Promise<{ reading: Reading; read: ReadLoose[]; files: { file: string; load(): Promise<LooseFile> }[] }> {
  if (timeZone !== null && !isTimeZone(timeZone))
    throw new GezeitError('usage', `"${timeZone}" is no time zone.`, 'Give a name such as Europe/Oslo.');
  const options: ReadingOptions = { profiles: profile === null ? [] : [readProfile(profile)], timeZone };
  const found = await findFiles(paths);
  const read: ReadLoose[] = [];
  for (const entry of found) read.push(readLoose(await looseFile(entry), options));
  return { reading: readingOf(read, options), read, files: found.map((entry) => ({ file: entry.file, load: () => looseFile(entry) })) };
}

function readProfile(path: string): DeviceProfile {
  try {
    return deviceProfileSchema.parse(JSON.parse(readFileSync(path, 'utf8')));
  } catch {
    throw new GezeitError('bad-profile', 'This is no device profile.', 'docs/bundle.md says what stands in one.', { file: path });
  }
}
