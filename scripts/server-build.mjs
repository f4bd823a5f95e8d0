// How the server and its worker are bundled, for the build and for threads that are started from the sources.
import { ROOT } from './prepare.mjs';

const workspace = (path) => `${ROOT}/${path}/src/index.ts`;

export const SERVER_SOURCES = ['contract/src', 'core/src', 'server/src', 'package-lock.json'];

export const SERVER_BUILD = {
  absWorkingDir: ROOT,
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  packages: 'external',
  alias: {
    '@gezeit/contract': workspace('contract'),
    '@gezeit/core/simulate': `${ROOT}/core/src/simulate/index.ts`,
    '@gezeit/core': workspace('core'),
  },
  logLevel: 'warning',
};
