// How the server and its worker are bundled, for the build and for threads that are started from the sources.
import { basename, dirname } from 'node:path';
import { ROOT } from './prepare.mjs';

const workspace = (path) => `${ROOT}/${path}/src/index.ts`;

export const SERVER_SOURCES = ['contract/src', 'core/src', 'server/src', 'scripts/server-build.mjs', 'package-lock.json'];

/** Native code, what starts threads from files of its own, and what a package takes only where somebody has installed it. */
const NOT_BUNDLED = ['better-sqlite3', 'piscina', 'pino', 'bufferutil', 'utf-8-validate', 'iconv-lite'];

const OUR_DRIVER = ['better-sqlite3', 'sqlite-abstract', 'types'];

/**
 * What the packages bring along and nobody asks for, read whole by every server and thread before it starts: messages in fifty languages, the drivers
 * of other databases (as classes of which there is never one), and the same list of media types from three packages.
 */
const LEFT_OUT = {
  name: 'left-out',
  setup({ onLoad, onResolve }) {
    onLoad({ filter: /zod\/v4\/locales\/index\.js$/ }, () => ({ contents: '' }));
    onLoad({ filter: /typeorm\/driver\/[\w-]+\/\w+\.js$/ }, ({ path }) => {
      if (OUR_DRIVER.includes(basename(dirname(path)))) return undefined;
      const name = basename(path, '.js');
      return { contents: `exports.${name} = class ${name} {};` };
    });
    onResolve({ filter: /^mime-db$/ }, () => ({ path: `${ROOT}/node_modules/mime-db/index.js` }));
  },
};

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
  plugins: [LEFT_OUT],
  logLevel: 'warning',
};
