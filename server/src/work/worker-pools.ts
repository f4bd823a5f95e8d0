import { existsSync } from 'node:fs';
import { MessageChannel, type MessagePort } from 'node:worker_threads';
import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';
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
import type { RereadTask, TaskName, Tasks } from './tasks.js';

/** Other choices that are being tried of one state. */
interface Trying {
  /** Of the state. */
  digest: string;
  given: AbortController;
  results: Map<ChoicesExtent, Promise<Choices>>;
}

/**
 * Three threads that are kept warm: one reads and stores, one after the other, so that the same file handed in twice meets itself; one judges,
 * and one makes curves, for which no sentence waits. A fourth, started when it is first needed, tries other choices: what it tries of a state that
 * has passed is given up. Cancelling what runs ends its thread, which leaves nothing half-done.
 */
export class WorkerPools implements AnalysisWork, CardWork, ImportWork, StagingWork {
  readonly #reading: Piscina;
  readonly #judging: Piscina;
  readonly #drawing: Piscina;
  readonly #choosing: Piscina;
  /** What is being tried, by programme: of one state, to whatever extents it is asked for. */
  readonly #tried = new Map<string, Trying>();
  #closed = false;

  constructor(database: string) {
    this.#reading = threadOf(database);
    this.#judging = threadOf(database);
    this.#drawing = threadOf(database);
    this.#choosing = threadOf(database, false);
  }

  /** Imports what was received; aborting stops it. @throws GezeitError, WorkCancelled. */
  async import(task: ImportOrder, onProgress: (progress: ImportProgress) => void, signal: AbortSignal): Promise<Tasks['import']['result']> {
    return this.#told(onProgress, (port) => this.#run(this.#reading, 'import', { ...task, port }, signal, [port]));
  }

  /** Reads dropped files. @throws GezeitError, WorkCancelled. */
  readStage(root: string, id: string, onProgress: (progress: StageProgress) => void): Promise<Tasks['readStage']['result']> {
    return this.#told(onProgress, (port) => this.#run(this.#reading, 'readStage', { root, id, port }, undefined, [port]));
  }

  /** Writes dropped files as a bundle. @throws GezeitError, WorkCancelled. */
  async writeStaged(root: string, id: string, out: string): Promise<void> {
    await this.#run(this.#reading, 'writeStaged', { root, id, out });
  }

  /** Adds dropped files to the programme that they were dropped on; its id. @throws GezeitError, WorkCancelled. */
  addStaged(root: string, id: string, by: string, onProgress: (progress: StageProgress) => void, signal: AbortSignal): Promise<string> {
    return this.#told(onProgress, (port) => this.#run(this.#reading, 'addStaged', { root, id, by, port }, signal, [port]));
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
    await this.#run(this.#reading, 'rereadLogs', task);
  }

  /** Keeps a file of a day. @throws GezeitError, WorkCancelled. */
  keepFile(task: KeepFileTask): Promise<Tasks['keepFile']['result']> {
    return this.#run(this.#reading, 'keepFile', task);
  }

  /** Computes and keeps the findings of a state. @throws GezeitError, WorkCancelled. */
  analyse(state: ProgrammeState): Promise<Analysed> {
    return this.#run(this.#judging, 'analyse', state);
  }

  /** Computes and keeps the curves of a state. @throws GezeitError, WorkCancelled. */
  curves(state: ProgrammeState): Promise<Curves> {
    return this.#run(this.#drawing, 'curves', state);
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
      return await this.#run(this.#choosing, 'choices', { state, extent }, signal);
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
    return this.#run(this.#judging, 'card', { id, digest });
  }

  /** Holds a claim against a state's pulls. @throws GezeitError, WorkCancelled. */
  claim(state: ProgrammeState, claim: Claim): Promise<ClaimFinding> {
    return this.#run(this.#drawing, 'claim', { state, claim });
  }

  async close(): Promise<void> {
    this.#closed = true;
    await Promise.all([this.#reading.destroy(), this.#judging.destroy(), this.#drawing.destroy(), this.#choosing.destroy()]);
  }

  async #run<N extends TaskName>(
    pool: Piscina,
    name: N,
    task: Tasks[N]['task'],
    signal: AbortSignal | undefined = undefined,
    transferList: MessagePort[] = [],
  ): Promise<Tasks[N]['result']> {
    let result: Tasks[N]['result'] | Refusal;
    try {
      result = (await pool.run(task, { name, signal, transferList })) as Tasks[N]['result'] | Refusal;
    } catch (error) {
      if (signal?.aborted || this.#closed) throw new WorkCancelled('cancelled');
      throw error;
    }
    return unrefused(result);
  }
}

/**
 * The pool first tries to `require` a thread's module and then imports it. Where the two meet in one thread Node ended the whole process, once in some
 * hundred starts on a busy machine: only importing is left to it.
 */
const REQUIRE_MODULE = '--experimental-require-module';
const IMPORT_ONLY = process.allowedNodeEnvironmentFlags.has(REQUIRE_MODULE) ? [REQUIRE_MODULE.replace('--', '--no-')] : [];

function threadOf(database: string, warm = true): Piscina {
  const beside = (file: string) => fileURLToPath(new URL(file, import.meta.url));
  // Beside this file where it is built into one, a folder up where it is not.
  const built = beside('./worker.js');
  const isBuilt = existsSync(built);
  return new Piscina({
    filename: isBuilt ? built : beside('../worker-from-source.mjs'),
    // Warm from the start; run from source, where starting is slow and much is never used, from the first use.
    minThreads: isBuilt && warm ? 1 : 0,
    maxThreads: 1,
    idleTimeout: Infinity,
    // A thread that waits must not hold its event loop: what it has answered is kept after that.
    atomics: 'disabled',
    execArgv: [...process.execArgv, ...IMPORT_ONLY],
    workerData: { database },
  });
}
