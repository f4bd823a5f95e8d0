import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { computeAnalysed, computeCurves } from '../src/analysis/compute.js';
import { loadState, type ProgrammeState } from '../src/analysis/programme-state.js';
import { Database } from '../src/database/database.js';
import { databaseFile } from '../src/paths.js';
import { DEMO_BUNDLES, filesOf, importAll, startServer } from './support.js';

// Two windows that follow a programme ask for the same of each of its states.

let server: Awaited<ReturnType<typeof startServer>>;
let database: Database;
let state: ProgrammeState;
beforeAll(async () => {
  server = await startServer();
  const outcome = await importAll(server.address, filesOf(join(DEMO_BUNDLES, 'water-cooler-and-fuel')));
  if (outcome.kind !== 'imported') throw new Error(outcome.kind);
  database = await Database.open(databaseFile(server.folder));
  state = await loadState(database.manager, outcome.programmeId);
});
afterAll(async () => {
  await database.close();
  await server.close();
});

it.each([
  ['findings', computeAnalysed],
  ['curves', computeCurves],
] as const)('%s of one state are made once, and those of another state are its own', async (_, compute) => {
  const first = await compute(database, state);
  expect(await compute(database, { ...state })).toBe(first);
  const [pull] = state.bundle.pulls.filter(({ kind, excluded }) => kind === 'measured' && !excluded);
  const without = {
    ...state,
    bundle: {
      ...state.bundle,
      pulls: state.bundle.pulls.map((entry) => (entry === pull ? { ...entry, excluded: 'a test' } : entry)),
    },
  };
  const second = await compute(database, without);
  expect(second).not.toEqual(first);
  expect(await compute(database, state)).toBe(first);
});
