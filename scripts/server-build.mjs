// How the server and its worker are bundled, for the build and for threads that are started from the sources.
import { ROOT } from './prepare.mjs';

const workspace = (path) => `${ROOT}/${path}/src/index.ts`;

export const SERVER_SOURCES = ['contract/src', 'core/src', 'server/src', 'scripts/server-build.mjs', 'package-lock.json'];

/** Native code, what starts threads from files of its own, and what a package takes only where somebody has installed it. */
const NOT_BUNDLED = ['better-sqlite3', 'piscina', 'pino', 'bufferutil', 'utf-8-validate'];

/** With the packages: hundreds of files, found and read one by one, took half of a server's start, and of every thread's. */
export const SERVER_BUILD = {
  absWorkingDir: ROOT,
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  external: NOT_BUNDLED,
  // Names stay: what failed can be told.
  minifyWhitespace: true,
  minifySyntax: true,
  sourcesContent: false,
  // Packages of the older kind ask for others while they run.
  banner: { js: "import { createRequire as toRequire } from 'node:module'; const require = toRequire(import.meta.url);" },
  alias: {
    '@gezeit/contract': workspace('contract'),
    '@gezeit/core/simulate': `${ROOT}/core/src/simulate/index.ts`,
    '@gezeit/core': workspace('core'),
  },
  logLevel: 'warning',
};
