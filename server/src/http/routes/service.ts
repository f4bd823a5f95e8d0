import { accessSchema, healthSchema } from '@gezeit/contract';
import { z } from 'zod';
import { openApiDocument } from '../openapi.js';
import { route, type Route } from '../route.js';

/** Health and the description of the interface; the latter lists every route, itself included. */
export function serviceRoutes(all: () => Route[]): Route[] {
  return [
    route({
      method: 'get',
      path: '/api/health',
      summary: 'Whether the server and its database answer.',
      answer: healthSchema,
      async handle({ services: { database, version } }) {
        await database.manager.query('SELECT 1');
        return { status: 'ok' as const, version, database: 'ok' as const };
      },
    }),
    route({
      method: 'get',
      path: '/api/access',
      summary: 'How this window came in, and what it may do.',
      answer: accessSchema,
      handle: async ({ access }) => access,
    }),
    route({
      method: 'get',
      path: '/api/openapi.json',
      summary: 'This interface as an OpenAPI document.',
      answer: z.looseObject({ openapi: z.string(), paths: z.record(z.string(), z.unknown()) }),
      async handle({ services: { version } }) {
        return openApiDocument(all(), version);
      },
    }),
  ];
}
