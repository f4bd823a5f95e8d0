// A data folder with the demo's programmes.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));

/** Imports every bundle of the demo into a new folder by the command; needs a build. */
export function seededFolder() {
  const folder = mkdtempSync(join(tmpdir(), 'gezeit-e2e-'));
  const bundles = join(ROOT, 'demo/bundles');
  const { status, stderr } = spawnSync(
    process.execPath,
    [
      join(ROOT, 'server/bin/gezeit.js'),
      'import',
      ...readdirSync(bundles)
        .sort()
        .map((name) => join(bundles, name)),
    ],
    { encoding: 'utf8', env: { ...process.env, GEZEIT_DATA: folder } },
  );
  if (status !== 0) throw new Error(stderr);
  return folder;
}
