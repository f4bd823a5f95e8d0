import { randomUUID } from 'node:crypto';
import type { Bundle, Curves, Evidence, Findings, PullDetail, Tide } from '@gezeit/contract';
import { analyse, curvesOf, leavesOut, onEveryPull, PLAIN_FORMATTER, tideOf, withWords, type Analysis, type LogTables } from '@gezeit/core';
import type { EntityManager } from 'typeorm';
import { FindingsEntity } from '../database/entities.js';
import { inputsDigest } from './digest.js';
import { evidenceOf } from './evidence.js';
import { loadBundle, loadTables, logDigests } from './load-bundle.js';

/** What is kept of an analysis: computed once for a state of the inputs. */
export interface StoredAnalysis {
  findings: Findings;
  tide: Tide;
  pulls: PullDetail[];
  curves: Curves | null;
}

/** Findings, tide and details of an analysis, without the curves (they take longer and are made when asked for). */
export function summarise(analysis: Analysis, tables: LogTables): StoredAnalysis {
  return { findings: analysis.findings, tide: tideOf(analysis.pulls, tables), pulls: pullDetails(analysis), curves: null };
}

function pullDetails({ pulls, findings }: Analysis): PullDetail[] {
  const chances = new Map<string, number>();
  for (const { weights } of findings.comparisons) {
    for (const [id, chance] of Object.entries(weights?.badPull ?? {})) chances.set(id, Math.max(chance, chances.get(id) ?? 0));
  }
  return pulls.map((entry) => ({
    id: entry.pull.id,
    flags: entry.flags.map(({ flag, said }) =>
      withWords(
        { flag, detail: '', said: { detail: [said] }, leavesOut: leavesOut(flag) && !onEveryPull(pulls, entry.pull.setup, flag) },
        PLAIN_FORMATTER,
      ),
    ),
    startCoolantC: entry.start.coolantC,
    startOilC: entry.start.oilC,
    ambientC: entry.air?.temperatureC ?? null,
    alignments: entry.curve?.alignments ?? [],
    badChance: chances.get(entry.pull.id) ?? null,
  }));
}

/** The stored analysis of a programme's present state, or null where it has to be computed. */
export async function storedAnalysis(manager: EntityManager, id: string): Promise<StoredAnalysis | null> {
  const digest = inputsDigest(await loadBundle(manager, id), await logDigests(manager, id), await evidenceOf(manager, id));
  const row = await manager.findOneBy(FindingsEntity, { programmeId: id, inputsDigest: digest });
  return row ? (JSON.parse(row.body) as StoredAnalysis) : null;
}

/** So many states of a programme are kept: an undo finds the one before it. */
const KEPT_STATES = 4;

/** Keeps an analysis with the digest of its inputs; an earlier one of the same inputs is replaced, and the oldest of many falls away. */
export async function keepAnalysis(manager: EntityManager, id: string, inputs: AnalysisInputs, analysis: StoredAnalysis): Promise<void> {
  const digest = inputsDigest(inputs.bundle, inputs.logs, inputs.evidence);
  await manager.delete(FindingsEntity, { programmeId: id, inputsDigest: digest });
  await manager.insert(FindingsEntity, {
    id: randomUUID(),
    programmeId: id,
    inputsDigest: digest,
    body: JSON.stringify(analysis),
    createdAt: new Date().toISOString(),
  });
  const kept = await manager.find(FindingsEntity, { where: { programmeId: id }, order: { createdAt: 'DESC' }, select: { id: true } });
  const old = kept.slice(KEPT_STATES).map((row) => row.id);
  if (old.length > 0) await manager.delete(FindingsEntity, old);
}

/** What an analysis is computed from. */
export interface AnalysisInputs {
  bundle: Bundle;
  /** Digests of the logs. */
  logs: readonly string[];
  evidence: readonly Evidence[];
}

/** Computes (and keeps) what is missing of a programme's analysis. */
export async function computeAnalysis(manager: EntityManager, id: string, withCurves: boolean): Promise<StoredAnalysis> {
  const known = await storedAnalysis(manager, id);
  if (known && (known.curves || !withCurves)) return known;
  const inputs = { bundle: await loadBundle(manager, id), logs: await logDigests(manager, id), evidence: await evidenceOf(manager, id) };
  const tables = await loadTables(manager, id);
  const analysis = analyse(inputs.bundle, tables, inputs.evidence);
  const stored = { ...summarise(analysis, tables), curves: withCurves ? curvesOf(inputs.bundle, analysis.pulls) : null };
  await keepAnalysis(manager, id, inputs, stored);
  return stored;
}
