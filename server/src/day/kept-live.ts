import { mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { liveHistorySchema, liveTraceSchema, z } from '@gezeit/contract';
import type { LiveChannels } from './live-channels.js';

const KEEP_EVERY_MS = 3000;
const keptSchema = z.object({ course: liveHistorySchema, trace: liveTraceSchema });

/**
 * Keeps what the cell has shown (the course of its temperatures, the last traces) beside the database, so that after a stop of the server
 * the ready moment is known as before. It is of use for an hour: that it is lost with its file costs nobody anything.
 */
export class KeptLive {
  readonly #path: string;
  #keptAt = 0;

  constructor(
    folder: string,
    programmeId: string,
    readonly live: LiveChannels,
  ) {
    this.#path = join(folder, 'live', `${programmeId}.json`);
  }

  restore(): void {
    try {
      const { course, trace } = keptSchema.parse(JSON.parse(readFileSync(this.#path, 'utf8')));
      this.live.restore(course, trace);
    } catch {
      // Nothing was kept, or half of it: the day begins to remember anew.
    }
  }

  /** Keeps now and then; a file is whole or not there. */
  keep(atOnce = false): void {
    const now = performance.now();
    if (!this.live.hasCourse || (!atOnce && now - this.#keptAt < KEEP_EVERY_MS)) return;
    this.#keptAt = now;
    try {
      mkdirSync(dirname(this.#path), { recursive: true });
      writeFileSync(`${this.#path}.new`, JSON.stringify({ course: this.live.course, trace: this.live.trace }));
      renameSync(`${this.#path}.new`, this.#path);
    } catch {
      // A disk that is full must not end the day; what matters of it is told where the day's list cannot be kept.
    }
  }
}
