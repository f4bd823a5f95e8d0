// npm run demo: installs, builds, fills the demo data where it is not there yet, starts and prints the address. --fresh starts anew.
import { existsSync, readdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { build, install, ROOT, run, stop } from './prepare.mjs';

const options = process.argv.slice(2);
const fresh = options.includes('--fresh');
const folder = process.env.GEZEIT_DEMO_DATA ?? join(ROOT, '.demo-data');

const installed = install();
build();
await installed;
process.env.GEZEIT_DATA = folder;
if (fresh) rmSync(folder, { recursive: true, force: true });
if (!existsSync(join(folder, 'gezeit.sqlite'))) {
  console.log('Filling the demo data…');
  const bundles = readdirSync(join(ROOT, 'demo/bundles'))
    .sort()
    .map((name) => join(ROOT, 'demo/bundles', name));
  if (!run(process.execPath, ['server/bin/gezeit.js', 'import', ...bundles], { stdio: ['ignore', 'ignore', 'inherit'] })) {
    rmSync(folder, { recursive: true, force: true });
    stop('The demo data could not be filled: see the line above.');
  }
}
process.argv = [process.argv[0], process.argv[1], 'serve', ...options.filter((option) => option !== '--fresh')];
await import(pathToFileURL(join(ROOT, 'dist/server/main.js')).href);
