import { randomUUID } from 'node:crypto';
import { EventEmitter } from 'node:events';
import { rm } from 'node:fs/promises';
import type { ImportState } from '@gezeit/contract';
import { conflict, GezeitError, missing } from '@gezeit/core';
import type { Logger } from 'pino';
import { WorkCancelled } from '../work-cancelled.js';
import type { ImportChoice, ImportOutcome } from './import-bundle.js';

/** Share of the whole import that is done when a step begins, and that the step itself takes. */
const STEP_SHARES: Record<ImportState['step'], [from: number, width: number]> = {
  receiving: [0, 0.05],
  unpacking: [0.05, 0.1],
  reading: [0.15, 0.45],
  judging: [0.6, 0.2],
  storing: [0.8, 0.2],
  done: [1, 0],
};
const KEPT_AFTER_END_MS = 60 * 60 * 1000;

/** What is imported: what was received, by whom, and the choice where one was needed. */
export interface ImportOrder {
  path: string;
  by: string;
  choice: ImportChoice;
}

/** How far an import has come. */
export interface ImportProgress {
  step: ImportState['step'];
  share: number;
  detail: string;
}

/** Who imports: off the event loop, telling how far it is; aborting stops it. */
export interface ImportWork {
  import(order: ImportOrder, onProgress: (progress: ImportProgress) => void, signal: AbortSignal): Promise<ImportOutcome>;
}

/** What is done instead of importing a bundle. */
export type OwnWork = (onProgress: (progress: ImportProgress) => void, signal: AbortSignal) => Promise<ImportOutcome>;

interface Job {
  state: ImportState;
  folder: string | null;
  work: (choice: ImportChoice, onProgress: (progress: ImportProgress) => void) => Promise<ImportOutcome>;
  stop: AbortController;
}

/** Imports under way and just ended: their progress, choices and cancelling. */
export class ImportJobs {
  readonly #jobs = new Map<string, Job>();
  readonly #events = new EventEmitter().setMaxListeners(0);
  readonly #timers = new Set<NodeJS.Timeout>();

  constructor(
    readonly work: ImportWork,
    readonly log: Logger,
  ) {}

  /** Starts the import of what was received into a folder; `path` is the bundle in it. */
  start(folder: string, path: string, by: string, choice: ImportChoice): ImportState {
    const stop = new AbortController();
    const work: Job['work'] = (chosen, onProgress) => this.work.import({ path, by, choice: chosen }, onProgress, stop.signal);
    return this.#start({ folder, stop, work }, choice);
  }

  /** Starts other work that is followed and cancelled like an import. */
  startOwn(work: OwnWork): ImportState {
    const stop = new AbortController();
    return this.#start({ folder: null, stop, work: (_, onProgress) => work(onProgress, stop.signal) }, null);
  }

  #start(job: Omit<Job, 'state'>, choice: ImportChoice): ImportState {
    const state: ImportState = { id: randomUUID(), step: 'receiving', progress: 0.05, detail: 'received', outcome: null };
    const started: Job = { ...job, state };
    this.#jobs.set(state.id, started);
    this.#run(started, choice);
    return started.state;
  }

  /** @throws GezeitError `not-found`. */
  state(id: string): ImportState {
    return this.#job(id).state;
  }

  /** Goes on with an import that waits for a choice. @throws GezeitError `no-choice-needed`. */
  choose(id: string, choice: ImportChoice): ImportState {
    const job = this.#job(id);
    if (job.state.outcome?.kind !== 'needs-choice') {
      throw conflict('no-choice-needed', 'This import does not wait for a choice.', 'Import the bundle again.');
    }
    this.#set(job, { outcome: null, step: 'receiving', progress: 0.05 });
    this.#run(job, choice);
    return job.state;
  }

  /** Stops an import; what it had not finished is not stored. */
  cancel(id: string): ImportState {
    const job = this.#job(id);
    if (job.state.outcome?.kind === 'needs-choice') this.#end(job, { kind: 'cancelled' });
    else if (!job.state.outcome) job.stop.abort();
    return job.state;
  }

  /** Calls back with every new state until the end; returns how to stop listening. */
  listen(id: string, listener: (state: ImportState) => void): () => void {
    this.#events.on(id, listener);
    return () => this.#events.off(id, listener);
  }

  close(): void {
    for (const timer of this.#timers) clearTimeout(timer);
  }

  #job(id: string): Job {
    const job = this.#jobs.get(id);
    if (job) return job;
    throw missing('There is no such import.', 'It may have ended an hour ago or more: look on the board.');
  }

  #run(job: Job, choice: ImportChoice): void {
    const onProgress = ({ step, share, detail }: ImportProgress) => {
      const [from, width] = STEP_SHARES[step];
      if (!job.state.outcome) this.#set(job, { step, progress: from + share * width, detail });
    };
    job.work(choice, onProgress).then(
      (outcome) => {
        if (outcome.kind === 'needs-choice') this.#set(job, { outcome });
        else this.#end(job, outcome);
      },
      (error: unknown) => this.#end(job, this.#failure(error)),
    );
  }

  #failure(error: unknown): NonNullable<ImportState['outcome']> {
    if (error instanceof WorkCancelled) return { kind: 'cancelled' };
    if (error instanceof GezeitError) {
      const { code, message, nextStep, place } = error;
      return { kind: 'failed', error: { code, message, nextStep, place } };
    }
    this.log.error({ err: error }, 'import failed');
    const nextStep = 'Nothing was stored. Try again; if it happens again, keep the bundle and report it.';
    return { kind: 'failed', error: { code: 'internal', message: 'The import stopped unexpectedly.', nextStep, place: {} } };
  }

  #end(job: Job, outcome: NonNullable<ImportState['outcome']>): void {
    this.#set(job, { step: 'done', progress: 1, detail: '', outcome });
    if (job.folder !== null) void rm(job.folder, { recursive: true, force: true });
    const timer = setTimeout(() => {
      this.#jobs.delete(job.state.id);
      this.#timers.delete(timer);
    }, KEPT_AFTER_END_MS);
    timer.unref();
    this.#timers.add(timer);
  }

  #set(job: Job, change: Partial<ImportState>): void {
    job.state = { ...job.state, ...change };
    this.#events.emit(job.state.id, job.state);
  }
}
