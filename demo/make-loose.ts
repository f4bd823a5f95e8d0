// Writes demo/loose/: the exports of a day as three devices left them, to try with one's own hands. Always the same.
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { LOOSE_DEMO } from './loose.js';

const root = join(fileURLToPath(new URL('.', import.meta.url)), 'loose');
rmSync(root, { recursive: true, force: true });
mkdirSync(root, { recursive: true });
for (const [file, text] of LOOSE_DEMO().files) writeFileSync(join(root, file), text);
