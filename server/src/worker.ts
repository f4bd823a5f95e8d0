// Reads, judges and stores off the event loop; ended by being terminated, which leaves no half-done write.
import { workerData } from 'node:worker_threads';
import { computeAnalysed, computeChoices, computeClaim, computeCurves, keepLater } from './analysis/compute.js';
import { cardOf } from './board/card.js';
import { readBundle } from './bundle/read-bundle.js';
import { devicesOf } from './bundle/read-tables.js';
import { rereadDecided } from './store/reread-logs.js';
import { keepFile as keepFileOf } from './day/day-files.js';
import { Database } from './database/database.js';
import { importBundle } from './import/import-bundle.js';
import type { ImportProgress } from './import/import-jobs.js';
import { addToProgramme } from './staging/add-to-programme.js';
import { readStage as readStageOf, writeStagedBundle } from './staging/read-stage.js';
import { StageFiles } from './staging/stage-files.js';
import type { StageProgress } from './staging/staging.js';
import { orRefusal, type Refusal } from './work/refusal.js';
import type { Ordered, TaskName, Tasks } from './work/tasks.js';

type Handler<N extends TaskName> = (order: Ordered<N>) => Promise<Tasks[N]['result'] | Refusal>;

/** Databases that are open here, by file. */
const open = new Map<string, Promise<Database>>();

function opened(file: string): Promise<Database> {
  const database = open.get(file) ?? Database.open(file);
  open.set(file, database);
  return database;
}

/** Does a task; what it refuses becomes a value. */
const handler =
  <N extends TaskName>(work: (database: Database, task: Tasks[N]['task']) => Promise<Tasks[N]['result']>): Handler<N> =>
  ({ database, task }) =>
    orRefusal(async () => work(await opened(database), task));

// Open before the first task asks for it; where that fails, the first task says so.
const { database } = workerData as { database: string | null };
if (database) void opened(database).catch(() => undefined);

/** Lets a database go that nobody works on any more. */
export async function letGo(file: string): Promise<void> {
  const database = open.get(file);
  open.delete(file);
  await (await database?.catch(() => null))?.close();
}

const importTask = handler<'import'>(async (database, { path, by, choice, port }) => {
  const tell = (step: ImportProgress['step'], share: number, detail: string) =>
    port.postMessage({ step, share, detail } satisfies ImportProgress);
  try {
    tell('unpacking', 0, 'looking into the bundle');
    return await importBundle(database, await readBundle(path, () => `${path}-unpacked`), by, choice, tell);
  } finally {
    port.close();
  }
});
export { importTask as import };

export const readStage = handler<'readStage'>(async (database, { root, id, port }) => {
  try {
    return await readStageOf(database, new StageFiles(root), id, (share, file) =>
      port.postMessage({ share, file } satisfies StageProgress),
    );
  } finally {
    port.close();
  }
});

export const writeStaged = handler<'writeStaged'>(async (_, { root, id, out }) => {
  await writeStagedBundle(new StageFiles(root), id, out);
  return null;
});

export const addStaged = handler<'addStaged'>(async (database, { root, id, by, port }) => {
  try {
    return await addToProgramme(database, new StageFiles(root), id, by, (share, file) =>
      port.postMessage({ share, file } satisfies StageProgress),
    );
  } finally {
    port.close();
  }
});

export const rereadLogs = handler<'rereadLogs'>(async (database, { programmeId, bundle }) => {
  await rereadDecided(database, programmeId, bundle, [...devicesOf(bundle).keys()]);
  return null;
});

export const keepFile = handler<'keepFile'>(async (database, { programmeId, day, file }) =>
  keepFileOf(database, programmeId, day, { ...file, bytes: Buffer.from(file.bytes) }),
);

export const analyse = handler<'analyse'>(computeAnalysed);

export const curves = handler<'curves'>(computeCurves);

export const choices = handler<'choices'>((database, { state, extent }) => computeChoices(database, state, extent));

export const card = handler<'card'>(async (database, { id, digest }) => {
  const made = await cardOf({ database, work: { analyse: (state) => computeAnalysed(database, state) } }, id);
  if (made.entry.problem === null) keepLater(database, id, 'card', new Map([[digest, made]]));
  return made;
});

export const claim = handler<'claim'>((database, task) => computeClaim(database, task.state, task.claim));
