import { stagedSchema } from '@gezeit/contract';
import { readdirSync, readFileSync } from 'node:fs';
import type { TestProject } from 'vitest/node';
import { randomDay } from './random-days.js';
import { DEMO_BUNDLES, filesOf, formOf, importAll, PERSON, startServer } from '../../../server/test/support.js';

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

/** Starts Gezeit with a data folder of its own and the programmes of the demo: stores and parts of pages are tested against the real thing. */
export default async function withServer(project: TestProject): Promise<() => Promise<void>> {
  const [server, randomServer] = await Promise.all([startServer(), startServer()]);
  const demo: Record<string, string> = {};
  const importDemo = async () => {
    for (const folder of readdirSync(DEMO_BUNDLES).sort()) {
      const outcome = await importAll(server.address, filesOf(`${DEMO_BUNDLES}/${folder}`));
      if (outcome.kind !== 'imported') throw new Error(JSON.stringify(outcome));
      demo[folder] = outcome.programmeId;
    }
  };
  // On a server of their own: no other test counts what stands on its board.
  const randomDays: { seed: number; id: string; folder: string }[] = [];
  const importRandom = async () => {
    for (let seed = FIRST_SEED; seed < FIRST_SEED + RANDOM_DAYS; seed += 1) {
      const { folder } = randomDay(seed);
      const outcome = await importAll(randomServer.address, filesOf(folder));
      if (outcome.kind !== 'imported') throw new Error(`${seed}: ${JSON.stringify(outcome)}`);
      randomDays.push({ seed, id: outcome.programmeId, folder });
    }
  };
  await Promise.all([importDemo(), importRandom()]);
  const runs = new Map(
    ['run_001.csv', 'run_002.csv'].map((name) => [name, new Uint8Array(readFileSync(`${DEMO_BUNDLES}/../loose/${name}`))]),
  );
  const staged = await fetch(`${randomServer.address}api/staged`, { method: 'POST', headers: PERSON, body: formOf(runs) });
  project.provide('dropped', stagedSchema.parse(await staged.json()).id);
  project.provide('randomServer', randomServer.address);
  project.provide('randomDays', randomDays);
  project.provide('server', server.address);
  project.provide('airbox', demo['sealed-airbox']!);
  project.provide('demo', demo);
  return async () => {
    await server.close();
    await randomServer.close();
  };
}
