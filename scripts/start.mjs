// npm start: installs and builds where needed, then serves the user's own data folder.
import { build, install, ROOT } from './prepare.mjs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';

const installed = install();
build();
await installed;
process.argv.splice(2, 0, 'serve');
await import(pathToFileURL(join(ROOT, 'dist/server/main.js')).href);
