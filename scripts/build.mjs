// Builds the server (dist/server) and the pages (dist/web).
import { spawnSync } from 'node:child_process';
import { readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { basename } from 'node:path';
import { gzipSync } from 'node:zlib';
import { build } from 'esbuild';
import { digestOf, ROOT } from './prepare.mjs';
import { SERVER_BUILD } from './server-build.mjs';

/** What a server and its threads may have to read before they start. */
const MOST_SERVER_BYTES = 3_500_000;

const server = await build({
  ...SERVER_BUILD,
  entryPoints: { main: 'server/src/main.ts', worker: 'server/src/worker.ts', index: 'server/src/index.ts' },
  outdir: 'dist/server',
  splitting: true,
  sourcemap: true,
  define: { BUILT_FROM: JSON.stringify(digestOf(['contract/src', 'core/src'])) },
  chunkNames: 'chunk-[hash]',
  metafile: true,
});
// What is left out of the packages is found by where it lies in them: where that has changed, this says so.
const scriptBytes = Object.entries(server.metafile.outputs).reduce((sum, [path, { bytes }]) => sum + (path.endsWith('.js') ? bytes : 0), 0);
if (scriptBytes > MOST_SERVER_BYTES) {
  console.error(`The server has ${scriptBytes} bytes, more than ${MOST_SERVER_BYTES}: see what scripts/server-build.mjs leaves out.`);
  process.exit(1);
}
// What an earlier build left goes after the new is whole: a chunk is named by its contents.
const made = new Set(Object.keys(server.metafile.outputs).map((path) => basename(path)));
for (const name of readdirSync(`${ROOT}/dist/server`)) if (!made.has(name)) rmSync(`${ROOT}/dist/server/${name}`);
const { status } = spawnSync(process.execPath, ['node_modules/vite/bin/vite.js', 'build', 'web', '--logLevel', 'warn'], {
  cwd: ROOT,
  stdio: 'inherit',
  // Whoever builds, a shell set for development and a test that builds for itself too: those pages would keep nothing in the browser.
  env: { ...process.env, NODE_ENV: 'production' },
});
if (status !== 0) process.exit(status ?? 1);

// The server sends a file that lies beside its compressed form in that form.
const pages = `${ROOT}/dist/web`;
for (const name of readdirSync(pages, { recursive: true })) {
  if (!/\.(js|css|html|svg|webmanifest)$/.test(name)) continue;
  const bytes = readFileSync(`${pages}/${name}`);
  if (bytes.includes('[Vue warn]')) {
    console.error(`${name} is made for development: NODE_ENV was not "production" while the pages were built.`);
    process.exit(1);
  }
  writeFileSync(`${pages}/${name}.gz`, gzipSync(bytes, { level: 9 }));
}
