import { mkdirSync, rmSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { GezeitError } from '@gezeit/core';
import pino, { type Logger } from 'pino';
import { Database } from './database/database.js';
import { lockFolder } from './database/folder-lock.js';
import { finishRestore } from './database/restore.js';
import { DayHub } from './day/day-hub.js';
import { createApp } from './http/app.js';
import type { Services } from './http/route.js';
import { ImportJobs } from './import/import-jobs.js';
import { databaseFile, incomingFolder, stagedFolder } from './paths.js';
import { Staging } from './staging/staging.js';
import { WorkerPools } from './work/worker-pools.js';

const USUAL_PORT = 4780;
const LOOPBACK = ['127.0.0.1', 'localhost', '::1'];

export interface ServeOptions {
  folder: string;
  host?: string;
  /** 0 takes any free port. */
  port?: number;
  /** Built pages; null serves the interface alone. */
  pages: string | null;
  version: string;
  log?: Logger;
}

export interface Serving {
  address: string;
  close(): Promise<void>;
}

/**
 * Starts the server on loopback; where the usual port is taken, on a free one. What fails on the way leaves nothing running.
 * @throws GezeitError `off-loopback`, `folder-in-use`, and what opening the database throws.
 */
export async function serve(options: ServeOptions): Promise<Serving> {
  const { folder, host = '127.0.0.1', port = USUAL_PORT, pages, version } = options;
  if (!LOOPBACK.includes(host)) {
    throw new GezeitError('off-loopback', `Gezeit does not listen on ${host}: it has no passwords.`, 'Use 127.0.0.1, localhost or ::1.');
  }
  const log = options.log ?? standardLog();
  mkdirSync(folder, { recursive: true });
  /** What is open so far, and how it is closed: the last one first. */
  const open: (() => unknown)[] = [];
  const closeAll = async () => {
    for (const close of open.splice(0).reverse()) await close();
  };
  try {
    const lock = lockFolder(folder);
    open.push(() => lock.release());
    finishRestore(folder);
    const file = databaseFile(folder);
    const database = await Database.open(file);
    open.push(() => database.close());
    rmSync(incomingFolder(file), { recursive: true, force: true });
    const work = new WorkerPools(file);
    open.push(() => work.close());
    const days = new DayHub({ database, work, log });
    open.push(() => days.close());
    const imports = new ImportJobs(work, log);
    open.push(() => imports.close());
    const staging = new Staging(stagedFolder(file), incomingFolder(file), work, imports, log);
    const services: Services = { database, work, imports, staging, days, log, version };
    const app = createApp(services, pages);
    await days.resume();
    const server = await listen(app.callback(), host, port);
    open.push(() => {
      const closed = new Promise((resolve) => server.close(resolve));
      server.closeAllConnections();
      return closed;
    });
    const { port: taken } = server.address() as AddressInfo;
    const address = `http://${host === '::1' ? '[::1]' : host}:${taken}/`;
    log.info({ address, folder }, 'listening');
    return {
      address,
      async close() {
        await closeAll();
        log.info('stopped');
      },
    };
  } catch (error) {
    await closeAll();
    throw error;
  }
}

/** The log on the standard output; one that cannot be written, as on a full disk, ends nothing. */
function standardLog(): Logger {
  const destination = pino.destination(1);
  destination.on('error', () => undefined);
  return pino({ level: process.env['GEZEIT_LOG'] ?? 'info' }, destination);
}

async function listen(handler: ReturnType<ReturnType<typeof createApp>['callback']>, host: string, port: number): Promise<Server> {
  const { createServer } = await import('node:http');
  const attempt = (wanted: number) =>
    new Promise<Server>((resolve, reject) => {
      const server = createServer((request, response) => void handler(request, response));
      server.once('error', reject);
      server.listen(wanted, host, () => resolve(server));
    });
  try {
    return await attempt(port);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EADDRINUSE') throw error;
    return attempt(0);
  }
}
