import { bundleSchema, type Bundle, type Correction, type Quantity } from '@gezeit/contract';
import { type LogColumn, type LogTable, missing, type ReadReport } from '@gezeit/core';
import { In, type EntityManager } from 'typeorm';
import { Log, Programme, Pull, Setup, Trace, Vehicle, type ProgrammeRow } from '../database/entities.js';
import { cellsOf } from './cells.js';
import { bufferToSamples } from './samples.js';

/** A programme's row. @throws GezeitError `not-found`. */
export async function findProgramme(manager: EntityManager, id: string): Promise<ProgrammeRow> {
  const row = await manager.findOneBy(Programme, { id });
  if (row) return row;
  throw missing('There is no such programme.', 'Go back to the board and open it from there.');
}

/** The bundle of a stored programme as it stands now, unknown fields included. @throws GezeitError `not-found`. */
export async function loadBundle(manager: EntityManager, id: string): Promise<Bundle> {
  return loadBundleOf(manager, await findProgramme(manager, id));
}

/** The same where its row is known. */
export async function loadBundleOf(manager: EntityManager, row: ProgrammeRow): Promise<Bundle> {
  const { id } = row;
  const { programme, single, rest } = JSON.parse(row.body) as { programme: unknown; single: boolean; rest: object };
  const inOrder = { where: { programmeId: id }, order: { position: 'ASC' as const } };
  const vehicle = await manager.findOneByOrFail(Vehicle, { id: row.vehicleId });
  const cells = (await cellsOf(manager, id)).map(({ cell }) => cell);
  const setups = (await manager.find(Setup, inOrder)).map(({ body }) => JSON.parse(body) as object);
  const pulls = (await manager.find(Pull, inOrder)).map(({ body, excluded }) => ({
    ...(JSON.parse(body) as object),
    excluded: JSON.parse(excluded) as unknown,
  }));
  return bundleSchema.parse({
    ...rest,
    programme,
    vehicle: JSON.parse(vehicle.body),
    ...(single && cells.length === 1 ? { cell: cells[0] } : { cells }),
    setups,
    pulls,
  });
}

/** Tables of a stored programme's logs, traces included. */
export async function loadTables(manager: EntityManager, id: string, files: readonly string[]): Promise<Map<string, LogTable>> {
  const logs = await manager.find(Log, { where: { programmeId: id, file: In([...files]) } });
  const tables = new Map<string, LogTable>();
  for (const log of logs) {
    const traces = await manager.find(Trace, {
      where: { logId: log.id },
      order: { position: 'ASC' },
      select: { position: true, name: true, quantity: true, unitText: true, section: true, corrected: true, gauge: true, samples: true },
    });
    const time = traces.find(({ position }) => position === 0);
    tables.set(log.file, {
      file: log.file,
      device: log.device,
      timeS: time ? bufferToSamples(time.samples) : null,
      columns: traces
        .filter(({ position }) => position > 0)
        .map((trace): LogColumn => ({
          name: trace.name,
          quantity: trace.quantity as Quantity | null,
          unitText: trace.unitText,
          section: trace.section,
          corrected: trace.corrected as Correction | null,
          gauge: trace.gauge,
          values: bufferToSamples(trace.samples),
        })),
      rowCount: log.rowCount,
      report: JSON.parse(log.report) as ReadReport,
    });
  }
  return tables;
}
