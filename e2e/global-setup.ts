import { rmSync } from 'node:fs';
import { seededFolder } from './seed.mjs';

/** The demo's programmes are imported once; every worker's server starts from a copy. */
export default function seed(): () => void {
  const folder = seededFolder();
  process.env['GEZEIT_E2E_SEED'] = folder;
  return () => rmSync(folder, { recursive: true, force: true });
}
