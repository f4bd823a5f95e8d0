import {
  cellEntriesSchema,
  cellSchema,
  createdSchema,
  partsSchema,
  searchSchema,
  vehicleEntriesSchema,
  vehicleSchema,
} from '@gezeit/contract';
import { z } from 'zod';
import { addCell, addVehicle } from '../../store/cells.js';
import { listCells, listVehicles } from '../../board/library.js';
import { listParts } from '../../board/parts.js';
import { search } from '../../board/search.js';
import { route } from '../route.js';

export const libraryRoutes = [
  route({
    method: 'get',
    path: '/api/vehicles',
    summary: 'Every car, with the programmes on it.',
    answer: vehicleEntriesSchema,
    handle: ({ services }) => listVehicles(services.database.manager),
  }),
  route({
    method: 'post',
    path: '/api/vehicles',
    summary: 'Add a car.',
    body: vehicleSchema,
    answer: createdSchema,
    changes: true,
    status: 201,
    handle: async ({ body, services }) => ({ id: await services.database.write((manager) => addVehicle(manager, body)) }),
  }),
  route({
    method: 'get',
    path: '/api/cells',
    summary: 'Every cell, with the programmes in it.',
    answer: cellEntriesSchema,
    handle: ({ services }) => listCells(services.database.manager),
  }),
  route({
    method: 'post',
    path: '/api/cells',
    summary: 'Add a cell.',
    body: cellSchema,
    answer: createdSchema,
    changes: true,
    status: 201,
    handle: async ({ body, services }) => ({ id: await services.database.write((manager) => addCell(manager, body)) }),
  }),
  route({
    method: 'get',
    path: '/api/parts',
    summary: 'Part lines with their revisions and specimens, and where each specimen has been.',
    answer: partsSchema,
    handle: async ({ services }) => ({ parts: listParts(await services.cards.all()) }),
  }),
  route({
    method: 'get',
    path: '/api/search',
    summary: 'Search programmes, parts, files and notes.',
    query: z.object({ q: z.string().max(200).default('') }),
    answer: searchSchema,
    handle: async ({ query, services }) => ({ hits: search(await services.cards.all(), query.q) }),
  }),
];
