import type { Choices, ChoicesExtent, Claim, ClaimFinding, Curves } from '@gezeit/contract';
import { analyseMeasured, checkClaim, choicesOfMeasured, curvesOf, judgeOf, madeOnce, measurePulls, type MeasuredPull } from '@gezeit/core';
import type { Database } from '../database/database.js';
import { rereadDecided } from '../store/reread-logs.js';
import { loadTables } from '../store/load-bundle.js';
import { analysedOf, type Analysed } from './analysed.js';
import { choicesDigest, curvesDigest, findingsDigest, pullDigests } from './input-digests.js';
import { keepProducts, keptProducts, type ProductKind } from './kept-products.js';
import type { ProgrammeState } from './programme-state.js';

/** What this thread has at hand of a database. */
interface Lately {
  /** Pulls that were measured or read last, by digest: a change of what counts finds them here. */
  measured: Map<string, MeasuredPull>;
  /** What was judged and drawn last, by programme and digest: it is asked for again before it is kept. */
  judged: Map<string, Analysed>;
  drawn: Map<string, Curves>;
}

const MOST_AT_HAND = 600;
const MOST_ANSWERS_AT_HAND = 16;
const latelyIn = madeOnce((_database: Database): Lately => ({ measured: new Map(), judged: new Map(), drawn: new Map() }));

/** Computes the findings of a state, to be kept. For a worker. @throws GezeitError where a pull's logs cannot belong to it. */
export function computeAnalysed(database: Database, state: ProgrammeState): Promise<Analysed> {
  return lately(latelyIn(database).judged, database, state, 'findings', findingsDigest(state), async () =>
    analysedOf(state.bundle, analyseMeasured(state.bundle, await measuredPulls(database, state), state.evidence)),
  );
}

/** Computes the curves of a state, to be kept. For a worker. @throws GezeitError where a pull's logs cannot belong to it. */
export function computeCurves(database: Database, state: ProgrammeState): Promise<Curves> {
  return lately(latelyIn(database).drawn, database, state, 'curves', curvesDigest(state), async () =>
    curvesOf(judgeOf(state.bundle, await measuredPulls(database, state))),
  );
}

/** What was made last, or is made now and kept: two windows ask for the same at once. */
async function lately<T>(
  known: Map<string, T>,
  database: Database,
  { id }: ProgrammeState,
  kind: ProductKind,
  digest: string,
  make: () => Promise<T>,
): Promise<T> {
  const key = `${id} ${digest}`;
  const atHand = known.get(key);
  if (atHand) return atHand;
  const made = await make();
  known.set(key, made);
  if (known.size > MOST_ANSWERS_AT_HAND) known.delete(known.keys().next().value!);
  keepLater(database, id, kind, new Map([[digest, made]]));
  return made;
}

/** Tries every other choice on a state's pulls, to be kept. For a worker. @throws GezeitError where a pull's logs cannot belong to it. */
export async function computeChoices(database: Database, state: ProgrammeState, extent: ChoicesExtent): Promise<Choices> {
  const choices = { comparisons: choicesOfMeasured(state.bundle, await measuredPulls(database, state), extent) };
  keepLater(database, state.id, extent === 'all' ? 'choices' : 'leaning', new Map([[choicesDigest(state, extent), choices]]));
  return choices;
}

/** Holds a claim against a state's pulls. For a worker. @throws GezeitError where a pull's logs cannot belong to it. */
export async function computeClaim(database: Database, state: ProgrammeState, claim: Claim): Promise<ClaimFinding> {
  return checkClaim(state.bundle, await measuredPulls(database, state), state.evidence, claim);
}

/** Keeps products once they are answered. Where that fails nothing is lost: they are computed again when they are next asked for. */
export function keepLater(
  database: Database,
  id: string,
  kind: ProductKind,
  products: ReadonlyMap<string, unknown>,
  present: string[] = [],
): void {
  setImmediate(() => void database.write((manager) => keepProducts(manager, id, kind, products, present)).catch(() => undefined));
}

/** The pulls of a state as their logs say: at hand, kept, or measured now and kept. */
async function measuredPulls(database: Database, state: ProgrammeState): Promise<MeasuredPull[]> {
  const { id, bundle } = state;
  const digests = pullDigests(state);
  const lately = latelyIn(database).measured;
  const missing = [...digests.values()].filter((digest) => !lately.has(digest));
  for (const [digest, pull] of await keptProducts<MeasuredPull>(database.manager, id, 'pull', missing)) remember(lately, digest, pull);
  const unmeasured = bundle.pulls.filter((pull) => !lately.has(digests.get(pull.id)!));
  if (unmeasured.length > 0) {
    const files = new Set(unmeasured.flatMap(({ logs }) => logs.map(({ file }) => file)));
    await rereadDecided(database, id, bundle, [...files]);
    const tables = await loadTables(database.manager, id, [...files]);
    const fresh = new Map(measurePulls(bundle, tables, unmeasured).map((pull) => [digests.get(pull.id)!, pull]));
    keepLater(database, id, 'pull', fresh, [...digests.values()]);
    for (const [digest, pull] of fresh) remember(lately, digest, pull);
  }
  const measured = bundle.pulls.map((pull) => lately.get(digests.get(pull.id)!)!);
  while (lately.size > MOST_AT_HAND) lately.delete(lately.keys().next().value!);
  return measured;
}

/** The newest stand last: what was not needed for longest goes first. */
function remember(lately: Map<string, MeasuredPull>, digest: string, pull: MeasuredPull): void {
  lately.delete(digest);
  lately.set(digest, pull);
}
