import type { DayHappening, DeviceSetting, FileQuestion } from '@gezeit/contract';
import { weatherAt } from '@gezeit/core';
import { devicesOf, matchDevice } from './day-files.js';
import type { OngoingDay } from './ongoing-day.js';

/** Files of one pull come one after the other: they are looked at together. */
const MATCH_AFTER_MS = 350;
/** A file whose sweep began this close to a pull that is known is that pull's. */
const SAME_PULL_MS = 30_000;

/** Matches the files of the day with its pulls whenever there is something new to match. */
export class FileWatch {
  #soon: NodeJS.Timeout | null = null;

  constructor(
    readonly day: OngoingDay,
    readonly settings: () => DeviceSetting[],
    readonly startOf: (atMs: number, cause: 'file') => DayHappening,
  ) {}

  close(): void {
    if (this.#soon) clearTimeout(this.#soon);
  }

  matchSoon(): void {
    this.close();
    this.#soon = setTimeout(() => void this.match(false), MATCH_AFTER_MS);
  }

  /** Looks at the files of all devices anew; `final` where no more are to come. */
  async match(final: boolean): Promise<void> {
    for (const device of devicesOf(this.day.state)) {
      const { matched, question } = matchDevice(this.day.state, device, final);
      if (matched) await this.day.happen(matched);
      else if (question) await this.#fromFileAlone(question);
    }
    this.day.changed();
  }

  /** Pulls whose air nobody knows take it from a file of the weather; what somebody has read stays. */
  async giveWeather(taken: Extract<DayHappening, { kind: 'file-taken' }>): Promise<void> {
    for (const { id, startedMs, begun } of [...this.day.state.pulls]) {
      const air = begun.weather?.temperatureC == null && begun.weather?.pressureKPa == null ? weatherAt(taken, startedMs) : null;
      if (air) await this.day.happen({ kind: 'pull-amended', pull: id, weather: air });
    }
  }

  questions(final: boolean): FileQuestion[] {
    return devicesOf(this.day.state).flatMap((device) => matchDevice(this.day.state, device, final).question ?? []);
  }

  /** Where nothing streams, a fresh file is what begins and ends a pull. */
  async #fromFileAlone({ device, files }: FileQuestion): Promise<void> {
    const { state } = this.day;
    const kinds = this.settings().map(({ kind }) => kind);
    const onlyFolders = kinds.length > 0 && kinds.every((kind) => kind === 'folder');
    if (!onlyFolders || state.away || state.running || state.swapping || state.endedMs !== null) return;
    const newest = state.files.at(-1);
    const alone = files.filter(({ pull }) => pull === null);
    if (newest?.device !== device || alone.length !== 1 || alone[0]!.file !== newest.file || newest.sweepsAtS.length !== 1) return;
    const startedMs = newest.atMs - 1000 * (newest.lengthS - newest.sweepsAtS[0]!);
    if (state.pulls.some((pull) => pull.startedMs >= startedMs - SAME_PULL_MS)) return;
    await this.day.happen(this.startOf(startedMs, 'file'), startedMs);
  }
}
