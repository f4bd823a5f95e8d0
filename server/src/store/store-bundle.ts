import { randomUUID } from 'node:crypto';
import type { Bundle, Evidence } from '@gezeit/contract';
import { dayOrder, type LogTable } from '@gezeit/core';
import type { EntityManager } from 'typeorm';
import { AttachmentEntity, Day, EvidenceEntity, Log, Programme, Pull, Setup, Vehicle, type TraceRow } from '../database/entities.js';
import { linkCells, sharedCell, type CellLink } from './cells.js';
import { mediaTypeOf } from './media-type.js';
import { samplesToBuffer } from './samples.js';

/** Everything of a bundle that goes into the database. */
export interface BundleToStore {
  bundle: Bundle;
  digest: string;
  tables: ReadonlyMap<string, LogTable>;
  /** The original log files: byte count, SHA-256 and gzip of each. */
  originals: ReadonlyMap<string, OriginalFile>;
  evidence: readonly Evidence[];
  /** Every other file of the bundle. */
  attachments: ReadonlyMap<string, OriginalFile>;
  by: string;
  lineage: string | null;
  version: number;
  /** The shared car and cells, where they are there already. */
  vehicleId?: string;
  cells?: CellLink[];
}

export interface OriginalFile {
  byteCount: number;
  sha256: string;
  compressed: Buffer;
}

const TRACE_COLUMNS = ['id', 'logId', 'position', 'name', 'quantity', 'unitText', 'section', 'corrected', 'gauge', 'samples'] as const;
const INSERT_TRACE = `INSERT INTO "trace" (${TRACE_COLUMNS.map((name) => `"${name}"`).join(', ')}) VALUES (${TRACE_COLUMNS.map(() => '?').join(', ')})`;

/** Stores a bundle as a programme; to be called inside one transaction. Returns the programme's id. */
export async function storeBundle(manager: EntityManager, input: BundleToStore): Promise<string> {
  const { bundle } = input;
  const { programme, vehicle, cell, cells, setups, pulls, ...rest } = bundle;
  const id = randomUUID();
  const vehicleId = input.vehicleId ?? (await vehicleOf(manager, vehicle.name, JSON.stringify(vehicle)));
  await manager.insert(Programme, {
    id,
    lineage: input.lineage ?? id,
    version: input.version,
    title: programme.title,
    vehicleId,
    bundleDigest: input.digest,
    superseded: false,
    archived: false,
    body: JSON.stringify({ programme, single: cell != null && !cells, rest }),
    createdAt: new Date().toISOString(),
    createdBy: input.by,
  });
  const links = input.cells ?? [];
  if (!input.cells)
    for (const { id: key, ...fields } of cells ?? [cell!]) links.push({ cellId: await sharedCell(manager, fields), key: key ?? null });
  await linkCells(manager, id, links);
  await insertAll(
    manager,
    Setup,
    setups.map((setup, position) => ({ id: randomUUID(), programmeId: id, position, key: setup.id, body: JSON.stringify(setup) })),
  );
  const places = dayOrder(pulls);
  const days = new Map(
    [...new Set([...places.values()].map(({ day }) => day))].map((name) => [name, { id: randomUUID(), programmeId: id, name }]),
  );
  await insertAll(manager, Day, [...days.values()]);
  const pullRows = pulls.map(({ excluded, ...body }, position) => ({
    id: randomUUID(),
    programmeId: id,
    dayId: days.get(places.get(body.id)!.day)!.id,
    position,
    key: body.id,
    startedAt: body.startedAt,
    excluded: JSON.stringify(excluded ?? null),
    body: JSON.stringify(body),
  }));
  await insertAll(manager, Pull, pullRows);
  for (const [file, table] of input.tables) await storeLog(manager, id, file, table, input.originals.get(file)!);
  await insertAll(
    manager,
    EvidenceEntity,
    input.evidence.map((entry) => ({ id: randomUUID(), programmeId: id, key: entry.id, removed: false, body: JSON.stringify(entry) })),
  );
  for (const [file, original] of input.attachments) {
    await manager.insert(AttachmentEntity, {
      id: randomUUID(),
      programmeId: id,
      file,
      mediaType: mediaTypeOf(file),
      removed: false,
      ...original,
    });
  }
  return id;
}

/** The id of a vehicle that is the same in every field; a new one where there is none. */
async function vehicleOf(manager: EntityManager, name: string, body: string): Promise<string> {
  const known = await manager.findOneBy(Vehicle, { name, body });
  if (known) return known.id;
  const id = randomUUID();
  await manager.insert(Vehicle, { id, name, body });
  return id;
}

async function insertAll<T extends object>(
  manager: EntityManager,
  entity: Parameters<EntityManager['insert']>[0],
  rows: T[],
): Promise<void> {
  for (let i = 0; i < rows.length; i += 50) await manager.insert(entity, rows.slice(i, i + 50) as never);
}

/** Keeps a log with its traces; to be called inside a transaction. */
export async function storeLog(
  manager: EntityManager,
  programmeId: string,
  file: string,
  table: LogTable,
  original: OriginalFile,
): Promise<void> {
  const logId = randomUUID();
  await manager.insert(Log, {
    id: logId,
    programmeId,
    file,
    device: table.device,
    sha256: original.sha256,
    byteCount: original.byteCount,
    rowCount: table.rowCount,
    compressed: original.compressed,
    report: JSON.stringify(table.report),
  });
  await storeTraces(manager, logId, table);
}

/** Keeps the traces of a log; to be called inside a transaction. */
export async function storeTraces(manager: EntityManager, logId: string, table: LogTable): Promise<void> {
  const traces: TraceRow[] = table.columns.map((column, index) => ({
    id: randomUUID(),
    logId,
    position: index + 1,
    name: column.name,
    quantity: column.quantity,
    unitText: column.unitText,
    section: column.section,
    corrected: column.corrected,
    gauge: column.gauge,
    samples: samplesToBuffer(column.values),
  }));
  if (table.timeS) {
    const name = table.report.timeColumn ?? 'Time';
    const time = { quantity: 'time', unitText: 's', section: null, corrected: null, gauge: false };
    traces.unshift({ id: randomUUID(), logId, position: 0, name, ...time, samples: samplesToBuffer(table.timeS) });
  }
  // Straight to the driver: the mapper walks through every byte of a blob.
  for (const trace of traces)
    await manager.query(
      INSERT_TRACE,
      TRACE_COLUMNS.map((name) => (name === 'gauge' ? Number(trace.gauge) : trace[name])),
    );
}
