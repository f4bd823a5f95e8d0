import { copyFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { boardSchema, programmeChangedSchema, programmeViewSchema } from '@gezeit/contract';
import Sqlite from 'better-sqlite3';
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

it('an edit from before its part stood by itself says what it was, and is taken back', async () => {
  const folder = temporaryFolder();
  const file = join(folder, 'gezeit.sqlite');
  copyFileSync(join(FIXTURES, '0007-indices.sqlite'), file);
  const old = new Sqlite(file);
  const row = old.prepare('SELECT "id", "body" FROM "programme"').get() as { id: string; body: string };
  const body = JSON.parse(row.body) as { programme: { title: string } };
  const after = { ...body.programme, title: 'Called otherwise' };
  old.prepare('UPDATE "programme" SET "body" = ?, "title" = ?').run(JSON.stringify({ ...body, programme: after }), after.title);
  old
    .prepare(
      'INSERT INTO "change" ("programmeId", "at", "by", "kind", "subject", "before", "after", "undone") VALUES (?, ?, ?, ?, ?, ?, ?, 0)',
    )
    .run(
      row.id,
      '2026-03-04T10:00:00Z',
      'TS',
      'edit',
      'programme: title: a new one',
      JSON.stringify(body.programme),
      JSON.stringify(after),
    );
  old.close();
  const server = await startServer(folder);
  const address = `${server.address}api/programmes/${row.id}`;
  const now = programmeViewSchema.parse(await (await fetch(address)).json());
  expect([now.bundle.programme.title, now.changes[0]!.subject]).toEqual(['Called otherwise', 'title: a new one']);
  const undone = await fetch(`${address}/undo`, { method: 'POST', headers: { 'x-gezeit-person': 'TS%20Test' } });
  expect(programmeChangedSchema.parse(await undone.json()).bundle.programme.title).toBe(body.programme.title);
  await server.close();
});
