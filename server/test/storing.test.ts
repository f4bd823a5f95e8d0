import { once } from 'node:events';
import { spawn } from 'node:child_process';
import { copyFileSync, existsSync, mkdirSync, readdirSync, readFileSync, renameSync, truncateSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import Sqlite from 'better-sqlite3';
import { afterEach, describe, expect, it } from 'vitest';
import { Vehicle } from '../src/database/entities.js';
import { Database } from '../src/database/database.js';
import { lockFolder } from '../src/database/folder-lock.js';
import { finishRestore, restoreDatabase } from '../src/database/restore.js';
import { temporaryFolder } from './support.js';

const FIXTURES = fileURLToPath(new URL('./fixtures', import.meta.url));
const car = (id: string) => ({ id, name: `car ${id}`, body: '{}' });
const carsIn = (file: string) => {
  const database = new Sqlite(file, { readonly: true });
  const ids = (database.prepare('SELECT id FROM vehicle ORDER BY id').all() as { id: string }[]).map(({ id }) => id);
  database.close();
  return ids;
};

describe('a change', () => {
  const open: Database[] = [];
  const opened = async (folder = temporaryFolder()) => {
    const database = await Database.open(join(folder, 'gezeit.sqlite'));
    open.push(database);
    return database;
  };
  afterEach(async () => {
    for (const database of open.splice(0)) await database.close();
  });

  it('is committed when it is answered, and is nowhere to be seen before', async () => {
    const database = await opened();
    await database.write(async (manager) => {
      await manager.insert(Vehicle, car('a'));
      expect(await database.manager.count(Vehicle)).toBe(0);
    });
    expect(carsIn(database.file)).toEqual(['a']);
  });

  it('leaves nothing where it throws, and nothing open', async () => {
    const database = await opened();
    const failing = database.write(async (manager) => {
      await manager.insert(Vehicle, car('a'));
      throw new Error('on the way');
    });
    await expect(failing).rejects.toThrow('on the way');
    await database.write((manager) => manager.insert(Vehicle, car('b')));
    expect(carsIn(database.file)).toEqual(['b']);
  });

  it('cannot be made beside a transaction', async () => {
    const database = await opened();
    await expect(database.manager.insert(Vehicle, car('a'))).rejects.toThrow(/readonly/);
  });

  it('is refused where the disk is full, is stored once there is room again, and what was acknowledged stays', async () => {
    const folder = temporaryFolder();
    const database = await opened(folder);
    await database.write((manager) => manager.insert(Vehicle, car('a')));
    // A database that may not grow fails as a full disk does: SQLite rolls back by itself in the middle.
    const limit = async (pages: number) =>
      database.write((manager) => manager.query(`PRAGMA max_page_count = ${pages}`)).catch(() => undefined);
    for (let round = 0; round < 3; round++) {
      await limit(1);
      const large = (id: string) => ({ id, name: id, body: 'x'.repeat(3_000_000) });
      const twoMore = database.write(async (manager) => {
        await manager.insert(Vehicle, large(`x${round}`));
        await manager.insert(Vehicle, large(`y${round}`));
      });
      await expect(twoMore).rejects.toMatchObject({ code: 'disk-full', nature: 'no-room' });
      const started = Date.now();
      await database.write((manager) => manager.insert(Vehicle, car(`b${round}`)));
      expect(Date.now() - started).toBeLessThan(1000);
    }
    expect(carsIn(database.file)).toEqual(['a', 'b0', 'b1', 'b2']);
  });

  it('that went on after SQLite had rolled back by itself is not acknowledged', async () => {
    const database = await opened();
    const swallowing = database.write(async (manager) => {
      await manager.insert(Vehicle, car('a'));
      await manager.query('ROLLBACK');
      await manager.query('SELECT 1');
    });
    await expect(swallowing).rejects.toMatchObject({ code: 'not-stored' });
    expect(carsIn(database.file)).toEqual([]);
  });

  it('waits for another connection’s without holding the thread', async () => {
    const here = await opened();
    const other = new Sqlite(here.file);
    other.exec('BEGIN IMMEDIATE');
    let ticks = 0;
    const ticking = setInterval(() => (ticks += 1), 20);
    const waiting = here.write((manager) => manager.insert(Vehicle, car('a')));
    await new Promise((resolve) => setTimeout(resolve, 800));
    other.exec('COMMIT');
    other.close();
    await waiting;
    clearInterval(ticking);
    expect(ticks).toBeGreaterThan(3);
    expect(carsIn(here.file)).toEqual(['a']);
  });
});

describe('data of a newer Gezeit', () => {
  it('is refused and left as it is', async () => {
    const file = join(temporaryFolder(), 'gezeit.sqlite');
    await (await Database.open(file)).close();
    const database = new Sqlite(file);
    database.exec(`INSERT INTO migrations (timestamp, name) VALUES (9999999999999, 'FromTheFuture9999999999999')`);
    database.close();
    await expect(Database.open(file)).rejects.toMatchObject({ code: 'newer-data' });
  });
});

describe('a data folder', () => {
  it('is held by one process, and is free again when that is killed', async () => {
    const folder = temporaryFolder();
    const script = `const S = require('better-sqlite3'); const d = new S(process.argv[1]); d.exec('BEGIN EXCLUSIVE'); console.log('held'); setInterval(() => 0, 1000)`;
    const holder = spawn(process.execPath, ['-e', script, join(folder, 'lock.sqlite')], {
      cwd: fileURLToPath(new URL('..', import.meta.url)),
    });
    await once(holder.stdout, 'data');
    expect(() => lockFolder(folder)).toThrow(/Another Gezeit/);
    holder.kill('SIGKILL');
    await once(holder, 'exit');
    lockFolder(folder).release();
  });
});

describe('a restore', () => {
  const backupOf = async (...ids: string[]) => {
    const folder = temporaryFolder();
    const database = await Database.open(join(folder, 'gezeit.sqlite'));
    for (const id of ids) await database.write((manager) => manager.insert(Vehicle, car(id)));
    const file = join(folder, 'backup.sqlite');
    database.backup(file);
    await database.close();
    return file;
  };
  const dataWith = async (...ids: string[]) => {
    const folder = temporaryFolder();
    const database = await Database.open(join(folder, 'gezeit.sqlite'));
    for (const id of ids) await database.write((manager) => manager.insert(Vehicle, car(id)));
    await database.close();
    return folder;
  };
  const live = (folder: string) => join(folder, 'gezeit.sqlite');

  it('puts a backup in place and keeps what was there', async () => {
    const folder = await dataWith('old');
    const kept = await restoreDatabase(await backupOf('a', 'b'), folder);
    expect(carsIn(live(folder))).toEqual(['a', 'b']);
    expect(carsIn(kept!)).toEqual(['old']);
  });

  it('works where the present database is damaged, empty or gone', async () => {
    for (const damage of [
      (file: string) => writeFileSync(file, 'no database at all'),
      (file: string) => truncateSync(file, 0),
      (file: string) => truncateSync(file, 5000),
      (file: string) => renameSync(file, `${file}.gone`),
    ]) {
      const folder = await dataWith('old');
      damage(live(folder));
      await restoreDatabase(await backupOf('a'), folder);
      expect(carsIn(live(folder))).toEqual(['a']);
      await (await Database.open(live(folder))).close();
    }
  });

  it('refuses what is none, in words, and changes nothing', async () => {
    const folder = await dataWith('old');
    const good = readFileSync(await backupOf('a', 'b', 'c'));
    const made = (name: string, bytes: Uint8Array) => {
      const file = join(temporaryFolder(), name);
      writeFileSync(file, bytes);
      return file;
    };
    const garbled = Buffer.from(good);
    for (let at = 4096; at < garbled.length; at += 512) garbled.fill(at % 251, at, at + 64);
    const foreign = join(temporaryFolder(), 'foreign.sqlite');
    const other = new Sqlite(foreign);
    other.exec(
      `CREATE TABLE migrations (id INTEGER, name TEXT); CREATE TABLE things (x); INSERT INTO migrations VALUES (1, 'SomebodyElse')`,
    );
    other.close();
    const newer = await backupOf('a');
    const future = new Sqlite(newer);
    future.exec(`INSERT INTO migrations (timestamp, name) VALUES (9999999999999, 'FromTheFuture9999999999999')`);
    future.close();
    const cases: [string, string][] = [
      [join(folder, 'nowhere.sqlite'), 'not-found'],
      [made('empty.sqlite', new Uint8Array()), 'no-backup'],
      [made('short.sqlite', good.subarray(0, 40)), 'garbled-backup'],
      [made('text.sqlite', Buffer.from('{ "format": "gezeit-bundle" }')), 'no-backup'],
      [made('garbled.sqlite', garbled), 'garbled-backup'],
      [made('cut.sqlite', good.subarray(0, good.length / 2)), 'garbled-backup'],
      [foreign, 'no-backup'],
      [newer, 'newer-backup'],
    ];
    for (const [file, code] of cases) {
      await expect(restoreDatabase(file, folder), code).rejects.toMatchObject({ code });
      expect(carsIn(live(folder))).toEqual(['old']);
      expect(readdirSync(folder).filter((name) => name.startsWith('restore') || name.startsWith('before'))).toEqual([]);
    }
  });

  it('that was interrupted is finished by the next start, or has changed nothing', async () => {
    const backup = await backupOf('a');
    const halfway = await dataWith('old');
    copyFileSync(backup, join(halfway, 'restore-arriving.sqlite'));
    expect(finishRestore(halfway)).toBeNull();
    expect(carsIn(live(halfway))).toEqual(['old']);
    for (const wal of [false, true]) {
      const ready = await dataWith('old');
      copyFileSync(backup, join(ready, 'restore-ready.sqlite'));
      // What the killed one had begun: the old one's second name, and its log taken away.
      if (wal) writeFileSync(`${live(ready)}-wal`, 'left over');
      const kept = finishRestore(ready);
      expect(carsIn(live(ready))).toEqual(['a']);
      expect(existsSync(kept!)).toBe(true);
      expect(existsSync(`${live(ready)}-wal`)).toBe(false);
    }
  });

  it('opens the backup of every earlier version', async () => {
    for (const name of readdirSync(FIXTURES).filter((file) => file.endsWith('.sqlite'))) {
      const folder = temporaryFolder();
      mkdirSync(folder, { recursive: true });
      await restoreDatabase(join(FIXTURES, name), folder);
      const database = await Database.open(live(folder));
      expect(await database.manager.query('SELECT count(*) AS n FROM programme'), name).toEqual([{ n: 1 }]);
      await database.close();
    }
  });
});
