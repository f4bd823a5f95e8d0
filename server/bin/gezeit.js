#!/usr/bin/env node
// The gezeit command: plain JavaScript, so that it can say what is missing before anything is built.
import { existsSync } from 'node:fs';

const built = new URL('../../dist/server/main.js', import.meta.url);
if (existsSync(built)) await import(built.href);
else {
  console.error('gezeit: not built yet. Run "npm run build" in the project folder first.');
  process.exitCode = 2;
}
