import { randomUUID } from 'node:crypto';
import { renameSync } from 'node:fs';
import { join } from 'node:path';
import { FIRST_SETUPS, type ImportState, type Staged, type StagedDecisions, type StagedList } from '@gezeit/contract';
import { conflict, GezeitError, isTimeZone } from '@gezeit/core';
import type { Logger } from 'pino';
import type { ImportJobs } from '../import/import-jobs.js';
import { StageFiles, type StageRead } from './stage-files.js';

export type StageProgress = { share: number; file: string };

/** Who reads and writes: off the event loop. */
export interface StagingWork {
  readStage(root: string, id: string, onProgress: (progress: StageProgress) => void): Promise<StageRead>;
  addStaged(root: string, id: string, by: string, onProgress: (progress: StageProgress) => void, signal: AbortSignal): Promise<string>;
  writeStaged(root: string, id: string, out: string): Promise<void>;
}

interface Running {
  progress: number;
  detail: string;
  error: Staged['error'];
  busy: boolean;
}

/** What is told with files that are dropped. */
export interface Dropped {
  title: string;
  lastModified: string | null;
  /** The programme to which they are added, with its setups; null where they become one. */
  into: { programmeId: string; setups: StagedDecisions['setups'] } | null;
}

/** What was dropped and is not kept yet: read, shown, decided about, and then kept as a programme or thrown away. */
export class Staging {
  readonly #files: StageFiles;
  readonly #running = new Map<string, Running>();

  constructor(
    root: string,
    readonly incoming: string,
    readonly work: StagingWork,
    readonly imports: ImportJobs,
    readonly log: Logger,
  ) {
    this.#files = new StageFiles(root);
  }

  list(): StagedList {
    const waiting = this.#files.ids().filter((id) => this.#files.stage(id).keptAs === null);
    const staged = waiting.map((id) => {
      const { decisions, receivedAt } = this.#files.stage(id);
      const read = this.#files.read(id);
      return { id, title: decisions.title, receivedAt, files: read?.reading.files.length ?? 0, pulls: read?.reading.pulls.length ?? null };
    });
    return { staged: staged.sort((a, b) => b.receivedAt.localeCompare(a.receivedAt)) };
  }

