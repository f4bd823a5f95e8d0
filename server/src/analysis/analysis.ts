import type { Choices, ChoicesExtent, Curves, Findings } from '@gezeit/contract';
import { PLAIN_FORMATTER, withLeaning, withWords } from '@gezeit/core';
import type { Database } from '../database/database.js';
import type { Analysed } from './analysed.js';
import { choicesDigest, curvesDigest, findingsDigest } from './input-digests.js';
import { keptProduct } from './kept-products.js';
import type { ProgrammeState } from './programme-state.js';

/** Who computes what is not kept, off the event loop. */
export interface AnalysisWork {
  analyse(state: ProgrammeState): Promise<Analysed>;
  curves(state: ProgrammeState): Promise<Curves>;
  choices(state: ProgrammeState, extent: ChoicesExtent): Promise<Choices>;
}

/** What an analysis is asked through: where it is kept, and who computes what is not. */
export interface AnalysisRoom {
  database: Database;
  work: AnalysisWork;
}

/** What findings alone are asked through. */
export type AnalysedBy = Pick<AnalysisRoom, 'database'> & { work: Pick<AnalysisWork, 'analyse'> };

/** The findings of a programme's state; computed by a worker where they are not kept. */
export async function analysedState({ database, work }: AnalysedBy, state: ProgrammeState): Promise<Analysed> {
  const kept = await keptProduct<Analysed>(database.manager, state.id, 'findings', findingsDigest(state));
  return kept ?? work.analyse(state);
}

/** The curves of a programme's state; the same. */
export async function curvesOfState({ database, work }: AnalysisRoom, state: ProgrammeState): Promise<Curves> {
  const kept = await keptProduct<Curves>(database.manager, state.id, 'curves', curvesDigest(state));
  return kept ?? work.curves(state);
}

/** What else could have been chosen on a programme's state; the same. */
export async function choicesOfState({ database, work }: AnalysisRoom, state: ProgrammeState, extent: ChoicesExtent): Promise<Choices> {
  const kind = extent === 'all' ? 'choices' : 'leaning';
  const kept = await keptProduct<Choices>(database.manager, state.id, kind, choicesDigest(state, extent));
  return kept ?? work.choices(state, extent);
}

/** The findings with what every answer about power rests on: what the command prints, and what leaves the house. */
export async function findingsToGive(room: AnalysisRoom, state: ProgrammeState): Promise<Findings> {
  const { findings } = await analysedState(room, state);
  const [{ comparisons: choices }, { differences }] = await Promise.all([choicesOfState(room, state, 'short'), curvesOfState(room, state)]);
  return withWords(withLeaning(findings, { choices, differences }), PLAIN_FORMATTER);
}
