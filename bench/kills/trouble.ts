import { spawnSync } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync, statfsSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

const SHIM_SOURCE = fileURLToPath(new URL('./failing-disk.c', import.meta.url));
const runs = (program: string, ...args: string[]) => spawnSync(program, args, { stdio: 'ignore' }).status === 0;
const LEFT_BYTES = 40_000;

/** A place for a data folder that can be made to fail: a small file system of its own where one may be mounted, and a shim where one can be built. */
export class Trouble {
  readonly folder = mkdtempSync(join(tmpdir(), 'gezeit-kills-'));
  /** Whether a file system of a limited size could be mounted there. */
  readonly isMounted: boolean;
  readonly #shim = join(tmpdir(), `gezeit-failing-disk-${process.pid}.so`);
  readonly #flag = join(tmpdir(), `gezeit-failing-disk-${process.pid}`);
  readonly hasShim: boolean;

  constructor(megabytes: number) {
    this.isMounted = runs('mount', '-t', 'tmpfs', '-o', `size=${megabytes}m`, 'none', this.folder);
    this.hasShim = runs('cc', '-shared', '-fPIC', '-o', this.#shim, SHIM_SOURCE);
  }

  /** What the server is started with, so that its disk can fail. */
  get env(): Record<string, string> {
    return this.hasShim ? { LD_PRELOAD: this.#shim, GEZEIT_FAILING_DISK: this.#flag } : {};
  }

  /** What cannot be tried here, in words. */
  get skipped(): string[] {
    return [
      ...(this.isMounted ? [] : ['full disk: no file system may be mounted']),
      ...(this.hasShim ? [] : ['read-only disk and failing fsync: there is no C compiler']),
    ];
  }

  /** Fills the disk but for a few kilobytes, or gives the room back. */
  fill(isFull: boolean): void {
    const ballast = join(this.folder, 'ballast');
    rmSync(ballast, { force: true });
    if (!isFull) return;
    const { bavail, bsize } = statfsSync(this.folder);
    try {
      writeFileSync(ballast, Buffer.alloc(Math.max(0, bavail * bsize - LEFT_BYTES)));
    } catch {
      // The server has taken what was left: it is full.
    }
  }

  /** Lets every write, or every fsync, of the server fail, or none. */
  set(what: 'read-only' | 'failing-sync', isOn: boolean): void {
    const flag = `${this.#flag}.${what}`;
    if (isOn) writeFileSync(flag, '');
    else rmSync(flag, { force: true });
  }

  end(): void {
    this.set('read-only', false);
    this.set('failing-sync', false);
    if (this.isMounted) runs('umount', '-l', this.folder);
    rmSync(this.folder, { recursive: true, force: true });
    if (existsSync(this.#shim)) rmSync(this.#shim);
  }
}
