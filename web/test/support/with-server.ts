import { readdirSync } from 'node:fs';
import type { TestProject } from 'vitest/node';
import { DEMO_BUNDLES, filesOf, importAll, startServer } from '../../../server/test/support.js';

declare module 'vitest' {
  export interface ProvidedContext {
    /** Where Gezeit answers, and the programmes of the demo that are there, by the folder of their bundle. */
    server: string;
    airbox: string;
    demo: Record<string, string>;
  }
}

/** Starts Gezeit with a data folder of its own and the programmes of the demo: stores and parts of pages are tested against the real thing. */
export default async function withServer(project: TestProject): Promise<() => Promise<void>> {
  const server = await startServer();
  const demo: Record<string, string> = {};
  for (const folder of readdirSync(DEMO_BUNDLES).sort()) {
    const outcome = await importAll(server.address, filesOf(`${DEMO_BUNDLES}/${folder}`));
    if (outcome.kind !== 'imported') throw new Error(JSON.stringify(outcome));
    demo[folder] = outcome.programmeId;
  }
  project.provide('server', server.address);
  project.provide('airbox', demo['sealed-airbox']!);
  project.provide('demo', demo);
  return () => server.close();
}
