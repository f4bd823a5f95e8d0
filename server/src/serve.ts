import { mkdirSync, rmSync } from 'node:fs';
import { createServer, type RequestListener, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { GezeitError } from '@gezeit/core';
import { networkEntrance, networkServer, type NetworkOptions } from './access/network.js';
import pino, { type Logger } from 'pino';
import { Cards } from './board/cards.js';
import { Database } from './database/database.js';
import { lockFolder } from './database/folder-lock.js';
import { finishRestore } from './database/restore.js';
import { DayHub } from './day/day-hub.js';
import { createApp } from './http/app.js';
import type { Services } from './http/route.js';
import { ImportJobs } from './import/import-jobs.js';
import { databaseFile, incomingFolder, stagedFolder } from './paths.js';
import { Staging } from './staging/staging.js';
import { KeptSamples } from './store/kept-samples.js';
import type { Threads } from './work/threads.js';
import { WorkerPools } from './work/worker-pools.js';

const USUAL_PORT = 4780;
/** How long a connection that asks nothing stays open: longer than those who keep one wait before they use it again. */
const KEPT_OPEN_MS = 65_000;
export const LOOPBACK = ['127.0.0.1', 'localhost', '::1'];

export interface ServeOptions {
  folder: string;
  host?: string;
  /** 0 takes any free port. */
  port?: number;
  /** Built pages; null serves the interface alone. */
  pages: string | null;
  version: string;
  log?: Logger;
  /** Answers on a shop's network too, by access keys. */
  network?: NetworkOptions;
  /** Threads that are lent to it and outlive it; its own otherwise. */
  threads?: Threads;
}

export interface Serving {
  address: string;
  /** Where it answers on the shop's network. */
  networkAddress: string | null;
  close(): Promise<void>;
}

/**
 * Starts the server on loopback; where the usual port is taken, on a free one. Where a network is named it answers there as well, by access
 * keys. What fails on the way leaves nothing running.
 * @throws GezeitError `off-loopback`, `folder-in-use`, and what opening the database, the keys and the certificate throws.
 */
export async function serve(options: ServeOptions): Promise<Serving> {
  const { folder, host = '127.0.0.1', port = USUAL_PORT, pages, version, network } = options;
  if (!LOOPBACK.includes(host)) {
    throw new GezeitError(
      'off-loopback',
      `Gezeit does not listen on ${host} without access keys.`,
      'Use 127.0.0.1, or give --access-keys.',
    );
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
    const work = new WorkerPools(file, options.threads);
    open.push(() => work.close());
    const days = new DayHub({ database, work, log });
    open.push(() => days.close());
    const imports = new ImportJobs(work, log);
    open.push(() => imports.close());
    const staging = new Staging(stagedFolder(file), incomingFolder(file), work, imports, log);
    const services: Services = {
      database,
      work,
      imports,
      staging,
      days,
      cards: new Cards(database, work),
      keptSamples: new KeptSamples(),
      log,
      version,
    };
    const entrance = network && networkEntrance(network);
    await days.resume();
    const server = await listen(listenerOf(createApp(services, pages, { from: 'machine' })), host, port);
    open.push(() => closeServer(server));
    const address = addressOf(server, 'http', host);
    let networkAddress: string | null = null;
    if (network && entrance) {
      const networked = await networkServer(network, listenerOf(createApp(services, pages, entrance)));
      await listenOn(networked, network.host, network.port);
      open.push(() => closeServer(networked));
      networkAddress = addressOf(networked, entrance.plain ? 'http' : 'https', network.host);
    }
    lock.tell(address);
    log.info({ address, networkAddress, folder }, 'listening');
    return {
      address,
      networkAddress,
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

const listenerOf = (app: ReturnType<typeof createApp>): RequestListener => {
  const handler = app.callback();
  return (request, response) => void handler(request, response);
};

function addressOf(server: Server, scheme: string, host: string): string {
  const { port } = server.address() as AddressInfo;
  return `${scheme}://${host.includes(':') ? `[${host}]` : host}:${port}/`;
}

function closeServer(server: Server): Promise<unknown> {
  const closed = new Promise((resolve) => server.close(resolve));
  server.closeAllConnections();
  return closed;
}

/** @throws GezeitError `address-not-here` where the machine has no such address, `address-taken`. */
function listenOn(server: Server, host: string, port: number): Promise<void> {
  server.keepAliveTimeout = KEPT_OPEN_MS;
  return new Promise((resolve, reject) => {
    server.once('error', ({ code }: NodeJS.ErrnoException) =>
      reject(
        code === 'EADDRINUSE'
          ? new GezeitError('address-taken', `Something else answers at ${host}, port ${port}.`, 'Choose another port: --port N.')
          : new GezeitError('address-not-here', `This machine cannot answer at ${host}.`, 'Give --host an address of its own.'),
      ),
    );
    server.listen(port, host, resolve);
  });
}

async function listen(handler: RequestListener, host: string, port: number): Promise<Server> {
  const attempt = async (wanted: number) => {
    const server = createServer(handler);
    await listenOn(server, host, wanted);
    return server;
  };
  try {
    return await attempt(port);
  } catch (error) {
    if ((error as GezeitError).code !== 'address-taken') throw error;
    return attempt(0);
  }
}
