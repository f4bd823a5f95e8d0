// Builds the server (dist/server) and the pages (dist/web).
import { spawnSync } from 'node:child_process';
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { gzipSync } from 'node:zlib';
import { build } from 'esbuild';
import { digestOf } from './prepare.mjs';

const root = dirname(dirname(fileURLToPath(import.meta.url)));
const workspace = (path) => `${root}/${path}/src/index.ts`;

await build({
  absWorkingDir: root,
  entryPoints: { main: 'server/src/main.ts', worker: 'server/src/worker.ts' },
  outdir: 'dist/server',
  bundle: true,
  splitting: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  sourcemap: true,
  packages: 'external',
  define: { BUILT_FROM: JSON.stringify(digestOf(['contract/src', 'core/src'])) },
  alias: {
    '@gezeit/contract': workspace('contract'),
    '@gezeit/core/simulate': `${root}/core/src/simulate/index.ts`,
    '@gezeit/core': workspace('core'),
  },
  chunkNames: 'chunk-[hash]',
  logLevel: 'warning',
});
const { status } = spawnSync(process.execPath, ['node_modules/vite/bin/vite.js', 'build', 'web', '--logLevel', 'warn'], {
  cwd: root,
  stdio: 'inherit',
});
if (status !== 0) process.exit(status ?? 1);

// The server sends a file that lies beside its compressed form in that form.
const pages = `${root}/dist/web`;
for (const name of readdirSync(pages, { recursive: true })) {
  if (!/\.(js|css|html|svg|webmanifest)$/.test(name)) continue;
  writeFileSync(`${pages}/${name}.gz`, gzipSync(readFileSync(`${pages}/${name}`), { level: 9 }));
}
