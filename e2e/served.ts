import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import { ROOT } from './seed.mjs';

export interface Served {
  address: string;
  stop: (signal?: NodeJS.Signals) => Promise<void>;
}

/** Serves a data folder with the built Gezeit, on a free port where none is asked for; resolves to its address and how to stop it. */
export async function served(folder: string, { port = 0 }: { port?: number } = {}): Promise<Served> {
  const server = spawn(process.execPath, [join(ROOT, 'server/bin/gezeit.js'), 'serve', '--port', String(port)], {
    env: { ...process.env, GEZEIT_DATA: folder, GEZEIT_LOG: 'warn' },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const ended = new Promise<void>((resolve) => server.once('exit', () => resolve()));
  for await (const line of createInterface({ input: server.stdout })) {
    const ready = /Gezeit is ready: (\S+)\/$/.exec(line);
    if (ready)
      return {
        address: ready[1]!,
        stop: async (signal = 'SIGTERM') => {
          server.kill(signal);
          await ended;
        },
      };
  }
  throw new Error('the server ended before it was ready');
}
