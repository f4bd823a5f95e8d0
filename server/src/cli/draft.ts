import { existsSync, mkdirSync, readdirSync, writeFileSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import { draftOf, GezeitError } from '@gezeit/core';
import { logNames } from '../reading/log-names.js';
import { readPaths } from './read.js';

export interface DraftCommandOptions {
  out: string;
  profile: string | null;
  timeZone: string | null;
}

/** Writes a bundle of loose files: the originals under `logs/`, and a description with everything that could be told. */
export async function draftCommand(paths: readonly string[], { out, ...options }: DraftCommandOptions): Promise<void> {
  if (existsSync(out) && readdirSync(out).length > 0)
    throw new GezeitError('not-empty', 'The folder is not empty.', 'Choose a new or an empty folder.', { file: out });
  const { reading, read, files } = await readPaths(paths, options);
  const listed = new Set(reading.pulls.flatMap(({ members }) => members.map(({ file }) => file)));
  const kept = files.filter(
    ({ file }) => listed.has(file) || reading.files.some((entry) => entry.file === file && entry.columns.length > 0),
  );
  if (kept.length === 0) throw new GezeitError('nothing-read', 'None of the files could be read.', 'Look at them with "gezeit read".');
  const names = logNames(kept.map(({ file }) => file));
  const tables = new Map(read.flatMap(({ gather }) => (gather ? [[gather.table.file, gather.table] as const] : [])));
  const { bundle, unanswered } = draftOf(reading, tables, basename(out), (file) => names.get(file)!);
  mkdirSync(out, { recursive: true });
  for (const { file, load } of kept) {
    const target = join(out, names.get(file)!);
    mkdirSync(dirname(target), { recursive: true });
    writeFileSync(target, (await load()).bytes);
  }
  writeFileSync(join(out, 'gezeit.json'), `${JSON.stringify(bundle, null, 2)}\n`);
  process.stdout.write(
    `${kept.length} ${kept.length === 1 ? 'file' : 'files'}, ${reading.pulls.length} pulls, ${unanswered.length} things to be said: see "unanswered" in gezeit.json.\n`,
  );
}
