import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import { PassThrough } from 'node:stream';
import { importChoiceSchema, importStateSchema, type ImportState } from '@gezeit/contract';
import { incomingFolder } from '../../paths.js';
import { receiveBundle } from '../receive-bundle.js';
import { idParams, route } from '../route.js';

const HEARTBEAT_MS = 15_000;

export const importRoutes = [
  route({
    method: 'post',
    path: '/api/imports',
    summary: 'Import a bundle: multipart/form-data with one .zip, or with the files of a folder under their paths as field names.',
    answer: importStateSchema,
    changes: true,
    status: 202,
    async handle({ request, person, services: { imports, database } }) {
      const folder = join(incomingFolder(database.file), randomUUID());
      const path = await receiveBundle(request, folder);
      return imports.start(folder, path, person, null);
    },
  }),
  route({
    method: 'get',
    path: '/api/imports/:id',
    summary: 'How far an import is.',
    params: idParams,
    answer: importStateSchema,
    async handle({ params, services: { imports } }) {
      return imports.state(params.id);
    },
  }),
  route({
    method: 'get',
    path: '/api/imports/:id/events',
    summary: 'The states of an import as server-sent events, until it ends.',
    params: idParams,
    answer: 'text/event-stream',
    async handle({ params, request, services: { imports } }) {
      const stream = new PassThrough();
      const send = (state: ImportState) => {
        stream.write(`data: ${JSON.stringify(state)}\n\n`);
        if (state.outcome) close();
      };
      const heartbeat = setInterval(() => stream.write(': still here\n\n'), HEARTBEAT_MS);
      const stop = imports.listen(params.id, send);
      const close = () => {
        clearInterval(heartbeat);
        stop();
        stream.end();
      };
      request.on('close', close);
      try {
        send(imports.state(params.id));
      } catch (error) {
        close();
        throw error;
      }
      return { type: 'text/event-stream', body: stream };
    },
  }),
  route({
    method: 'post',
    path: '/api/imports/:id/choice',
    summary: 'Go on with a changed bundle: as a new version of its programme, or as a copy.',
    params: idParams,
    body: importChoiceSchema,
    answer: importStateSchema,
    changes: true,
    async handle({ params, body, services: { imports } }) {
      return imports.choose(params.id, body.choice);
    },
  }),
  route({
    method: 'delete',
    path: '/api/imports/:id',
    summary: 'Cancel an import; nothing of it is stored.',
    params: idParams,
    answer: importStateSchema,
    changes: true,
    async handle({ params, services: { imports } }) {
      return imports.cancel(params.id);
    },
  }),
];
