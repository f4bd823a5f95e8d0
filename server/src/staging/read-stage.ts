import { mkdirSync, writeFileSync } from 'node:fs';
import { copyFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import type { Reading, StagedHints } from '@gezeit/contract';
import { hintsOf, keptBundle, readingOf, readLoose, type ReadingOptions, type ReadLoose } from '@gezeit/core';
import { findFiles, looseFile } from '../reading/loose-files.js';
import { logNames } from '../reading/log-names.js';
import type { StageFiles } from './stage-files.js';

/** Reads the files of a stage as it was decided. For the worker. */
export async function readStage(
  stages: StageFiles,
  id: string,
  onFile: (share: number, file: string) => void,
): Promise<{ reading: Reading; hints: StagedHints }> {
  const { reading, hints } = await readAll(stages, id, onFile);
  stages.keepRead(id, { reading, hints });
  return { reading, hints };
}

async function readAll(stages: StageFiles, id: string, onFile: (share: number, file: string) => void) {
  const { channels, timeZone, dateOrder } = stages.decisions(id);
  const options: ReadingOptions = { channels, timeZone, dateOrder };
  const found = await findFiles([stages.files(id)]);
  const read: ReadLoose[] = [];
  for (const entry of found) {
    onFile(read.length / found.length, entry.file);
    read.push(readLoose(await looseFile(entry), options));
  }
  const reading = readingOf(read, options);
  const tables = new Map(read.flatMap(({ gather }) => (gather ? [[gather.table.file, gather.table] as const] : [])));
  return { found, reading, tables, hints: hintsOf(reading, tables) };
}

/** Writes the bundle of a stage as it was decided into a folder. For the worker. */
export async function writeStagedBundle(
  stages: StageFiles,
  id: string,
  out: string,
  onFile: (share: number, file: string) => void,
): Promise<void> {
  const { found, reading, tables, hints } = await readAll(stages, id, onFile);
  const readable = found.filter(({ file }) => reading.files.some((entry) => entry.file === file && entry.columns.length > 0));
  const names = logNames(readable.map(({ file }) => file));
  const bundle = keptBundle(reading, tables, hints, stages.decisions(id), (file) => names.get(file)!);
  mkdirSync(out, { recursive: true });
  for (const { file, place, read } of readable) {
    const target = join(out, names.get(file)!);
    mkdirSync(dirname(target), { recursive: true });
    if (place === null) writeFileSync(target, read());
    else await copyFile(place, target);
  }
  writeFileSync(join(out, 'gezeit.json'), JSON.stringify(bundle));
}
