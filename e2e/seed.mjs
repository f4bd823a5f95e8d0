// A data folder with the demo's programmes.
import { spawn } from 'node:child_process';
import { mkdtempSync, readdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));

/** Imports every bundle of the demo into a new folder by the command; needs a build. */
export async function seededFolder() {
  const folder = mkdtempSync(join(tmpdir(), 'gezeit-e2e-'));
  const bundles = join(ROOT, 'demo/bundles');
  const paths = readdirSync(bundles)
    .sort()
    .map((name) => join(bundles, name));
  const child = spawn(process.execPath, [join(ROOT, 'server/bin/gezeit.js'), 'import', ...paths], {
    stdio: ['ignore', 'ignore', 'pipe'],
    env: { ...process.env, GEZEIT_DATA: folder },
  });
  let said = '';
  child.stderr.setEncoding('utf8').on('data', (text) => (said += text));
  const status = await new Promise((resolve) => child.on('close', resolve));
  if (status !== 0) throw new Error(said);
  return folder;
}
