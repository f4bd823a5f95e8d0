import { mkdirSync, writeFileSync } from 'node:fs';
import { copyFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { hintsOf, keptBundle, readingOf, readLoose, type ReadingOptions, type ReadLoose } from '@gezeit/core';
import type { Database } from '../database/database.js';
import { letGo } from '../bundle/let-go.js';
import { findFiles, looseFile, type FoundFile } from '../reading/loose-files.js';
import { logNames } from '../reading/log-names.js';
import { standingOf } from './standing-programme.js';
import type { StageFiles, StageRead } from './stage-files.js';

export type OnFile = (share: number, file: string) => void;

/** Reads the files of a stage as it was decided. For the worker. */
export async function readStage(database: Database, stages: StageFiles, id: string, onFile: OnFile): Promise<StageRead> {
  const { into, decisions } = stages.stage(id);
  const { channels, timeZone, dateOrder, places } = decisions;
  const standing = into === null ? null : await standingOf(database.manager, into);
  const known = new Set(standing?.files.map(({ sha256 }) => sha256));
  const options: ReadingOptions = {
    channels: { ...standing?.channels, ...channels },
    timeZone: timeZone ?? standing?.timeZone ?? null,
    dateOrder,
    gearbox: standing?.bundle.vehicle,
    hand: { standing: standing?.pulls ?? null, places },
  };
  const read: ReadLoose[] = [];
  const all = await findFiles([stages.files(id)]);
  for (const entry of all) {
    onFile(read.length / all.length, entry.file);
    const loose = await looseFile(entry);
    // The same bytes are in the programme already: it is the programme's own that takes part.
    if (known.has(loose.sha256)) continue;
    read.push(readLoose(loose, options));
    letGo(loose.bytes);
  }
  for (const file of standing?.files ?? []) read.push(await file.read());
  const reading = readingOf(read, options);
  const tables = new Map(read.flatMap(({ gather }) => (gather ? [[gather.table.file, gather.table] as const] : [])));
  const kept = { reading, hints: hintsOf(reading, tables), standing: standing?.said ?? null };
  stages.keepRead(id, kept);
  for (const { columns } of tables.values()) for (const { values } of columns) letGo(values);
  return kept;
}

/** Files of a stage that could be read, with the names below `logs/` that they are kept under. */
export async function readableFiles(
  stages: StageFiles,
  id: string,
  { reading }: StageRead,
): Promise<{ readable: FoundFile[]; names: Map<string, string> }> {
  const found = await findFiles([stages.files(id)]);
  const readable = found.filter(({ file }) => reading.files.some((entry) => entry.file === file && entry.columns.length > 0));
  return { readable, names: logNames(readable.map(({ file }) => file)) };
}

/** Writes the bundle of a stage as it was read and decided into a folder. For the worker. */
export async function writeStagedBundle(stages: StageFiles, id: string, out: string): Promise<void> {
  const read = stages.readWhole(id);
  const { readable, names } = await readableFiles(stages, id, read);
  const bundle = keptBundle(read.reading, read.hints, stages.decisions(id), (file) => names.get(file)!);
  mkdirSync(out, { recursive: true });
  for (const { file, place, read: bytesOf } of readable) {
    const target = join(out, names.get(file)!);
    mkdirSync(dirname(target), { recursive: true });
    if (place === null) writeFileSync(target, bytesOf());
    else await copyFile(place, target);
  }
  writeFileSync(join(out, 'gezeit.json'), JSON.stringify(bundle));
}
