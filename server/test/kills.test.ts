import { join } from 'node:path';
import Sqlite from 'better-sqlite3';
import { describe, expect, it } from 'vitest';
import { brokenIn, Ledger } from '../../bench/kills/ledger.js';
import { killMigrations } from '../../bench/kills/migrations.js';
import { killRounds, ROUNDS_OF_EVERY_TROUBLE } from '../../bench/kills/rounds.js';
import { DEMO_BUNDLES, filesOf, importAll, startServer } from './support.js';

/** More by hand: `npm run bench:kills`. */
const ROUNDS = ROUNDS_OF_EVERY_TROUBLE;
const MIGRATIONS = 4;
const SEED = 7;

describe('a server that is killed', () => {
  it(
    `loses nothing that it acknowledged, and leaves nothing half, ${ROUNDS} times, in every trouble that a disk makes`,
    { timeout: 300_000 },
    async () => {
      const report = await killRounds(ROUNDS, SEED);
      expect(report.faults).toEqual([]);
      expect(report.acknowledged).toBeGreaterThan(ROUNDS);
      for (const what of report.skipped) console.log(`skipped: ${what}`);
    },
  );

  it('holds what an earlier version has left, whenever its migrating is broken off', { timeout: 120_000 }, async () => {
    const report = await killMigrations(MIGRATIONS, SEED);
    expect(report.faults).toEqual([]);
    expect(report.before).toBeGreaterThan(0);
  });

  it('would be found out: what is lost, half or broken is seen', async () => {
    const server = await startServer();
    const outcome = await importAll(server.address, filesOf(join(DEMO_BUNDLES, 'runners-and-map')));
    await server.close();
    const { programmeId } = outcome as { programmeId: string };
    const database = new Sqlite(join(server.folder, 'gezeit.sqlite'));
    const { pulls } = database.prepare('SELECT count(*) AS pulls FROM pull').get() as { pulls: number };
    const ledger = new Ledger();
    ledger.imported(programmeId, pulls, 1);
    ledger.attached(programmeId, 'attachments/never.txt', Buffer.from('x'));
    expect(ledger.lost(database)).toEqual(['attachment attachments/never.txt']);
    expect(brokenIn(database)).toEqual([]);
    database.exec('UPDATE trace SET samples = substr(samples, 1, length(samples) - 8) WHERE rowid = (SELECT min(rowid) FROM trace)');
    database.exec('DELETE FROM pull WHERE position = 0');
    expect(ledger.lost(database).length).toBe(2);
    expect(brokenIn(database)).toEqual([expect.stringContaining('half a trace')]);
    database.pragma('foreign_keys = OFF');
    database.exec('DELETE FROM log WHERE rowid = (SELECT max(rowid) FROM log)');
    expect(brokenIn(database).length).toBe(3);
    database.close();
  });
});
