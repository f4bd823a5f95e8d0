import { copyFileSync, existsSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import Sqlite from 'better-sqlite3';
import { Random } from '@gezeit/core/simulate';
import { brokenIn } from './ledger.js';
import { ServerProcess } from './server-process.js';

const FIXTURES = fileURLToPath(new URL('../../server/test/fixtures', import.meta.url));
const BEGINS_ABOUT_MS = 400;
/** The blow falls so far from where the last ones say that the migrating is, ms. */
const AROUND_MS = 25;
const STEP_MS = 40;

export interface MigrationKillReport {
  rounds: number;
  /** Blows that fell before the data was brought to this version, and after. */
  before: number;
  after: number;
  faults: string[];
}

/**
 * Kills a server while it brings the data of an earlier version to this one, at the moment that the kills before have found; started again it
 * must hold everything that was there.
 */
export async function killMigrations(rounds: number, seed: number): Promise<MigrationKillReport> {
  const random = new Random(seed);
  const fixtures = readdirSync(FIXTURES)
    .filter((name) => name.endsWith('.sqlite'))
    .sort();
  const newest = versionsIn(join(FIXTURES, fixtures.at(-1)!));
  const report: MigrationKillReport = { rounds, before: 0, after: 0, faults: [] };
  let momentMs = BEGINS_ABOUT_MS;
  for (let round = 0; round < rounds; round += 1) {
    const earlier = fixtures[Math.floor(random.uniform() * (fixtures.length - 1))]!;
    const fault = (what: string) => report.faults.push(`round ${round + 1}, ${earlier}: ${what}`);
    const folder = mkdtempSync(join(tmpdir(), 'gezeit-migration-'));
    const file = join(folder, 'gezeit.sqlite');
    copyFileSync(join(FIXTURES, earlier), file);
    const there = contentsOf(file);
    const killed = new ServerProcess(folder);
    const starting = killed.start().catch(() => null);
    await new Promise((resolve) => setTimeout(resolve, momentMs + (2 * random.uniform() - 1) * AROUND_MS));
    await killed.kill();
    await starting;
    const isDone = versionsIn(file) === newest;
    report[isDone ? 'after' : 'before'] += 1;
    momentMs = Math.max(AROUND_MS, momentMs + (isDone ? -STEP_MS : STEP_MS));
    const again = new ServerProcess(folder);
    try {
      const { address } = await again.start();
      const { programmes } = (await (await fetch(`${address}api/programmes`)).json()) as { programmes: { problem: string | null }[] };
      if (programmes.length !== 1 || programmes[0]!.problem !== null) fault(`the board says ${JSON.stringify(programmes)}`);
    } catch (error) {
      fault((error as Error).message);
    }
    await again.kill();
    if (versionsIn(file) !== newest) fault('it was not brought to this version');
    if (contentsOf(file) !== there) fault(`it held ${there}, and holds ${contentsOf(file)}`);
    const database = new Sqlite(file);
    for (const what of brokenIn(database)) fault(what);
    database.close();
    rmSync(folder, { recursive: true, force: true });
  }
  return report;
}

/** The version of a database, in its migrations; of one whose journal was left it is what holds after that is read. */
function versionsIn(file: string): number {
  return asked(file, (database) => database.prepare('SELECT COUNT(*) FROM migrations').pluck().get() as number);
}

/** What of a programme every version keeps: its pulls and the digests of its logs. */
function contentsOf(file: string): string {
  return asked(file, (database) =>
    [
      database.prepare('SELECT COUNT(*) FROM pull').pluck().get(),
      database.prepare(`SELECT GROUP_CONCAT(substr(sha256, 1, 4), '') FROM (SELECT sha256 FROM log ORDER BY file)`).pluck().get(),
    ].join(' pulls, logs '),
  );
}

function asked<T>(file: string, ask: (database: Sqlite.Database) => T): T {
  if (!existsSync(file)) throw new Error(`${file} is gone`);
  const database = new Sqlite(file);
  try {
    return ask(database);
  } finally {
    database.close();
  }
}
