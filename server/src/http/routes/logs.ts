import { basename } from 'node:path';
import { promisify } from 'node:util';
import { gunzip } from 'node:zlib';
import { missing } from '@gezeit/core';
import { z } from 'zod';
import { Log, Trace } from '../../database/entities.js';
import { idParams, route } from '../route.js';
import { between, encodeTraces, reduceSeries } from '../trace-answer.js';

const traceQuery = z.object({
  /** Column ids, separated by commas. */
  columns: z.string().min(1),
  /** Stretches into which a long record is reduced; each keeps its lowest and highest sample. */
  points: z.coerce.number().int().min(10).max(20_000).default(1200),
  /** Every sample of the stretch, not reduced: what a table of the data is made of. */
  whole: z.stringbool().default(false),
  /** Only what lies between these, s on the log's clock; each side may be open. */
  fromS: z.coerce.number().optional(),
  toS: z.coerce.number().optional(),
});

const unpacked = promisify(gunzip);
const noLog = () => missing('There is no such log.', 'Open the programme again.');

export const logRoutes = [
  route({
    method: 'get',
    path: '/api/logs/:id/traces',
    summary: 'Columns of a log as binary series, reduced to what a screen can show.',
    params: idParams,
    query: traceQuery,
    answer: 'application/octet-stream',
    async handle({ params, query, services: { database, keptSamples: kept } }) {
      const { manager } = database;
      const log = await manager.findOne(Log, { where: { id: params.id }, select: { id: true, rowCount: true } });
      if (!log) throw noLog();
      const wanted = query.columns.split(',');
      const columns = await manager.find(Trace, { where: { logId: log.id }, select: { id: true, position: true } });
      if (!wanted.every((id) => columns.some((column) => column.id === id)))
        throw missing('A column is not in this log.', 'Open the programme again.');
      const clock = columns.find(({ position }) => position === 0);
      const samples = await kept.of(manager, [...new Set([...(clock ? [clock.id] : []), ...wanted])]);
      const timeS = clock ? samples.get(clock.id)! : Float64Array.from({ length: log.rowCount }, (_, i) => i);
      const series = wanted.map((id) => {
        const stretch = between({ column: id, timeS, values: samples.get(id)! }, query.fromS, query.toS);
        return reduceSeries(stretch, query.whole ? Infinity : query.points);
      });
      return { type: 'application/octet-stream', body: encodeTraces(log.id, series) };
    },
  }),
  route({
    method: 'get',
    path: '/api/logs/:id/original',
    summary: 'The original log file, byte for byte.',
    params: idParams,
    answer: 'application/octet-stream',
    async handle({ params, services: { database } }) {
      const log = await database.manager.findOne(Log, { where: { id: params.id }, select: { file: true, compressed: true } });
      if (!log) throw noLog();
      return { type: 'application/octet-stream', body: await unpacked(log.compressed), fileName: basename(log.file) };
    },
  }),
];
