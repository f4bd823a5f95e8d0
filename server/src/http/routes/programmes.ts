import {
  boardSchema,
  curvesSchema,
  exclusionSchema,
  findingsSchema,
  programmeViewSchema,
  type BoardEntry,
  type ProgrammeView,
} from '@gezeit/contract';
import { GezeitError, listAssumptions, plannedResolution } from '@gezeit/core';
import { zipSync } from 'fflate';
import type { DataSource } from 'typeorm';
import { z } from 'zod';
import { Cell, Change, Log, Programme, Pull, Setup, Trace, Vehicle, type ProgrammeRow } from '../../database/entities.js';
import { exportFiles } from '../../store/export-bundle.js';
import { changeExclusion, undoLast } from '../../store/changes.js';
import { storedAnalysis, type StoredAnalysis } from '../../store/findings-store.js';
import { findProgramme, loadBundle } from '../../store/load-bundle.js';
import type { WorkQueue } from '../../work/work-queue.js';
import { idParams, route, type Services } from '../route.js';

/** The analysis of a programme's present state; computed by the worker where it is not stored yet. */
async function analysisOf({ source, queue }: Pick<Services, 'source' | 'queue'>, id: string, withCurves = false): Promise<StoredAnalysis> {
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

async function boardEntry(source: DataSource, queue: WorkQueue, row: ProgrammeRow): Promise<BoardEntry> {
  const body = JSON.parse(row.body) as { programme: { question?: string; smallestGainPct: number } };
  const vehicle = await source.manager.findOneByOrFail(Vehicle, { id: row.vehicleId });
  const cells = await source.manager.find(Cell, { where: { programmeId: row.id }, order: { position: 'ASC' } });
  const setups = await source.manager.find(Setup, { where: { programmeId: row.id } });
  const pulls = await source.manager.find(Pull, { where: { programmeId: row.id }, order: { startedAt: 'DESC' } });
  const nameOf = (key: string) => (JSON.parse(setups.find((setup) => setup.key === key)!.body) as { name: string }).name;
  const entry: BoardEntry = {
    id: row.id,
    title: row.title,
    question: body.programme.question ?? '',
    vehicle: vehicle.name,
    cell: cells.map(({ name }) => name).join(', '),
    version: row.version,
    smallestGainPct: body.programme.smallestGainPct,
    pullsUsed: 0,
    pullsDriven: pulls.length,
    lastPullAt: pulls[0]?.startedAt ?? null,
    plannedResolvablePct: pulls.length > 0 ? null : await plannedPct(source, row.id),
    answers: [],
    problem: null,
  };
  try {
    const { findings } = await analysisOf({ source, queue }, row.id);
    entry.pullsUsed = findings.pulls.filter(({ status }) => status === 'used').length;
    entry.answers = findings.comparisons.map(({ candidate, verdict, levelled }) => ({
      candidate,
      candidateName: nameOf(candidate),
      power: verdict.power,
      pct: levelled?.pct ?? null,
      low: levelled?.low ?? null,
      high: levelled?.high ?? null,
      why: verdict.why,
    }));
  } catch (error) {
    if (!(error instanceof GezeitError)) throw error;
    entry.problem = error.line;
  }
  return entry;
}

async function programmeView(services: Services, id: string): Promise<ProgrammeView> {
  const { manager } = services.source;
  const row = await findProgramme(manager, id);
  const bundle = await loadBundle(manager, id);
  const { findings, tide, pulls } = await analysisOf(services, id);
  const versions = await manager.find(Programme, { where: { lineage: row.lineage }, order: { version: 'ASC' } });
  const logs = await manager.find(Log, { where: { programmeId: id }, order: { file: 'ASC' } });
  const changes = await manager.find(Change, { where: { programmeId: id }, order: { id: 'DESC' }, take: 50 });
  return {
    id,
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

const fileName = (title: string) =>
  title
    .replace(/[^\p{L}\d]+/gu, '-')
    .replace(/^-|-$/g, '')
    .toLowerCase() || 'programme';

export const programmeRoutes = [
  route({
    method: 'get',
    path: '/api/programmes',
    summary: 'The board: every programme with its present answers.',
    answer: boardSchema,
    async handle({ services: { source, queue } }) {
      const rows = await source.manager.find(Programme, { where: { superseded: false }, order: { createdAt: 'ASC' } });
      return { programmes: await Promise.all(rows.map((row) => boardEntry(source, queue, row))) };
    },
  }),
  route({
    method: 'get',
    path: '/api/programmes/:id',
    summary: 'A programme with its bundle, findings, tide, pulls and logs.',
    params: idParams,
    answer: programmeViewSchema,
    handle: ({ params, services }) => programmeView(services, params.id),
  }),
  route({
    method: 'get',
    path: '/api/programmes/:id/findings',
    summary: 'The findings of a programme in the exchange format.',
    params: idParams,
    answer: findingsSchema,
    async handle({ params, services }) {
      await findProgramme(services.source.manager, params.id);
      return (await analysisOf(services, params.id)).findings;
    },
  }),
  route({
    method: 'get',
    path: '/api/programmes/:id/curves',
    summary: 'Power, torque and differences over engine speed.',
    params: idParams,
    answer: curvesSchema,
    async handle({ params, services }) {
      await findProgramme(services.source.manager, params.id);
      return (await analysisOf(services, params.id, true)).curves!;
    },
  }),
  route({
    method: 'get',
    path: '/api/programmes/:id/bundle',
    summary: 'The programme as a bundle (.zip): description and original logs.',
    params: idParams,
    answer: 'application/zip',
    async handle({ params, services }) {
      const { title } = await findProgramme(services.source.manager, params.id);
      const files = await exportFiles(services.source.manager, params.id);
      return { type: 'application/zip', body: Buffer.from(zipSync(files, { level: 1 })), fileName: `${fileName(title)}.zip` };
    },
  }),
  route({
    method: 'patch',
    path: '/api/programmes/:id/pulls/:pull',
    summary: 'Leave a pull out with a reason, use it in spite of the rules, or let the rules decide.',
    params: idParams.extend({ pull: z.string().min(1).max(100) }),
    body: exclusionSchema,
    answer: programmeViewSchema,
    changes: true,
    async handle({ params, body, person, services }) {
      await changeExclusion(services.source, params.id, params.pull, body.excluded, person);
      return programmeView(services, params.id);
    },
  }),
  route({
    method: 'post',
    path: '/api/programmes/:id/undo',
    summary: 'Undo the last change of a programme that is not undone yet.',
    params: idParams,
    answer: programmeViewSchema,
    changes: true,
    async handle({ params, services }) {
      await undoLast(services.source, params.id);
      return programmeView(services, params.id);
    },
  }),
];
