import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';

/**
 * Three threads that are kept warm: one reads and stores, one after the other, so that the same file handed in twice meets itself; one judges,
 * and one makes curves, for which no sentence waits. A fourth, started when it is first needed, tries other choices. None belongs to a database:
 * each opens what its tasks name, and lets it go when it is told to.
 */
export interface Threads {
  reading: Piscina;
  judging: Piscina;
  drawing: Piscina;
  choosing: Piscina;
}

/** @param database the one that is opened while nothing is asked for yet. */
export function startThreads(database: string | null = null): Threads {
  return { reading: thread(database), judging: thread(database), drawing: thread(database), choosing: thread(database, false) };
}

/**
 * The pool first tries to `require` a thread's module and then imports it. Where the two meet in one thread Node ended the whole process, once in some
 * hundred starts on a busy machine: only importing is left to it.
 */
const REQUIRE_MODULE = '--experimental-require-module';
const IMPORT_ONLY = process.allowedNodeEnvironmentFlags.has(REQUIRE_MODULE) ? [REQUIRE_MODULE.replace('--', '--no-')] : [];

function thread(database: string | null, warm = true): Piscina {
  const beside = (file: string) => fileURLToPath(new URL(file, import.meta.url));
  // Beside this file where it is built into one, a folder up where it is not.
  const built = beside('./worker.js');
  const isBuilt = existsSync(built);
  return new Piscina({
    filename: isBuilt ? built : beside('../worker-from-source.mjs'),
    // Warm from the start; run from source, where starting is slow and much is never used, from the first use.
    minThreads: isBuilt && warm ? 1 : 0,
    maxThreads: 1,
    idleTimeout: Infinity,
    // A thread that waits must not hold its event loop: what it has answered is kept after that.
    atomics: 'disabled',
    // Not what the process was started with: a loader of sources has nothing to do in what is bundled.
    execArgv: IMPORT_ONLY,
    workerData: { database },
  });
}
