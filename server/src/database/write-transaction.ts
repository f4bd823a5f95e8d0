import type { DataSource, EntityManager } from 'typeorm';

/** The last write of each database: the next one waits for it, since all of them share one connection. */
const lastWrites = new WeakMap<DataSource, Promise<unknown>>();

/**
 * Runs a change in one transaction, one after the other. The lock for writing is taken before anything is read: a transaction that read
 * first would be refused where another thread has written meanwhile, instead of waiting for it.
 */
export function writeTransaction<T>(source: DataSource, work: (manager: EntityManager) => Promise<T>): Promise<T> {
  const before = lastWrites.get(source) ?? Promise.resolve();
  const run = () =>
    source.transaction(async (manager) => {
      await manager.query('UPDATE "programme" SET "version" = "version" WHERE 0');
      return work(manager);
    });
  const done = before.then(run, run);
  lastWrites.set(source, done);
  return done;
}
