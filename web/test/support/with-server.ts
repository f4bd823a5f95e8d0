import type { TestProject } from 'vitest/node';
import { DEMO_BUNDLES, filesOf, importAll, startServer } from '../../../server/test/support.js';

declare module 'vitest' {
  export interface ProvidedContext {
    /** Where Gezeit answers, and the programme of the demo that is there. */
    server: string;
    airbox: string;
  }
}

/** Starts Gezeit with a data folder of its own and one programme of the demo: stores and parts of pages are tested against the real thing. */
export default async function withServer(project: TestProject): Promise<() => Promise<void>> {
  const server = await startServer();
  const outcome = await importAll(server.address, filesOf(`${DEMO_BUNDLES}/sealed-airbox`));
  if (outcome.kind !== 'imported') throw new Error(JSON.stringify(outcome));
  project.provide('server', server.address);
  project.provide('airbox', outcome.programmeId);
  return () => server.close();
}
