import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

const MAIN = fileURLToPath(new URL('../../dist/server/main.js', import.meta.url));
const READY = /Gezeit is ready: (\S+)/;
const STARTS_WITHIN_MS = 30_000;

/** A built server in a process of its own, to be killed. */
export class ServerProcess {
  said = '';
  #child!: ChildProcess;

  constructor(
    readonly folder: string,
    readonly env: Record<string, string> = {},
  ) {}

  /** Starts it; resolves to its address and how long that took, ms. Throws with what it said where it does not come. */
  async start(): Promise<{ address: string; tookMs: number }> {
    const began = performance.now();
    const child = spawn(process.execPath, [MAIN, 'serve', '--port', '0'], {
      env: { ...process.env, GEZEIT_DATA: this.folder, GEZEIT_LOG: 'warn', ...this.env },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    this.#child = child;
    return new Promise((resolve, reject) => {
      const timer = setTimeout(() => reject(new Error(`it did not start: ${this.said}`)), STARTS_WITHIN_MS);
      const hear = (chunk: Buffer) => {
        this.said += chunk.toString();
        const address = READY.exec(this.said)?.[1];
        if (!address) return;
        clearTimeout(timer);
        resolve({ address, tookMs: performance.now() - began });
      };
      child.stdout.on('data', hear);
      child.stderr.on('data', hear);
      child.once('exit', () => {
        clearTimeout(timer);
        reject(new Error(`it ended while starting: ${this.said}`));
      });
    });
  }

  /** Whether it ended by itself: nothing that is sent to it may do that. */
  get hasEnded(): boolean {
    return this.#child.exitCode !== null || this.#child.signalCode !== null;
  }

  /** The most memory that it has taken so far, MB. */
  get peakMB(): number {
    const kB = /VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${this.#child.pid}/status`, 'utf8'))?.[1];
    return Number(kB) / 1024;
  }

  async kill(): Promise<void> {
    if (this.hasEnded) return;
    const gone = once(this.#child, 'exit');
    this.#child.kill('SIGKILL');
    await gone;
  }
}

/** Runs a command of Gezeit on a data folder; killed after a while where that is said. */
export function command(folder: string, args: string[], killAfterMs?: number): { status: number | null; said: string } {
  const { status, stdout, stderr } = spawnSync(process.execPath, [MAIN, ...args], {
    env: { ...process.env, GEZEIT_DATA: folder },
    encoding: 'utf8',
    timeout: killAfterMs,
    killSignal: 'SIGKILL',
  });
  return { status, said: `${stdout}${stderr}` };
}
