import { rmSync, writeFileSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { GezeitError } from '@gezeit/core';
import pino, { type Logger } from 'pino';
import { openDatabase } from './database/open-database.js';
import { createApp } from './http/app.js';
import { DayHub } from './day/day-hub.js';
import { databaseFile, incomingFolder, servingFile } from './paths.js';
import type { Services } from './http/route.js';
import { ImportJobs } from './import/import-jobs.js';
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

/** Starts the server on loopback; where the usual port is taken, on a free one. @throws GezeitError `off-loopback`. */
export async function serve(options: ServeOptions): Promise<Serving> {
  const { folder, host = '127.0.0.1', port = USUAL_PORT, pages, version } = options;
  if (!LOOPBACK.includes(host)) {
    throw new GezeitError('off-loopback', `Gezeit does not listen on ${host}: it has no passwords.`, 'Use 127.0.0.1, localhost or ::1.');
  }
  const log = options.log ?? pino({ level: process.env['GEZEIT_LOG'] ?? 'info' });
  const database = databaseFile(folder);
  const source = await openDatabase(database);
  rmSync(incomingFolder(database), { recursive: true, force: true });
  const work = new WorkerPools(database);
  const imports = new ImportJobs(work, log);
  const days = new DayHub({ source, work, log });
  const services: Services = { source, work, imports, days, log, version };
  const app = createApp(services, pages);
  await days.resume();
  const server = await listen(app.callback(), host, port);
  const { port: taken } = server.address() as AddressInfo;
  const address = `http://${host === '::1' ? '[::1]' : host}:${taken}/`;
  writeFileSync(servingFile(folder), JSON.stringify({ pid: process.pid, address }));
  log.info({ address, folder }, 'listening');
  return {
    address,
    async close() {
      const closed = new Promise((resolve) => server.close(resolve));
      imports.close();
      await days.close();
      await work.close();
      server.closeAllConnections();
      await closed;
      await source.destroy();
      rmSync(servingFile(folder), { force: true });
      log.info('stopped');
    },
  };
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
