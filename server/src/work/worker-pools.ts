import { MessageChannel, type MessagePort } from 'node:worker_threads';
import type { Piscina } from 'piscina';
import type { Choices, ChoicesExtent, Claim, ClaimFinding, Curves } from '@gezeit/contract';
import type { Analysed } from '../analysis/analysed.js';
import type { AnalysisWork } from '../analysis/analysis.js';
import { choicesDigest } from '../analysis/input-digests.js';
import type { ProgrammeState } from '../analysis/programme-state.js';
import { unrefused, type Refusal } from './refusal.js';
import type { KeepFileTask } from '../day/day-services.js';
import type { Card } from '../board/card.js';
import type { CardWork } from '../board/cards.js';
import type { ImportOrder, ImportProgress, ImportWork } from '../import/import-jobs.js';
import type { StageProgress, StagingWork } from '../staging/staging.js';
import { conflict } from '@gezeit/core';
import { WorkCancelled } from '../work-cancelled.js';
import type { Ordered, RereadTask, TaskName, Tasks } from './tasks.js';
import { startThreads, type Threads } from './threads.js';

/** Other choices that are being tried of one state. */
interface Trying {
  /** Of the state. */
  digest: string;
  given: AbortController;
  results: Map<ChoicesExtent, Promise<Choices>>;
}

/**
 * What a database has done on threads. Cancelling what runs ends its thread, which leaves nothing half-done; other choices that are tried of a state
 * that has passed are given up. Threads that are lent go on when it closes, and have let its database go by then.
 */
export class WorkerPools implements AnalysisWork, CardWork, ImportWork, StagingWork {
  readonly #threads: Threads;
  /** What has opened the database. */
  readonly #used = new Set<Piscina>();
  /** What is under way, and where. */
  readonly #running = new Map<AbortController, Piscina>();
  /** What is being tried, by programme: of one state, to whatever extents it is asked for. */
  readonly #tried = new Map<string, Trying>();
  #closed = false;

  constructor(
    private readonly database: string,
    private readonly lent: Threads | null = null,
  ) {
    this.#threads = lent ?? startThreads(database);
  }

  /** Imports what was received; aborting stops it. @throws GezeitError, WorkCancelled. */
  async import(task: ImportOrder, onProgress: (progress: ImportProgress) => void, signal: AbortSignal): Promise<Tasks['import']['result']> {
    return this.#told(onProgress, (port) => this.#run(this.#threads.reading, 'import', { ...task, port }, signal, [port]));
  }

  /** Reads dropped files. @throws GezeitError, WorkCancelled. */
  readStage(root: string, id: string, onProgress: (progress: StageProgress) => void): Promise<Tasks['readStage']['result']> {
    return this.#told(onProgress, (port) => this.#run(this.#threads.reading, 'readStage', { root, id, port }, undefined, [port]));
  }

  /** Writes dropped files as a bundle. @throws GezeitError, WorkCancelled. */
  async writeStaged(root: string, id: string, out: string): Promise<void> {
    await this.#run(this.#threads.reading, 'writeStaged', { root, id, out });
  }

  /** Adds dropped files to the programme that they were dropped on; its id. @throws GezeitError, WorkCancelled. */
  addStaged(root: string, id: string, by: string, onProgress: (progress: StageProgress) => void, signal: AbortSignal): Promise<string> {
    return this.#told(onProgress, (port) => this.#run(this.#threads.reading, 'addStaged', { root, id, by, port }, signal, [port]));
  }

