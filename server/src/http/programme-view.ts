import type { BoardEntry, ProgrammeView } from '@gezeit/contract';
import { GezeitError, listAssumptions, plannedResolution, programmeGaps } from '@gezeit/core';
import type { DataSource } from 'typeorm';
import { Change, Log, Programme, Pull, Setup, Trace, Vehicle, type ProgrammeRow } from '../database/entities.js';
import { attachmentsOf } from '../store/attachments.js';
import { cellsOf } from '../store/cells.js';
import { evidenceOf } from '../store/evidence.js';
import { storedAnalysis, type StoredAnalysis } from '../store/findings-store.js';
import { programmesInCell, programmesOnVehicle } from '../store/library.js';
import { findProgramme, loadBundle } from '../store/load-bundle.js';
import type { Services } from './route.js';

/** The analysis of a programme's present state; computed by the worker where it is not stored yet. */
export async function analysisOf(
  { source, queue }: Pick<Services, 'source' | 'queue'>,
  id: string,
  withCurves = false,
): Promise<StoredAnalysis> {
  const known = await storedAnalysis(source.manager, id);
  if (known && (known.curves || !withCurves)) return known;
  const result = await queue.run({ kind: 'analyse', programmeId: id, withCurves }).done;
  if (result.kind !== 'analyse') throw new Error('the worker answered another question');
  return result.analysis;
}

/** What the plan of a programme without pulls could resolve: its worst comparison, per cent; null without a plan. */
async function plannedPct(source: DataSource, id: string): Promise<number | null> {
  const resolvable = plannedResolution(await loadBundle(source.manager, id)).map(({ resolution }) => resolution.smallestResolvablePct);
  return resolvable.length > 0 ? Math.max(...resolvable) : null;
}

/** A programme on the board. */
export async function boardEntry({ source, queue }: Pick<Services, 'source' | 'queue'>, row: ProgrammeRow): Promise<BoardEntry> {
  const body = JSON.parse(row.body) as { programme: { question?: string; smallestGainPct: number } };
  const vehicle = await source.manager.findOneByOrFail(Vehicle, { id: row.vehicleId });
  const bundle = await loadBundle(source.manager, row.id);
  const setups = await source.manager.find(Setup, { where: { programmeId: row.id } });
  const pulls = await source.manager.find(Pull, { where: { programmeId: row.id }, order: { startedAt: 'DESC' } });
  const nameOf = (key: string) => (JSON.parse(setups.find((setup) => setup.key === key)!.body) as { name: string }).name;
  const entry: BoardEntry = {
    id: row.id,
    title: row.title,
    question: body.programme.question ?? '',
    vehicle: vehicle.name,
    cell: (bundle.cells ?? [bundle.cell!]).map(({ name }) => name).join(', '),
    version: row.version,
    smallestGainPct: body.programme.smallestGainPct,
    pullsUsed: 0,
    pullsDriven: pulls.length,
    lastPullAt: pulls[0]?.startedAt ?? null,
    plannedResolvablePct: pulls.length > 0 ? null : await plannedPct(source, row.id),
    answers: [],
    earlierAnswers: (bundle.programme.revalidates?.answers ?? []).map(({ candidate, candidateName, power, pct, low, high }) => ({
      candidate,
      candidateName,
      kind: null,
      answer: power,
      bound: false,
      estimate: pct ?? null,
      low: low ?? null,
      high: high ?? null,
      unit: 'pct',
      smallest: body.programme.smallestGainPct,
      why: `As it stood in “${bundle.programme.revalidates!.title}”.`,
      said: {},
    })),
    gaps: programmeGaps(bundle).map(({ text }) => text),
    archived: row.archived,
    problem: null,
  };
  try {
    const { findings } = await analysisOf({ source, queue }, row.id);
    entry.pullsUsed = findings.pulls.filter(({ status }) => status === 'used').length;
    entry.answers = findings.comparisons.flatMap(({ candidate, answers }) =>
      answers.map(({ question: _, of: __, ...answer }) => ({
        ...answer,
        candidate,
        candidateName: nameOf(candidate),
        bound: bundle.setups.find(({ id }) => id === candidate)?.bound === true,
      })),
    );
  } catch (error) {
    if (!(error instanceof GezeitError)) throw error;
    entry.problem = error.line;
  }
  return entry;
}

/** A programme as its screens need it. */
export async function programmeView(services: Services, id: string): Promise<ProgrammeView> {
  const { manager } = services.source;
  const row = await findProgramme(manager, id);
  const bundle = await loadBundle(manager, id);
  const { findings, tide, pulls } = await analysisOf(services, id);
  const versions = await manager.find(Programme, { where: { lineage: row.lineage }, order: { version: 'ASC' } });
  const logs = await manager.find(Log, { where: { programmeId: id }, order: { file: 'ASC' } });
  const changes = await manager.find(Change, { where: { programmeId: id }, order: { id: 'DESC' }, take: 50 });
  const cells = await cellsOf(manager, id);
  const inCells = (await Promise.all(cells.map((cell) => programmesInCell(manager, cell.id)))).flat();
  return {
    id,
    vehicleId: row.vehicleId,
    cellIds: cells.map((cell) => cell.id),
    vehicleSharedBy: (await programmesOnVehicle(manager, row.vehicleId)).filter((other) => other.id !== id),
    cellsSharedBy: inCells.filter((other, i) => other.id !== id && inCells.findIndex((same) => same.id === other.id) === i),
    evidence: await evidenceOf(manager, id),
    attachments: await attachmentsOf(manager, id),
    gaps: programmeGaps(bundle),
    version: row.version,
    versions: versions.map(({ id: versionId, version, createdAt, superseded }) => ({ id: versionId, version, createdAt, superseded })),
    createdAt: row.createdAt,
    createdBy: row.createdBy,
    bundle,
    findings,
    tide,
    pulls,
    logs: await Promise.all(
      logs.map(async (log) => ({
        id: log.id,
        file: log.file,
        device: log.device,
        sha256: log.sha256,
        byteCount: log.byteCount,
        rowCount: log.rowCount,
        report: JSON.parse(log.report) as ProgrammeView['logs'][number]['report'],
        columns: (await manager.find(Trace, { where: { logId: log.id }, order: { position: 'ASC' } })).map((trace) => ({
          id: trace.id,
          position: trace.position,
          name: trace.name,
          quantity: trace.quantity as ProgrammeView['logs'][number]['columns'][number]['quantity'],
          unitText: trace.unitText,
          section: trace.section,
        })),
        pulls: bundle.pulls.filter((pull) => pull.logs.some(({ file }) => file === log.file)).map((pull) => pull.id),
      })),
    ),
    assumptions: listAssumptions(bundle),
    changes: changes.map(({ id: changeId, at, by, kind, subject, undone }) => ({ id: changeId, at, by, kind, subject, undone })),
  };
}
