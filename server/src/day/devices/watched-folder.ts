import { readdir, readFile, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { DeviceSetting } from '@gezeit/contract';
import { GezeitError } from '@gezeit/core';
import { WorkCancelled } from '../../work-cancelled.js';
import type { Device, DeviceSink } from '../device.js';

type FolderSetting = Extract<DeviceSetting, { kind: 'folder' }>;

const LOOK_EVERY_MS = 300;
/** Looks at which size and time must be the same: then the file is complete. */
const STILL_LOOKS = 2;
const UNFINISHED = /^\.|\.(tmp|part|partial|crdownload)$/i;

/** A logger's export folder: new files are taken once they no longer grow. Nothing in it is changed. */
export class WatchedFolder implements Device {
  /** Name to size and time of what is taken or passed over. */
  readonly #known: Map<string, string>;
  readonly #seen = new Map<string, { mark: string; looks: number }>();
  /** What is wrong with files that were not taken, as long as they lie there so. */
  readonly #refused = new Map<string, { mark: string; why: string }>();
  #timer: NodeJS.Timeout | null = null;
  #stopped = false;
  #first: boolean;

  constructor(
    readonly setting: FolderSetting,
    readonly sink: DeviceSink,
    memory: unknown,
  ) {
    const known = (memory as { known?: [string, string][] } | null)?.known;
    this.#known = new Map(known ?? []);
    this.#first = known === undefined && !setting.takeExisting;
  }

  async start(): Promise<void> {
    await this.#look();
    const again = () => {
      if (this.#stopped) return;
      this.#timer = setTimeout(() => void this.#look().finally(again), LOOK_EVERY_MS);
    };
    again();
  }

  stop(): Promise<void> {
    this.#stopped = true;
    if (this.#timer) clearTimeout(this.#timer);
    return Promise.resolve();
  }

  async #look(): Promise<void> {
    let names: string[];
    try {
      const entries = await readdir(this.setting.path, { withFileTypes: true });
      names = entries.filter((entry) => entry.isFile() && !UNFINISHED.test(entry.name)).map(({ name }) => name);
    } catch {
      return this.sink.state('failed', `The folder ${this.setting.path} cannot be read. Check that it is there and may be read.`);
    }
    for (const name of this.#refused.keys()) if (!names.includes(name)) this.#refused.delete(name);
    const refused = [...this.#refused].map(([name, { why }]) => `; not taken: ${name}: ${why}`);
    this.sink.state('listening', `${names.length} files in ${this.setting.path}${refused.join('')}`);
    const passOver = this.#first;
    this.#first = false;
    for (const name of names.sort()) {
      if (this.#stopped) return;
      const info = await stat(join(this.setting.path, name)).catch(() => null);
      if (!info) continue;
      const mark = `${info.size}-${Math.round(info.mtimeMs)}`;
      if (passOver) {
        this.#known.set(name, mark);
        continue;
      }
      if (this.#known.get(name) === mark || info.size === 0) continue;
      const before = this.#seen.get(name);
      const looks = before?.mark === mark ? before.looks + 1 : 1;
      this.#seen.set(name, { mark, looks });
      if (looks < STILL_LOOKS) continue;
      await this.#take(name, info.mtimeMs, mark);
    }
    if (passOver) this.#remember();
  }

  async #take(name: string, madeAtMs: number, mark: string): Promise<void> {
    try {
      await this.sink.file({ name, bytes: await readFile(join(this.setting.path, name)), madeAtMs });
    } catch (error) {
      // The server was stopping, or something else was in the way: it is looked at again, and taken then.
      if (!(error instanceof GezeitError)) {
        this.#seen.delete(name);
        if (!(error instanceof WorkCancelled)) this.sink.state('failed', `${name} could not be kept yet; it is tried again.`);
        return;
      }
      // It stays in its folder; a new version of it is tried again.
      this.#refused.set(name, { mark, why: error.message });
    }
    if (this.#refused.get(name)?.mark !== mark) this.#refused.delete(name);
    this.#known.set(name, mark);
    this.#seen.delete(name);
    this.#remember();
  }

  #remember(): void {
    this.sink.remember({ known: [...this.#known] });
  }
}
