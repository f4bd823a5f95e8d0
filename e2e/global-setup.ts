import { rmSync } from 'node:fs';
import { seededFolder } from './seed.mjs';

/** The demo's programmes are imported once; every worker's server starts from a copy. Whoever runs the tests may have done so already. */
export default async function seed(): Promise<() => void> {
  const folder = process.env['GEZEIT_E2E_SEED'] ?? (await seededFolder());
  process.env['GEZEIT_E2E_SEED'] = folder;
  return () => rmSync(folder, { recursive: true, force: true });
}
