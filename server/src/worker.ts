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
import type { TaskName, Tasks } from './work/tasks.js';

type Handler<N extends TaskName> = (task: Tasks[N]['task']) => Promise<Tasks[N]['result'] | Refusal>;

const database = Database.open((workerData as { database: string }).database);

const importTask: Handler<'import'> = ({ path, by, choice, port }) =>
  orRefusal(async () => {
    const tell = (step: ImportProgress['step'], share: number, detail: string) =>
      port.postMessage({ step, share, detail } satisfies ImportProgress);
    try {
      tell('unpacking', 0, 'looking into the bundle');
      return await importBundle(await database, await readBundle(path, () => `${path}-unpacked`), by, choice, tell);
    } finally {
      port.close();
    }
  });
export { importTask as import };

export const readStage: Handler<'readStage'> = ({ root, id, port }) =>
  orRefusal(async () => {
    try {
      return await readStageOf(await database, new StageFiles(root), id, (share, file) =>
        port.postMessage({ share, file } satisfies StageProgress),
      );
    } finally {
      port.close();
    }
  });

export const writeStaged: Handler<'writeStaged'> = ({ root, id, out }) =>
  orRefusal(async () => {
    await writeStagedBundle(new StageFiles(root), id, out);
    return null;
  });

export const addStaged: Handler<'addStaged'> = ({ root, id, by, port }) =>
  orRefusal(async () => {
    try {
      return await addToProgramme(await database, new StageFiles(root), id, by, (share, file) =>
        port.postMessage({ share, file } satisfies StageProgress),
      );
    } finally {
      port.close();
    }
  });

export const rereadLogs: Handler<'rereadLogs'> = ({ programmeId, bundle }) =>
  orRefusal(async () => {
    await rereadDecided(await database, programmeId, bundle, [...devicesOf(bundle).keys()]);
    return null;
  });

export const keepFile: Handler<'keepFile'> = ({ programmeId, day, file }) =>
  orRefusal(async () => keepFileOf(await database, programmeId, day, { ...file, bytes: Buffer.from(file.bytes) }));

export const analyse: Handler<'analyse'> = (state) => orRefusal(async () => computeAnalysed(await database, state));

export const curves: Handler<'curves'> = (state) => orRefusal(async () => computeCurves(await database, state));

export const choices: Handler<'choices'> = ({ state, extent }) => orRefusal(async () => computeChoices(await database, state, extent));

export const card: Handler<'card'> = ({ id, digest }) =>
  orRefusal(async () => {
    const own = await database;
    const made = await cardOf({ database: own, work: { analyse: (state) => computeAnalysed(own, state) } }, id);
    if (made.entry.problem === null) keepLater(own, id, 'card', new Map([[digest, made]]));
    return made;
  });

export const claim: Handler<'claim'> = (task) => orRefusal(async () => computeClaim(await database, task.state, task.claim));
