import type { Bundle, ProgrammeChanged, ProgrammeView } from '@gezeit/contract';
import { listAssumptions, programmeGaps } from '@gezeit/core';
import { In, type EntityManager } from 'typeorm';
import { analysedState } from '../analysis/analysis.js';
import { stateOf, type ProgrammeState } from '../analysis/programme-state.js';
import { Change, Log, Programme, Trace, type ProgrammeRow } from '../database/entities.js';
import { attachmentsOf } from '../store/attachments.js';
import { cellsOf } from '../store/cells.js';
import { programmesInCell, programmesOnVehicle } from '../board/library.js';
import { fixedEntries } from '../analysis/fixed-findings.js';
import { stampOf } from '../store/stamp.js';
import { findProgramme } from '../store/load-bundle.js';
import { isReadAs } from '../store/reread-logs.js';
import type { Services } from './route.js';

/** A programme as its screens need it. */
export async function programmeView(services: Services, id: string): Promise<ProgrammeView> {
  const changed = await programmeChanged(services, id);
  const logs = await logsOf(services.database.manager, id, changed.bundle);
  // What an undo brought back may be known already, while the logs still stand as they were read last.
  const stale = logs.some(({ file, device, report }) => !isReadAs(report, changed.bundle, device, file));
  if (!stale) return { ...changed, logs };
  await services.work.rereadLogs({ programmeId: id, bundle: changed.bundle });
  return { ...changed, logs: await logsOf(services.database.manager, id, changed.bundle) };
}

/** The same after a change: without its logs, which no change touches. */
export async function programmeChanged(services: Services, id: string): Promise<ProgrammeChanged> {
  const { manager } = services.database;
  // Before what it stamps: a change in between makes a window read once more, never once less.
  const stamp = await stampOf(manager, id);
  const row = await findProgramme(manager, id);
  const state = await stateOf(manager, row);
  // What is judged takes longest: the rest is read meanwhile.
  const [{ findings, tide, pulls }, around] = await Promise.all([analysedState(services, state), aroundOf(manager, row, state)]);
  return { id, stamp, ...around, findings, tide, pulls };
}

/** What stands around the findings of a programme: its car and cells, versions, what was attached and fixed, and who changed what. */
async function aroundOf(
  manager: EntityManager,
  row: ProgrammeRow,
  state: ProgrammeState,
): Promise<Omit<ProgrammeChanged, 'id' | 'stamp' | 'findings' | 'tide' | 'pulls'>> {
  const { id } = row;
  const { bundle } = state;
  const versions = await manager.find(Programme, { where: { lineage: row.lineage }, order: { version: 'ASC' } });
  const changes = await manager.find(Change, { where: { programmeId: id }, order: { id: 'DESC' }, take: 50 });
  const excluded = await manager.find(Change, { where: { programmeId: id, kind: 'pull-excluded' }, order: { id: 'DESC' } });
  const cells = await cellsOf(manager, id);
  const inCells = (await Promise.all(cells.map((cell) => programmesInCell(manager, cell.id)))).flat();
  return {
    vehicleId: row.vehicleId,
    cellIds: cells.map((cell) => cell.id),
    vehicleSharedBy: (await programmesOnVehicle(manager, row.vehicleId)).filter((other) => other.id !== id),
    cellsSharedBy: inCells.filter((other, i) => other.id !== id && inCells.findIndex((same) => same.id === other.id) === i),
    evidence: [...state.evidence],
    fixed: await fixedEntries(manager, state),
    attachments: await attachmentsOf(manager, id),
    gaps: programmeGaps(bundle),
    version: row.version,
    versions: versions.map(({ id: versionId, version, createdAt, superseded }) => ({ id: versionId, version, createdAt, superseded })),
    createdAt: row.createdAt,
    createdBy: row.createdBy,
    bundle,
    assumptions: listAssumptions(bundle),
    exclusions: excluded.map(({ subject, at, by, after, undone }) => ({
      pull: subject,
      at,
      by,
      said: JSON.parse(after) as string | false | null,
      undone,
    })),
    changes: changes.map(({ id: changeId, at, by, kind, subject, undone }) => ({ id: changeId, at, by, kind, subject, undone })),
  };
}

/** The logs of a programme with their columns; of the traces only what they are called. */
async function logsOf(manager: EntityManager, id: string, bundle: Bundle): Promise<ProgrammeView['logs']> {
  const logs = await manager.find(Log, { where: { programmeId: id }, order: { file: 'ASC' } });
  const traces = await manager.find(Trace, {
    where: { logId: In(logs.map((log) => log.id)) },
    order: { position: 'ASC' },
    select: { id: true, logId: true, position: true, name: true, quantity: true, unitText: true, section: true },
  });
  const byLog = new Map<string, typeof traces>();
  for (const trace of traces) byLog.set(trace.logId, [...(byLog.get(trace.logId) ?? []), trace]);
  return logs.map((log) => ({
    id: log.id,
    file: log.file,
    device: log.device,
    sha256: log.sha256,
    byteCount: log.byteCount,
    rowCount: log.rowCount,
    report: JSON.parse(log.report) as ProgrammeView['logs'][number]['report'],
    columns: (byLog.get(log.id) ?? []).map(({ logId: _, quantity, ...trace }) => ({
      ...trace,
      quantity: quantity as ProgrammeView['logs'][number]['columns'][number]['quantity'],
    })),
    pulls: bundle.pulls.filter((pull) => pull.logs.some(({ file }) => file === log.file)).map((pull) => pull.id),
  }));
}
