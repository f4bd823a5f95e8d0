// A house's years in one data folder: npm run bench:load -- [PROGRAMMES] [FOLDER] (needs a build). 100 pulls a programme with two logs each; then
// how fast it starts, lists and searches, and how fast five windows that edit at once are answered. To be read on an idle machine.
import './as-built.js';
import { existsSync, mkdirSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import Sqlite from 'better-sqlite3';
import { chromium } from '@playwright/test';
import type { Board, ProgrammeView } from '@gezeit/contract';
import {
  bundleOfDay,
  driveDay,
  dynoDevice,
  ecuDevice,
  filesOf,
  scheduleOf,
  STOCK_TURBO,
  TURBO_ESTATE,
} from '../core/src/simulate/index.js';
import { sitDown } from '../e2e/support.js';
import { choicesDigest, curvesDigest, findingsDigest } from '../server/src/analysis/input-digests.js';
import { loadState } from '../server/src/analysis/programme-state.js';
import { Database } from '../server/src/database/database.js';
import { importAll } from '../server/test/support.js';
import { fixedCalculationMs } from './fixed-calculation.js';
import { ServerProcess } from './kills/server-process.js';

const PULLS = 100;
const CARS = 100;
const CELLS = 4;
const WINDOWS = 5;
const EDITS_EACH = 30;
/** A person edits about so often, ms. */
const BETWEEN_EDITS_MS = 2000;
const HEADERS = { 'content-type': 'application/json', 'x-gezeit-person': 'Load', prefer: 'respond-async' };

const [programmes = 1000, folder = join(tmpdir(), 'gezeit-load')] = [Number(process.argv[2] ?? 1000), process.argv[3]];
const file = join(folder, 'gezeit.sqlite');
if (!existsSync(file)) await fill();
await measure();

/** One programme of a hundred pulls as it comes in through the door. */
function template(): Map<string, Uint8Array> {
  const schedule = scheduleOf(
    'AABB'.repeat(PULLS / 4),
    () => 5,
    () => 15,
    false,
  );
  const driven = driveDay({
    seed: 12,
    engine: TURBO_ESTATE,
    setups: { A: STOCK_TURBO, B: STOCK_TURBO },
    schedule,
    scatter: {
      runToRun: 0.004,
      boostWander: 0.002,
      driftPerHour: 0.0003,
      walkAtSwap: 0.001,
      weatherPerHour: { temperatureK: 0.05, pressurePa: 4, humidity: 0.001 },
    },
    weather: { temperatureC: 19, pressurePa: 99_000, relativeHumidity: 0.5 },
    oilColdK: 4,
  });
  const { bundle, ...records } = bundleOfDay(
    {
      programme: {
        title: 'Load',
        question: 'Does it gain?',
        metric: 'meanPower',
        bandRpm: [3500, 6200],
        smallestGainPct: 1,
        correction: 'NONE',
      },
      vehicle: { name: 'Estate', aspiration: 'turbo' },
      cell: { name: 'Cell', kind: 'inertia', powerAt: 'wheel' },
      startedAt: '2026-03-04T08:00:00Z',
      setups: ['A', 'B'].map((id) => ({ id, name: id, reference: id === 'A', parts: [`Airbox ${id}`], state: {} })),
    },
    driven,
    [
      { dialect: 'bracketed', device: () => ecuDevice(3, true) },
      { dialect: 'two-storey', device: () => ({ ...dynoDevice(5), rateHz: 20 }) },
    ],
    6,
  );
  return new Map([...filesOf({ bundle, ...records }), ['gezeit.json', Buffer.from(JSON.stringify(bundle))]]);
}

/** Imports the first programme, and copies every row of it under other ids, titles, cars and cells. */
async function fill(): Promise<void> {
  mkdirSync(folder, { recursive: true });
  const server = new ServerProcess(folder);
  const { address } = await server.start();
  const outcome = await importAll(address, template());
  if (outcome.kind !== 'imported') throw new Error(JSON.stringify(outcome));
  for (const what of ['', '/curves', '/choices?extent=short']) await fetch(`${address}api/programmes/${outcome.programmeId}${what}`);
  await pause(3000);
  await server.kill();
  const database = new Sqlite(file);
  database.pragma('foreign_keys = OFF');
  database.pragma('synchronous = OFF');
  const first = outcome.programmeId;
  const copy = (table: string, n: number, from: string, replaced: Record<string, string>) => {
    const columns = (database.pragma(`table_info(${table})`) as { name: string }[]).map(({ name }) => name);
    const values = columns.map((name) => replaced[name] ?? `t."${name}"`);
    database.exec(
      `INSERT INTO "${table}" (${columns.map((name) => `"${name}"`).join(', ')}) SELECT ${values.join(', ')} FROM ${from}`.replaceAll(
        '$N',
        // No id begins with this letter.
        `l${String(n).padStart(3, '0')}`,
      ),
    );
  };
  const own = `t."programmeId" = '${first}'`;
  const fresh = `'$N' || substr(t.id, 5)`;
  const programmeId = `'$N' || substr('${first}', 5)`;
  for (let n = 1; n < CARS; n += 1)
    copy('vehicle', n, 'vehicle t WHERE t.rowid = 1', { id: fresh, name: `'Estate $N'`, body: `json_set(t.body, '$.name', 'Estate $N')` });
  for (let n = 1; n < CELLS; n += 1)
    copy('cell', n, 'cell t WHERE t.rowid = 1', { id: fresh, name: `'Cell $N'`, body: `json_set(t.body, '$.name', 'Cell $N')` });
  for (let n = 1; n < programmes; n += 1)
    database.transaction(() => {
      const pick = (table: string, count: number) => `(SELECT id FROM ${table} ORDER BY rowid LIMIT 1 OFFSET ${n % count})`;
      copy('programme', n, `programme t WHERE t.id = '${first}'`, {
        id: fresh,
        lineage: fresh,
        title: `'Load $N'`,
        body: `json_set(t.body, '$.programme.title', 'Load $N')`,
        bundleDigest: `'$N'`,
        vehicleId: pick('vehicle', CARS),
      });
      copy('programme_cell', n, `programme_cell t WHERE ${own}`, { id: fresh, programmeId, cellId: pick('cell', CELLS) });
      for (const table of ['setup', 'day', 'log']) copy(table, n, `${table} t WHERE ${own}`, { id: fresh, programmeId });
      copy('pull', n, `pull t WHERE ${own}`, { id: fresh, programmeId, dayId: `'$N' || substr(t."dayId", 5)` });
      copy('trace', n, `trace t WHERE t."logId" IN (SELECT id FROM log t WHERE ${own})`, {
        id: fresh,
        logId: `'$N' || substr(t."logId", 5)`,
      });
      copy('product', n, `product t WHERE ${own} AND t.kind = 'pull'`, { programmeId });
    })();
  await copyFindings(database, first);
  database.close();
}

/** What was judged of the first programme is what would be judged of its copies: kept under their own digests. */
async function copyFindings(raw: Sqlite.Database, first: string): Promise<void> {
  const database = await Database.open(file);
  const insert = raw.prepare(
    `INSERT INTO product SELECT ?, kind, ?, body, createdAt FROM product WHERE programmeId = '${first}' AND kind = ?`,
  );
  for (const { id } of raw.prepare('SELECT id FROM programme WHERE id <> ?').all(first) as { id: string }[]) {
    const state = await loadState(database.manager, id);
    insert.run(id, findingsDigest(state), 'findings');
    insert.run(id, curvesDigest(state), 'curves');
    insert.run(id, choicesDigest(state, 'short'), 'leaning');
  }
  await database.close();
}

async function measure(): Promise<void> {
  console.log(`a million square roots: ${fixedCalculationMs().toFixed(2)} ms`);
  const size = statSync(file).size;
  console.log(`${programmes} programmes, ${programmes * PULLS} pulls, ${2 * programmes * PULLS} logs: ${(size / 1e9).toFixed(2)} GB`);
  let server = new ServerProcess(folder);
  const first = await server.start();
  const began = performance.now();
  const cold = await timed(() => board(first.address, '?withinMs=150'));
  await board(first.address);
  console.log(
    `first board, nothing of it kept: drawn ${cold.toFixed(0)} ms, all of it after ${((performance.now() - began) / 1000).toFixed(1)} s`,
  );
  await pause(2000);
  await server.kill();
  const starts: number[] = [];
  const boards: number[] = [];
  for (let round = 0; round < 3; round += 1) {
    server = new ServerProcess(folder);
    const { address, tookMs } = await server.start();
    starts.push(tookMs);
    boards.push(await timed(() => board(address)));
    if (round < 2) await server.kill();
    else await edits(address, server);
  }
  say('start (under 3000 wanted)', starts);
  say('first board after a start', boards);
  await server.kill();
}

async function edits(address: string, server: ServerProcess): Promise<void> {
  const again: number[] = [];
  for (let i = 0; i < 15; i += 1) again.push(await timed(() => board(address)));
  say('board (under 300 wanted)', again);
  const asked: number[] = [];
  for (const words of ['load l500', 'airbox b', 'p77-dyno', 'nothing of the kind'])
    asked.push(await timed(() => fetch(`${address}api/search?q=${encodeURIComponent(words)}`).then((response) => response.text())));
  say('search', asked);
  say('parts', [await timed(() => fetch(`${address}api/parts`).then((response) => response.text()))]);
  await inBrowser(address);
  const { programmes: entries } = await board(address);
  const took = new Map<string, number[]>();
  const note = (what: string, ms: number) => took.set(what, [...(took.get(what) ?? []), ms]);
  await Promise.all(
    Array.from({ length: WINDOWS }, async (_, w) => {
      const { id } = entries[Math.floor(((w + 0.5) / WINDOWS) * entries.length)]!;
      const path = `${address}api/programmes/${id}`;
      note('open a programme', await timed(() => fetch(path).then((response) => response.text())));
      let { bundle } = (await (await fetch(path)).json()) as ProgrammeView;
      await pause(w * 200);
      for (let i = 0; i < EDITS_EACH; i += 1) {
        const send = (to: string, body: unknown) => fetch(to, { method: 'PATCH', headers: HEADERS, body: JSON.stringify(body) });
        const began = performance.now();
        if (i % 3 === 2) {
          const answer = await send(`${path}/pulls/p${String(10 + i)}`, { excluded: `window ${w}, ${Date.now()}` });
          if (!answer.ok) throw new Error(await answer.text());
          note('a pull left out, acknowledged (under 200 wanted)', performance.now() - began);
          await answer.text();
          note('a pull left out, judged anew', performance.now() - began);
        } else {
          const value = { ...bundle.programme, question: `Does it gain, asked ${i} times?` };
          const answer = await send(path, { part: 'programme', before: bundle.programme, value, what: 'question' });
          if (!answer.ok) throw new Error(await answer.text());
          note('a text changed, acknowledged (under 200 wanted)', performance.now() - began);
          bundle = ((await answer.json()) as ProgrammeView).bundle;
          note('a text changed, whole answer', performance.now() - began);
        }
        note('ask whether something changed', await timed(() => fetch(`${path}/stamp`).then((response) => response.text())));
        if (i % 5 === 4) note('board meanwhile', await timed(() => board(address, '?withinMs=150')));
        await pause(BETWEEN_EDITS_MS);
      }
    }),
  );
  for (const [what, values] of took) say(`${WINDOWS} windows: ${what}`, values);
  console.log(`most memory of the server: ${server.peakMB.toFixed(0)} MB`);
}

async function inBrowser(address: string): Promise<void> {
  const browser = await chromium.launch({ executablePath: process.env['GEZEIT_CHROMIUM'] ?? '/usr/bin/chromium', args: ['--no-sandbox'] });
  const drawn: number[] = [];
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await sitDown(page);
    for (let round = 0; round < 6; round += 1) {
      await page.goto(address);
      await page.locator('.entries li').nth(5).waitFor();
      if (round > 0) drawn.push(await page.evaluate(() => performance.now()));
    }
  } finally {
    await browser.close();
  }
  say('board in the browser, from the address to its rows', drawn);
}

async function board(address: string, query = ''): Promise<Board> {
  return (await (await fetch(`${address}api/programmes${query}`)).json()) as Board;
}

async function timed(work: () => Promise<unknown>): Promise<number> {
  const began = performance.now();
  await work();
  return performance.now() - began;
}

function say(what: string, values: number[]): void {
  const sorted = values.toSorted((a, b) => a - b);
  const at = (share: number) => sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))]!.toFixed(0);
  console.log(`${what}: median ${at(0.5)} ms, 95 % under ${at(0.95)}, most ${at(1)} (${values.length})`);
}
