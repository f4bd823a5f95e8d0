// Serves the built Gezeit with the demo's programmes from a data folder of its own, for the browser tests.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = dirname(dirname(fileURLToPath(import.meta.url)));
process.env.GEZEIT_DATA = mkdtempSync(join(tmpdir(), 'gezeit-e2e-'));
process.env.GEZEIT_LOG = 'warn';
const bundles = join(root, 'demo/bundles');
for (const name of readdirSync(bundles).sort()) {
  const { status, stderr } = spawnSync(process.execPath, [join(root, 'server/bin/gezeit.js'), 'import', join(bundles, name)], {
    encoding: 'utf8',
  });
  if (status !== 0) throw new Error(stderr);
}
process.argv = [process.argv[0], process.argv[1], 'serve', '--port', process.argv[2]];
await import('../dist/server/main.js');
