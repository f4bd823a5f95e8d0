import { renameSync, rmSync } from 'node:fs';
import { dirname } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { GezeitError } from '@gezeit/core';
import Sqlite from 'better-sqlite3';
import { DataSource, type EntityManager } from 'typeorm';
import { ENTITIES } from './entities.js';
import { MIGRATIONS } from './migrations/index.js';
import { storageFailure } from './storage-failure.js';
import { syncFile } from './sync-file.js';

/** How long a write waits for another thread's or process's, ms, and how often it looks. Assumptions. */
const WAITS_MS = 30_000;
const LOOKS_EVERY_MS = 15;
/** How long a single statement may hold the thread that waits for a lock, ms. */
const BLOCKS_MS = 100;

/**
 * The database of a data folder. Reading and writing have a connection each: what is read is what was committed, and nothing can be written
 * but in a transaction.
 */
export class Database {
  /** The transaction under way: the next one waits for it. */
  #last: Promise<unknown> = Promise.resolve();

  private constructor(
    readonly file: string,
    readonly reading: DataSource,
    private writing: DataSource,
  ) {}

  /**
   * Opens a database file, brought to the newest migration: WAL, foreign keys, full durability on commit.
   * @throws GezeitError `newer-data` where a newer Gezeit has written it, `damaged`, `disk-full`, `read-only`.
   */
  static async open(file: string): Promise<Database> {
    try {
      const writing = await connect(file, false);
      await refuseNewer(writing);
      await writing.runMigrations();
      return new Database(file, await connect(file, true), writing);
    } catch (error) {
      throw storageFailure(error) ?? error;
    }
  }

  /** For reading alone. */
  get manager(): EntityManager {
    return this.reading.manager;
  }

  /**
   * Runs a change in one transaction, one after the other, and resolves once it is committed. The lock for writing is taken before anything
   * is read. Whatever fails leaves nothing of it, and no transaction open: the connection is thrown away where that is in doubt.
   * @throws GezeitError `disk-full`, `read-only`, `disk-failure`, `busy`, `damaged`, and what the change itself throws.
   */
  write<T>(work: (manager: EntityManager) => Promise<T>): Promise<T> {
    const run = () => this.#transaction(work);
    const done = this.#last.then(run, run);
    this.#last = done;
    return done;
  }

  /** Writes everything into one new file, as it stands at one moment; the file has its name once it is whole and on the disk. */
  backup(file: string): void {
    const part = `${file}.part`;
    rmSync(part, { force: true });
    const database = new Sqlite(this.file);
    try {
      database.prepare('VACUUM INTO ?').run(part);
      syncFile(part);
      renameSync(part, file);
      syncFile(dirname(file));
    } finally {
      database.close();
      rmSync(part, { force: true });
    }
  }

  /** Whether a file is a database of Gezeit that holds together; it is not changed. */
  static check(file: string): 'good' | 'garbled' | 'foreign' {
    const database = new Sqlite(file, { readonly: true });
    try {
      const tables = new Set(
        (database.prepare(`SELECT name FROM sqlite_master WHERE type = 'table'`).all() as { name: string }[]).map(({ name }) => name),
      );
      const first = tables.has('migrations')
        ? (database.prepare('SELECT name FROM migrations ORDER BY id').get() as { name: string } | undefined)
        : undefined;
      if (first?.name !== MIGRATIONS[0]!.name) return 'foreign';
      const told = database.pragma('integrity_check', { simple: true });
      return told === 'ok' && (database.pragma('foreign_key_check') as unknown[]).length === 0 ? 'good' : 'garbled';
    } catch (error) {
      if (storageFailure(error)?.code === 'damaged') return 'garbled';
      throw error;
    } finally {
      database.close();
    }
  }

  async close(): Promise<void> {
    await this.#last.catch(() => {});
    await this.writing.destroy();
    await this.reading.destroy();
  }

  async #transaction<T>(work: (manager: EntityManager) => Promise<T>): Promise<T> {
    try {
      await this.#begin();
      const result = await work(this.writing.manager);
      // Where the disk fails, SQLite may have rolled back by itself: what came after it was no transaction any more.
      if (!this.#raw.inTransaction) throw lost();
      this.#raw.exec('COMMIT');
      if (this.#raw.inTransaction) throw lost();
      return result;
    } catch (error) {
      await this.#settle(error);
      throw storageFailure(error) ?? error;
    }
  }

  /** Takes the lock for writing. It waits without holding the thread: another one may be storing something large. */
  async #begin(): Promise<void> {
    const until = Date.now() + WAITS_MS;
    for (;;)
      try {
        this.#raw.exec('BEGIN IMMEDIATE');
        return;
      } catch (error) {
        if (!isBusy(error) || Date.now() > until) throw error;
        await pause(LOOKS_EVERY_MS);
      }
  }

  /** Leaves no transaction open after a failure; a connection of which that is not certain is replaced. */
  async #settle(error: unknown): Promise<void> {
    try {
      if (this.#raw.inTransaction) this.#raw.exec('ROLLBACK');
    } catch {
      // Looked at below.
    }
    const isInDoubt = this.#raw.inTransaction || (storageFailure(error) !== null && !isBusy(error));
    if (!isInDoubt) return;
    const doubtful = this.writing;
    this.writing = await connect(this.file, false);
    await doubtful.destroy().catch(() => {});
  }

  get #raw(): Sqlite.Database {
    return (this.writing.driver as unknown as { databaseConnection: Sqlite.Database }).databaseConnection;
  }
}

async function connect(file: string, isForReading: boolean): Promise<DataSource> {
  const source = new DataSource({
    type: 'better-sqlite3',
    database: file,
    entities: ENTITIES,
    migrations: MIGRATIONS,
    enableWAL: true,
    timeout: BLOCKS_MS,
    prepareDatabase: (database: Sqlite.Database) => {
      database.pragma('foreign_keys = ON');
      database.pragma('synchronous = FULL');
      if (isForReading) database.pragma('query_only = ON');
    },
  });
  return source.initialize();
}

/** A data folder that a newer Gezeit has written is left as it is. */
async function refuseNewer(source: DataSource): Promise<void> {
  const [table] = (await source.query(`SELECT name FROM sqlite_master WHERE type = 'table' AND name = 'migrations'`)) as unknown[];
  if (!table) return;
  const rows = (await source.query('SELECT name FROM migrations')) as { name: string }[];
  const known = new Set(MIGRATIONS.map(({ name }) => name));
  if (rows.every(({ name }) => known.has(name))) return;
  throw new GezeitError(
    'newer-data',
    'This data was written by a newer Gezeit.',
    'Start that version, or put a backup of this one in place: gezeit restore FILE.',
  );
}

const lost = () => new GezeitError('not-stored', 'The database gave the change up: nothing was stored.', 'Do it again.', {}, 'unavailable');

function isBusy(error: unknown): boolean {
  return storageFailure(error)?.code === 'busy';
}
