import { basename } from 'node:path';
import { promisify } from 'node:util';
import { gunzip } from 'node:zlib';
import { missing } from '@gezeit/core';
import { z } from 'zod';
import { Log, type TraceRow } from '../../database/entities.js';
import { bufferToSamples } from '../../store/samples.js';
import { idParams, route } from '../route.js';
import { between, encodeTraces, reduceSeries } from '../trace-answer.js';

const traceQuery = z.object({
  /** Column ids, separated by commas. */
  columns: z.string().min(1),
  /** Stretches into which a long record is reduced; each keeps its lowest and highest sample. */
  points: z.coerce.number().int().min(10).max(20_000).default(1200),
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
    async handle({ params, query, services: { database } }) {
      const log = await database.manager.findOneBy(Log, { id: params.id });
      if (!log) throw noLog();
      const wanted = query.columns.split(',');
      // Straight from the driver: the mapper copies and compares whole blobs.
      const marks = wanted.map(() => '?').join(', ');
      const rows = `SELECT "id", "position", "samples" FROM "trace" WHERE "logId" = ? AND ("position" = 0 OR "id" IN (${marks}))`;
      const traces = await database.manager.query<Pick<TraceRow, 'id' | 'position' | 'samples'>[]>(rows, [log.id, ...wanted]);
      const time = traces.find(({ position }) => position === 0);
      if (!wanted.every((id) => traces.some((trace) => trace.id === id)))
        throw missing('A column is not in this log.', 'Open the programme again.');
      const count = log.rowCount;
      const timeS = time ? bufferToSamples(time.samples) : Float64Array.from({ length: count }, (_, i) => i);
      const series = wanted.map((id) => {
        const { samples } = traces.find((trace) => trace.id === id)!;
        return reduceSeries(between({ column: id, timeS, values: bufferToSamples(samples) }, query.fromS, query.toS), query.points);
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