  async #told<P, T>(onProgress: (progress: P) => void, work: (port: MessagePort) => Promise<T>): Promise<T> {
    const { port1, port2 } = new MessageChannel();
    port1.on('message', onProgress);
    try {
      return await work(port2);
    } finally {
      port1.close();
    }
  }

  /** Reads logs again about whose columns something else is decided now. @throws GezeitError, WorkCancelled. */
  async rereadLogs(task: RereadTask): Promise<void> {
    await this.#run(this.#threads.reading, 'rereadLogs', task);
  }

  /** Keeps a file of a day. @throws GezeitError, WorkCancelled. */
  keepFile(task: KeepFileTask): Promise<Tasks['keepFile']['result']> {
    return this.#run(this.#threads.reading, 'keepFile', task);
  }

  /** Computes and keeps the findings of a state. @throws GezeitError, WorkCancelled. */
  analyse(state: ProgrammeState): Promise<Analysed> {
    return this.#run(this.#threads.judging, 'analyse', state);
  }

  /** Computes and keeps the curves of a state. @throws GezeitError, WorkCancelled. */
  curves(state: ProgrammeState): Promise<Curves> {
    return this.#run(this.#threads.drawing, 'curves', state);
  }

  /** Tries and keeps the other choices of a state; the same is tried once, and what is tried of an earlier state is given up. @throws GezeitError, WorkCancelled. */
  async choices(state: ProgrammeState, extent: ChoicesExtent): Promise<Choices> {
    const digest = choicesDigest(state, 'all');
    let trying = this.#tried.get(state.id);
    if (trying?.digest !== digest) {
      trying?.given.abort();
      trying = { digest, given: new AbortController(), results: new Map() };
      this.#tried.set(state.id, trying);
    }
    const { results, given } = trying;
    const known = results.get(extent);
    if (known) return known;
    const result = this.#tryOut(state, extent, given.signal).finally(() => {
      results.delete(extent);
      if (results.size === 0 && this.#tried.get(state.id) === trying) this.#tried.delete(state.id);
    });
    results.set(extent, result);
    return result;
  }

  async #tryOut(state: ProgrammeState, extent: ChoicesExtent, signal: AbortSignal): Promise<Choices> {
    try {
      return await this.#run(this.#threads.choosing, 'choices', { state, extent }, signal);
    } catch (error) {
      if (signal.aborted && error instanceof WorkCancelled)
        throw conflict(
          'changed-meanwhile',
          'The programme was changed while its other choices were tried.',
          'Ask again: the new state is tried.',
        );
      throw error;
    }
  }

  /** Makes and keeps a programme's card. @throws GezeitError, WorkCancelled. */
  card(id: string, digest: string): Promise<Card> {
    return this.#run(this.#threads.judging, 'card', { id, digest });
  }

  /** Holds a claim against a state's pulls. @throws GezeitError, WorkCancelled. */
  claim(state: ProgrammeState, claim: Claim): Promise<ClaimFinding> {
    return this.#run(this.#threads.drawing, 'claim', { state, claim });
  }

  async close(): Promise<void> {
    this.#closed = true;
    const { lent } = this;
    if (!lent) {
      await Promise.all(Object.values(this.#threads).map((pool) => pool.destroy()));
      return;
    }
    for (const [given, pool] of this.#running) {
      given.abort();
      this.#used.delete(pool);
    }
    await Promise.all([...this.#used].map((pool) => pool.run(this.database, { name: 'letGo' })));
  }

  async #run<N extends TaskName>(
    pool: Piscina,
    name: N,
    task: Tasks[N]['task'],
    signal: AbortSignal | undefined = undefined,
    transferList: MessagePort[] = [],
  ): Promise<Tasks[N]['result']> {
    const given = new AbortController();
    const giveUp = () => given.abort();
    signal?.addEventListener('abort', giveUp);
    if (signal?.aborted) giveUp();
    this.#used.add(pool);
    this.#running.set(given, pool);
    const ordered: Ordered<N> = { database: this.database, task };
    let result: Tasks[N]['result'] | Refusal;
    try {
      result = (await pool.run(ordered, { name, signal: given.signal, transferList })) as Tasks[N]['result'] | Refusal;
    } catch (error) {
      if (signal?.aborted || this.#closed) throw new WorkCancelled('cancelled');
      throw error;
    } finally {
      this.#running.delete(given);
      signal?.removeEventListener('abort', giveUp);
    }
    return unrefused(result);
  }
}
