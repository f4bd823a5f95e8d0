import type { Curves } from '@gezeit/contract';
import type { Database } from '../database/database.js';
import type { Analysed } from './analysed.js';
import { curvesDigest, findingsDigest } from './input-digests.js';
import { keptProduct } from './kept-products.js';
import type { ProgrammeState } from './programme-state.js';

/** Who computes what is not kept, off the event loop. */
export interface AnalysisWork {
  analyse(state: ProgrammeState): Promise<Analysed>;
  curves(state: ProgrammeState): Promise<Curves>;
}

/** What an analysis is asked through: where it is kept, and who computes what is not. */
export interface AnalysisRoom {
  database: Database;
  work: AnalysisWork;
}

/** The findings of a programme's state; computed by a worker where they are not kept. */
export async function analysedState({ database, work }: AnalysisRoom, state: ProgrammeState): Promise<Analysed> {
  const kept = await keptProduct<Analysed>(database.manager, state.id, 'findings', findingsDigest(state));
  return kept ?? work.analyse(state);
}

/** The curves of a programme's state; the same. */
export async function curvesOfState({ database, work }: AnalysisRoom, state: ProgrammeState): Promise<Curves> {
  const kept = await keptProduct<Curves>(database.manager, state.id, 'curves', curvesDigest(state));
  return kept ?? work.curves(state);
}
