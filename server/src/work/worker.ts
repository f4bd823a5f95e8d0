// Reads, judges and stores off the event loop. One request at a time; ended by being terminated, which leaves no half-done write.
import { parentPort, workerData } from 'node:worker_threads';
import { GezeitError } from '@gezeit/core';
import { readBundle } from '../bundle/read-bundle.js';
import { keepFile } from '../day/day-files.js';
import { openDatabase } from '../database/open-database.js';
import { computeAnalysis } from '../store/findings-store.js';
import { importBundle } from '../store/import-bundle.js';
import type { WorkMessage, WorkRequest, WorkResult } from './messages.js';

const port = parentPort!;
const send = (message: WorkMessage) => port.postMessage(message);
const source = await openDatabase((workerData as { database: string }).database);

async function work(request: WorkRequest): Promise<WorkResult> {
  if (request.kind === 'analyse')
    return { kind: 'analyse', analysis: await computeAnalysis(source.manager, request.programmeId, request.withCurves) };
  if (request.kind === 'keep-file')
    return { kind: 'keep-file', taken: await keepFile(source, request.programmeId, request.day, request.file) };
  send({ type: 'progress', step: 'unpacking', share: 0, detail: 'looking into the bundle' });
  const files = readBundle(request.path);
  const outcome = await importBundle(source, files, request.by, request.choice, (step, share, detail) =>
    send({ type: 'progress', step, share, detail }),
  );
  return { kind: 'import', outcome };
}

port.on('message', (request: WorkRequest) => {
  work(request).then(
    (result) => send({ type: 'done', result }),
    (error: unknown) => {
      if (error instanceof GezeitError)
        send({ type: 'refused', error: { code: error.code, message: error.message, nextStep: error.nextStep, place: error.place } });
      else send({ type: 'broken', stack: error instanceof Error ? (error.stack ?? error.message) : String(error) });
    },
  );
});
send({ type: 'ready' });
