import { rmSync } from 'node:fs';
import { openHouse } from './housed.js';
import { seededFolder } from './seed.mjs';

/** The demo's programmes are imported once; every worker's server starts from a copy, in one house. Whoever runs the tests may have imported them already. */
export default async function seed(): Promise<() => Promise<void>> {
  const folder = process.env['GEZEIT_E2E_SEED'] ?? (await seededFolder());
  process.env['GEZEIT_E2E_SEED'] = folder;
  const { door, close } = await openHouse('warn');
  process.env['GEZEIT_E2E_HOUSE'] = door;
  return async () => {
    await close();
    rmSync(folder, { recursive: true, force: true });
  };
}
