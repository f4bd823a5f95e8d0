import type { Curves } from '@gezeit/contract';
import { analyseMeasured, curvesOf, measurePulls, type Analysis, type LogTable, type MeasuredPull } from '@gezeit/core';
import type { EntityManager } from 'typeorm';
import { loadTables } from '../store/load-bundle.js';
import { analysedOf, type Analysed } from './analysed.js';
import { curvesDigest, findingsDigest, pullDigests } from './input-digests.js';
import { keepProducts, keptProducts } from './kept-products.js';
import type { ProgrammeState } from './programme-state.js';

/** Pulls that this thread has measured or read last, by digest: a change of what counts finds them here. */
const measuredLately = new Map<string, MeasuredPull>();
const MOST_AT_HAND = 600;

/** The analysis that this thread made last: its curves are usually asked for next. */
let lastAnalysis: { digest: string; analysis: Analysis } | null = null;

/** Computes the findings of a state and keeps them. For a worker. @throws GezeitError where a pull's logs cannot belong to it. */
export async function computeAnalysed(manager: EntityManager, state: ProgrammeState): Promise<Analysed> {
  const analysed = analysedOf(await analysisOfState(manager, state));
  await keepProducts(manager, state.id, 'findings', new Map([[findingsDigest(state), analysed]]));
  return analysed;
}

/** Computes the curves of a state and keeps them. For a worker. @throws GezeitError where a pull's logs cannot belong to it. */
export async function computeCurves(manager: EntityManager, state: ProgrammeState): Promise<Curves> {
  const curves = curvesOf(await analysisOfState(manager, state));
  await keepProducts(manager, state.id, 'curves', new Map([[curvesDigest(state), curves]]));
  return curves;
}

async function analysisOfState(manager: EntityManager, state: ProgrammeState): Promise<Analysis> {
  const digest = findingsDigest(state);
  if (lastAnalysis?.digest !== digest) {
    const measured = await measuredPulls(manager, state, pullDigests(state), (files) => loadTables(manager, state.id, files));
    lastAnalysis = { digest, analysis: analyseMeasured(state.bundle, measured, state.evidence) };
  }
  return lastAnalysis.analysis;
}

/** The pulls of a state as their logs say: at hand, kept, or measured now and kept. */
async function measuredPulls(
  manager: EntityManager,
  { id, bundle }: ProgrammeState,
  digests: ReadonlyMap<string, string>,
  tablesOf: (files: readonly string[]) => Promise<ReadonlyMap<string, LogTable>>,
): Promise<MeasuredPull[]> {
  const missing = [...digests.values()].filter((digest) => !measuredLately.has(digest));
  for (const [digest, pull] of await keptProducts<MeasuredPull>(manager, id, 'pull', missing)) remember(digest, pull);
  const unmeasured = bundle.pulls.filter((pull) => !measuredLately.has(digests.get(pull.id)!));
  if (unmeasured.length > 0) {
    const tables = await tablesOf([...new Set(unmeasured.flatMap(({ logs }) => logs.map(({ file }) => file)))]);
    const fresh = new Map(measurePulls(bundle, tables, unmeasured).map((pull) => [digests.get(pull.id)!, pull]));
    await keepProducts(manager, id, 'pull', fresh, [...digests.values()]);
    for (const [digest, pull] of fresh) remember(digest, pull);
  }
  const measured = bundle.pulls.map((pull) => measuredLately.get(digests.get(pull.id)!)!);
  while (measuredLately.size > MOST_AT_HAND) measuredLately.delete(measuredLately.keys().next().value!);
  return measured;
}

/** The newest stand last: what was not needed for longest goes first. */
function remember(digest: string, pull: MeasuredPull): void {
  measuredLately.delete(digest);
  measuredLately.set(digest, pull);
}
