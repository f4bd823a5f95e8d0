import { boardSchema, bundleSchema, stagedSchema } from '@gezeit/contract';
import { cpSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import type { TestProject } from 'vitest/node';
import { randomDay } from './random-days.js';
import { seededFolder } from '../../../e2e/seed.mjs';
import { housed, openHouse } from '../../../e2e/housed.js';
import { build } from '../../../scripts/prepare.mjs';
import { DEMO_BUNDLES, filesOf, formOf, importAll, PERSON, temporaryFolder } from '../../../server/test/support.js';

declare module 'vitest' {
  export interface ProvidedContext {
    /** Where Gezeit answers, and the programmes of the demo that are there, by the folder of their bundle. */
    server: string;
    airbox: string;
    demo: Record<string, string>;
    /** Programmes of random days, with the folder of the bundle of each. */
    randomServer: string;
    /** Two runs of the loose day that were dropped there and wait to be sorted. */
    dropped: string;
    randomDays: { seed: number; id: string; folder: string }[];
  }
}

/** So many random days; more are asked for by hand. */
const RANDOM_DAYS = Number(process.env['GEZEIT_RANDOM_DAYS'] ?? 5);
const FIRST_SEED = Number(process.env['GEZEIT_RANDOM_FROM'] ?? 900_001);

/** The data folder with the demo's programmes: a copy where whoever runs all tests has made it already. */
async function demoFolder(): Promise<string> {
  const folder = temporaryFolder();
  const made = process.env['GEZEIT_E2E_SEED'] ?? (await seededFolder());
  cpSync(made, folder, { recursive: true });
  if (!process.env['GEZEIT_E2E_SEED']) rmSync(made, { recursive: true, force: true });
  return folder;
}

/**
 * Serves Gezeit as it is built, with the programmes of the demo, and again with those of random days: stores and parts of pages are tested against
 * the real thing, and what it computes costs their processes nothing.
 */
export default async function withServer(project: TestProject): Promise<() => Promise<void>> {
  build();
  // Silent: what is refused here is refused on purpose, and said by the test.
  const house = await openHouse('silent');
  // The random days on a server of their own: no other test counts what stands on its board.
  const [server, randomServer] = await Promise.all([housed(house.door, await demoFolder()), housed(house.door, temporaryFolder())]);
  const board = boardSchema.parse(await (await fetch(`${server.address}/api/programmes`)).json());
  const demo: Record<string, string> = {};
  for (const folder of readdirSync(DEMO_BUNDLES).sort()) {
    const { programme } = bundleSchema.parse(JSON.parse(readFileSync(`${DEMO_BUNDLES}/${folder}/gezeit.json`, 'utf8')));
    demo[folder] = board.programmes.find(({ title }) => title === programme.title)!.id;
  }
  const randomDays: { seed: number; id: string; folder: string }[] = [];
  for (let seed = FIRST_SEED; seed < FIRST_SEED + RANDOM_DAYS; seed += 1) {
    const { folder } = randomDay(seed);
    const outcome = await importAll(`${randomServer.address}/`, filesOf(folder));
    if (outcome.kind !== 'imported') throw new Error(`${seed}: ${JSON.stringify(outcome)}`);
    randomDays.push({ seed, id: outcome.programmeId, folder });
  }
  const runs = new Map(
    ['run_001.csv', 'run_002.csv'].map((name) => [name, new Uint8Array(readFileSync(`${DEMO_BUNDLES}/../loose/${name}`))]),
  );
  const staged = await fetch(`${randomServer.address}/api/staged`, { method: 'POST', headers: PERSON, body: formOf(runs) });
  project.provide('dropped', stagedSchema.parse(await staged.json()).id);
  project.provide('randomServer', `${randomServer.address}/`);
  project.provide('randomDays', randomDays);
  project.provide('server', `${server.address}/`);
  project.provide('airbox', demo['sealed-airbox']!);
  project.provide('demo', demo);
  return async () => {
    await Promise.all([server.stop(), randomServer.stop()]);
    await house.close();
  };
}
