import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import { doneSchema, importStateSchema, stagedDecisionsSchema, stagedIntoSchema, stagedListSchema, stagedSchema } from '@gezeit/contract';
import { z } from 'zod';
import { incomingFolder } from '../../paths.js';
import { changeArchived } from '../../store/changes.js';
import { undoAddedLast } from '../../staging/add-to-programme.js';
import { standingOf } from '../../staging/standing-programme.js';
import { receiveLooseFiles } from '../receive-bundle.js';
import { idParams, route } from '../route.js';

export const stagingRoutes = [
  route({
    method: 'get',
    path: '/api/staged',
    summary: 'Dropped files that are not kept yet.',
    answer: stagedListSchema,
    async handle({ services: { staging } }) {
      return staging.list();
    },
  }),
  route({
    method: 'post',
    path: '/api/staged',
    summary: 'Drop loose exports: multipart/form-data with the files under their paths as field names.',
    query: z.object({
      title: z.string().max(200).optional(),
      lastModified: z.iso.datetime().optional(),
      /** The programme to which they are added; without it they become one. */
      into: z.string().max(100).optional(),
    }),
    answer: stagedSchema,
    changes: true,
    status: 202,
    async handle({ request, person, query, services: { staging, database } }) {
      const into = query.into === undefined ? null : (await standingOf(database.manager, query.into)).said;
      const folder = join(incomingFolder(database.file), randomUUID());
      await receiveLooseFiles(request, folder);
      return staging.take(folder, person, { title: query.title ?? '', lastModified: query.lastModified ?? null, into });
    },
  }),
  route({
    method: 'get',
    path: '/api/staged/:id',
    summary: 'What dropped files are taken for, and what was decided about them.',
    params: idParams,
    answer: stagedSchema,
    async handle({ params, services: { staging } }) {
      return staging.state(params.id);
    },
  }),
  route({
    method: 'patch',
    path: '/api/staged/:id',
    summary: 'Decide about dropped files.',
    params: idParams,
    body: stagedDecisionsSchema,
    answer: stagedSchema,
    changes: true,
    async handle({ params, body, services: { staging } }) {
      return staging.decide(params.id, body);
    },
  }),
  route({
    method: 'patch',
    path: '/api/staged/:id/into',
    summary: 'Say to which programme dropped files are added; null where they become one.',
    params: idParams,
    body: stagedIntoSchema,
    answer: stagedSchema,
    changes: true,
    async handle({ params, body: { programmeId }, services: { staging, database } }) {
      return staging.direct(params.id, programmeId === null ? null : (await standingOf(database.manager, programmeId)).said);
    },
  }),
  route({
    method: 'post',
    path: '/api/staged/:id/keep',
    summary: 'Make a programme of dropped files, or add them to the one that they are for: an import that can be followed.',
    params: idParams,
    answer: importStateSchema,
    changes: true,
    status: 202,
    async handle({ params, person, services: { staging } }) {
      return staging.keep(params.id, person);
    },
  }),
  route({
    method: 'post',
    path: '/api/staged/:id/take-back',
    summary: 'Take a keep back: its programme is archived, or what was added to one is taken out again; the files wait to be sorted anew.',
    params: idParams,
    answer: stagedSchema,
    changes: true,
    async handle({ params, person, services: { staging, database } }) {
      const { keptAs, into } = staging.state(params.id);
      if (keptAs !== null && into === null) await changeArchived(database, keptAs, true, person);
      if (keptAs !== null && into !== null) await undoAddedLast(database, keptAs);
      return staging.takeBack(params.id);
    },
  }),
  route({
    method: 'delete',
    path: '/api/staged/:id',
    summary: 'Throw dropped files away.',
    params: idParams,
    answer: doneSchema,
    changes: true,
    async handle({ params, services: { staging } }) {
      staging.throwAway(params.id);
      return { done: true as const };
    },
  }),
];
