// The worker where nothing is built (in tests and benches): bundled once for each state of the sources. Through the loader that runs the rest, a
// thread took three times as long to start, and a suite of tests starts hundreds.
import { randomUUID } from 'node:crypto';
import { existsSync, readdirSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { digestOf, ROOT } from '../../scripts/prepare.mjs';
import { SERVER_BUILD, SERVER_SOURCES } from '../../scripts/server-build.mjs';

const folder = join(ROOT, 'dist/from-source');
const built = join(folder, `worker-${digestOf(SERVER_SOURCES).slice(0, 16)}.js`);
if (!existsSync(built)) {
  const { build } = await import('esbuild');
  const others = existsSync(folder) ? readdirSync(folder).filter((name) => /^worker-\w+\.js$/.test(name)) : [];
  // Threads that start at once may each make it: it appears whole, or not at all.
  const making = join(folder, `${randomUUID()}.js`);
  await build({ ...SERVER_BUILD, entryPoints: ['server/src/worker.ts'], outfile: making });
  renameSync(making, built);
  for (const name of others) rmSync(join(folder, name), { force: true });
}
const worker = await import(pathToFileURL(built).href);
const readBundleInto = worker.import;

export { readBundleInto as import };
export const { keepFile, readStage, writeStaged, addStaged, rereadLogs, analyse, curves, choices, card, claim, letGo } = worker;
