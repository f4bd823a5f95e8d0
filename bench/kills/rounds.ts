import { join } from 'node:path';
import Sqlite from 'better-sqlite3';
import { Random } from '@gezeit/core/simulate';
import { brokenIn, Ledger } from './ledger.js';
import { command, ServerProcess } from './server-process.js';
import { Trouble } from './trouble.js';
import { Work } from './work.js';

/** What the disk does to the server in a round, before it is killed: each comes once in so many rounds, in an order of chance. */
const TROUBLES = ['none', 'none', 'disk-full', 'read-only', 'failing-sync', 'restore', 'restore-killed'] as const;

export interface KillReport {
  rounds: number;
  acknowledged: number;
  /** Rounds by what the disk did. */
  troubles: Record<string, number>;
  /** Refusals by code. */
  refused: Record<string, number>;
  slowestStartMs: number;
  skipped: string[];
  /** Everything that may not be: lost, half, broken, 500, an end by itself. Empty is good. */
  faults: string[];
}

const SMALL_DISK_MB = 96;
const FRESH_EVERY = 25;
/** So long a round waits for its first acknowledgement, ms. */
const SLOW_MS = 6000;

/** A list in an order of chance. */
function mixed<T>(list: readonly T[], uniform: () => number): T[] {
  return list
    .map((entry) => ({ entry, place: uniform() }))
    .sort((a, b) => a.place - b.place)
    .map(({ entry }) => entry);
}

/** Every trouble once. */
export const ROUNDS_OF_EVERY_TROUBLE = TROUBLES.length;

/** Kills a working server again and again, in several kinds of trouble, and looks at what it has left. */
export async function killRounds(rounds: number, seed: number, tell: (line: string) => void = () => undefined): Promise<KillReport> {
  const source = new Random(seed);
  const random = () => source.uniform();
  const between = (low: number, high: number) => low + (high - low) * random();
  const report: KillReport = { rounds, acknowledged: 0, troubles: {}, refused: {}, slowestStartMs: 0, skipped: [], faults: [] };
  let place = new Trouble(SMALL_DISK_MB);
  report.skipped = place.skipped;
  let ledger = new Ledger();
  let programmes: readonly string[] = [];
  let backedUp: { file: string; ledger: Ledger } | null = null;
  let troubles: (typeof TROUBLES)[number][] = [];
  for (let round = 1; round <= rounds; round++) {
    if (round % FRESH_EVERY === 0) {
      place.end();
      place = new Trouble(SMALL_DISK_MB);
      [ledger, programmes, backedUp] = [new Ledger(), [], null];
    }
    if (troubles.length === 0) troubles = mixed(TROUBLES, random);
    const wanted = troubles.pop()!;
    const isPossible =
      wanted === 'failing-sync' || wanted === 'read-only' ? place.hasShim : wanted === 'disk-full' ? place.isMounted : true;
    const trouble = isPossible ? wanted : 'none';
    report.troubles[trouble] = (report.troubles[trouble] ?? 0) + 1;
    const fault = (what: string) => report.faults.push(`round ${round} (${trouble}): ${what}`);
    const server = new ServerProcess(place.folder, place.env);
    try {
      const { address, tookMs } = await server.start();
      report.slowestStartMs = Math.max(report.slowestStartMs, tookMs);
      const work = new Work(address, ledger, random, programmes);
      const going = work.goOn();
      const [owedBefore, begun] = [ledger.size, Date.now()];
      await sleep(between(150, 900));
      // On a slow machine something is to be lost all the same before the blow falls.
      while (ledger.size === owedBefore && Date.now() - begun < SLOW_MS) await sleep(50);
      if (trouble === 'disk-full') place.fill(true);
      if (trouble === 'read-only') place.set('read-only', true);
      if (trouble === 'failing-sync') place.set('failing-sync', true);
      if (trouble === 'restore' && !backedUp) {
        const [file, owed] = [join(place.folder, `backup-${round}.sqlite`), ledger.copy()];
        if (command(place.folder, ['backup', file]).status === 0) backedUp = { file, ledger: owed };
      }
      await sleep(between(50, 700));
      // In half of the rounds the trouble passes, and work must go on as if it had not been.
      const passes = trouble !== 'none' && random() < 0.5;
      if (passes) {
        relieve(place);
        await sleep(between(200, 500));
      }
      if (server.hasEnded) fault(`the server ended by itself: ${server.said.slice(-4000)}`);
      await server.kill();
      work.stop();
      await going;
      // Counted round by round: a restore puts the ledger back to what it was.
      report.acknowledged += ledger.size - owedBefore;
      for (const wrong of work.wrong) fault(wrong);
      for (const [code, count] of work.refused) report.refused[code] = (report.refused[code] ?? 0) + count;
      if (/unhandled|uncaught/i.test(server.said)) fault(`unhandled: ${server.said.slice(-300)}`);
      programmes = work.programmes;
      relieve(place);
      if (trouble.startsWith('restore') && backedUp) {
        const wasKilled = trouble === 'restore-killed';
        const before = ledger;
        command(place.folder, ['restore', backedUp.file], wasKilled ? Math.round(between(80, 450)) : undefined);
        // A start finishes what was begun. Then it is the one or the other, and never half of it.
        const again = new ServerProcess(place.folder, place.env);
        await again.start();
        await again.kill();
        const isRestored = look(place.folder, (database) => before.lost(database).length > 0 || !wasKilled);
        ledger = isRestored ? backedUp.ledger.copy() : before;
        programmes = [];
      }
      look(place.folder, (database) => {
        for (const what of ledger.lost(database)) fault(`lost: ${what}`);
        for (const what of brokenIn(database)) fault(`broken: ${what}`);
      });
    } catch (error) {
      fault((error as Error).message);
      relieve(place);
      await server.kill();
    }
    if (round % 10 === 0) tell(`${round} rounds, ${report.acknowledged} acknowledged, ${report.faults.length} faults`);
  }
  place.end();
  return report;
}

function relieve(place: Trouble): void {
  place.fill(false);
  place.set('read-only', false);
  place.set('failing-sync', false);
}

function look<T>(folder: string, at: (database: Sqlite.Database) => T): T {
  const database = new Sqlite(join(folder, 'gezeit.sqlite'));
  try {
    return at(database);
  } finally {
    database.close();
  }
}

const sleep = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
