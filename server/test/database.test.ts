import { copyFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { boardSchema, programmeViewSchema } from '@gezeit/contract';
import type { EntityManager } from 'typeorm';
import { Database } from '../src/database/database.js';
import { MIGRATIONS } from '../src/database/migrations/index.js';
import { startServer, temporaryFolder } from './support.js';

const FIXTURES = fileURLToPath(new URL('./fixtures', import.meta.url));

describe('the database', () => {
  it('has exactly the tables that the entities describe', async () => {
    const database = await Database.open(join(temporaryFolder(), 'x.sqlite'));
    expect((await database.reading.driver.createSchemaBuilder().log()).upQueries.map(({ query }) => query)).toEqual([]);
    await database.close();
  });

  it('runs with WAL, foreign keys and full durability, on both connections', async () => {
    const database = await Database.open(join(temporaryFolder(), 'x.sqlite'));
    const durable = async (manager: EntityManager) => {
      const pragma = async (name: string) => Object.values((await manager.query<Record<string, unknown>[]>(`PRAGMA ${name}`))[0]!)[0];
      expect(await pragma('journal_mode')).toBe('wal');
      expect(await pragma('foreign_keys')).toBe(1);
      expect(await pragma('synchronous')).toBe(2);
    };
    await durable(database.manager);
    await database.write(durable);
    await database.close();
  });

  it('has a fixture made by every migration', () => {
    expect(readdirSync(FIXTURES).filter((name) => name.endsWith('.sqlite')).length).toBe(MIGRATIONS.length);
  });
});

describe.each(readdirSync(FIXTURES).filter((name) => name.endsWith('.sqlite')))('a database made by %s', (name) => {
  let server: Awaited<ReturnType<typeof startServer>>;
  beforeAll(async () => {
    const folder = temporaryFolder();
    copyFileSync(join(FIXTURES, name), join(folder, 'gezeit.sqlite'));
    server = await startServer(folder);
  });
  afterAll(() => server.close());

  it('opens and still gives its verdict', async () => {
    const board = boardSchema.parse(await (await fetch(`${server.address}api/programmes`)).json());
    expect(board.programmes.length).toBe(1);
    const view = programmeViewSchema.parse(await (await fetch(`${server.address}api/programmes/${board.programmes[0]!.id}`)).json());
    expect(view.findings.comparisons[0]!.levelled).not.toBeNull();
  });
});