  /** Takes what was received into a folder, and begins to read it. */
  take(received: string, by: string, { title, lastModified, into }: Dropped): Staged {
    const id = randomUUID();
    const decisions: StagedDecisions = {
      title: title.slice(0, 200) || 'Dropped files',
      timeZone: null,
      dateOrder: null,
      day: lastModified?.slice(0, 10) ?? null,
      firstAt: null,
      weather: null,
      setups: into?.setups ?? FIRST_SETUPS,
      pulls: {},
      places: {},
      channels: null,
    };
    this.#files.keepStage(id, {
      receivedAt: new Date().toISOString(),
      by,
      lastModified,
      keptAs: null,
      into: into?.programmeId ?? null,
      decisions,
    });
    renameSync(received, this.#files.files(id));
    this.#read(id);
    return this.state(id);
  }

  /** @throws GezeitError `not-found`. */
  state(id: string): Staged {
    const { receivedAt, by, lastModified, keptAs, decisions } = this.#files.stage(id);
    const read = this.#files.read(id);
    // Nothing of it was read, and nobody is at it: the server was ended in between.
    if (!read && !this.#running.get(id)) this.#read(id);
    const running = this.#running.get(id);
    const state = running?.busy ? 'reading' : running?.error ? 'failed' : 'ready';
    return {
      id,
      state,
      progress: running?.progress ?? 1,
      detail: running?.detail ?? '',
      error: running?.error ?? null,
      receivedAt,
      by,
      keptAs,
      into: read?.standing ?? null,
      files: read?.reading.files.length ?? 0,
      lastModified,
      decisions,
      reading: read?.reading ?? null,
      hints: read?.hints ?? null,
    };
  }

  /** Adds the files to another programme, or to none: what was decided about pulls belongs to where they were going. */
  direct(id: string, into: Dropped['into']): Staged {
    const stage = this.#files.stage(id);
    const decisions = { ...stage.decisions, setups: into?.setups ?? FIRST_SETUPS, pulls: {}, places: {} };
    this.#files.keepStage(id, { ...stage, into: into?.programmeId ?? null, decisions });
    this.#read(id);
    return this.state(id);
  }

  /** Keeps what was decided; where it concerns how files are read, they are read again. @throws GezeitError where a zone is none. */
  decide(id: string, decisions: StagedDecisions): Staged {
    if (decisions.timeZone !== null && !isTimeZone(decisions.timeZone))
      throw new GezeitError('bad-request', `“${decisions.timeZone}” is no time zone.`, 'Give a name such as Europe/Oslo.');
    const stage = this.#files.stage(id);
    const readAnew = (['channels', 'timeZone', 'dateOrder', 'places'] as const).some(
      (key) => JSON.stringify(stage.decisions[key]) !== JSON.stringify(decisions[key]),
    );
    this.#files.keepStage(id, { ...stage, decisions });
    if (readAnew) this.#read(id);
    return this.state(id);
  }

  /** Makes a programme of it; the import that it becomes. @throws GezeitError where it is still read, or holds no pull. */
  async keep(id: string, by: string): Promise<ImportState> {
    const { state, reading } = this.state(id);
    if (state === 'reading') throw conflict('still-reading', 'The files are still being read.', 'Wait until they are.');
    if (!reading || reading.pulls.length === 0)
      throw conflict(
        'no-pulls',
        'No pull was found in the files.',
        'Look at what their columns are taken for: an engine speed may not be known.',
      );
    if (this.#files.stage(id).into !== null) return this.#add(id, by);
    const out = join(this.incoming, randomUUID());
    await this.work.writeStaged(this.#files.root, id, out);
    return this.#keptWhenDone(id, this.imports.start(out, out, by, 'copy'));
  }

  #add(id: string, by: string): ImportState {
    const job = this.imports.startOwn(async (onProgress, signal) => {
      const tell = ({ share, file }: StageProgress) => onProgress({ step: 'reading', share, detail: file });
      const programmeId = await this.work.addStaged(this.#files.root, id, by, tell, signal);
      return { kind: 'imported', programmeId, notes: [] };
    });
    return this.#keptWhenDone(id, job);
  }

  #keptWhenDone(id: string, job: ImportState): ImportState {
    const stop = this.imports.listen(job.id, ({ outcome }) => {
      if (outcome) stop();
      if (outcome?.kind === 'imported') this.#setKept(id, outcome.programmeId);
    });
    return job;
  }

  /** Takes a keep back: what it became is the caller's to archive; the files wait to be sorted again. */
  takeBack(id: string): Staged {
    this.#setKept(id, null);
    return this.state(id);
  }

  #setKept(id: string, keptAs: string | null): void {
    this.#files.keepStage(id, { ...this.#files.stage(id), keptAs });
  }

  throwAway(id: string): void {
    this.#files.stage(id);
    this.#files.remove(id);
    this.#running.delete(id);
  }

  #read(id: string): void {
    const running: Running = { progress: 0, detail: '', error: null, busy: true };
    this.#running.set(id, running);
    this.work
      .readStage(this.#files.root, id, ({ share, file }) => Object.assign(running, { progress: share, detail: file }))
      .then(
        () => Object.assign(running, { busy: false, progress: 1, detail: '' }),
        (error: unknown) => Object.assign(running, { busy: false, error: this.#failure(error) }),
      );
  }

  #failure(error: unknown): NonNullable<Staged['error']> {
    if (error instanceof GezeitError) return { code: error.code, message: error.message, nextStep: error.nextStep };
    this.log.error({ err: error }, 'reading dropped files failed');
    return {
      code: 'internal',
      message: 'Reading stopped unexpectedly.',
      nextStep: 'Throw these files away and drop them again; if it happens again, report it.',
    };
  }
}
