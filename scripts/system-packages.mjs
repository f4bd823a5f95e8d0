// What the tests need of the system, by apt where it is missing and this may.
import { spawn } from 'node:child_process';
import { existsSync } from 'node:fs';

const BROWSER = process.env.GEZEIT_TEST_BROWSER ?? '/usr/bin/chromium';
/** A Debian package by the file that it brings. The whole browser prints; the shell, where it can be had, is driven by the tests at half the work. */
const PACKAGES = {
  chromium: BROWSER,
  'chromium-headless-shell': '/usr/bin/chromium-headless-shell',
  // Reads a PDF's text; the tests that do so are skipped with a word where it cannot be had.
  'poppler-utils': '/usr/bin/pdftotext',
};
/** One after the other: where one cannot be had, the others can. */
const INSTALL = 'apt-get -qq update && for name; do apt-get -qq install -y --no-install-recommends "$name"; done';

/** Begins to install what is missing, beside whatever the caller does next. Returns how to wait for it; that resolves to whether there is a browser. */
export function installSystemPackages() {
  const missing = Object.keys(PACKAGES).filter((name) => !existsSync(PACKAGES[name]));
  const installed =
    missing.length > 0 && process.getuid?.() === 0
      ? new Promise((resolve) =>
          spawn('sh', ['-c', INSTALL, 'sh', ...missing], {
            stdio: ['ignore', 'ignore', 'inherit'],
            env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
          }).on('close', resolve),
        )
      : Promise.resolve();
  return async () => {
    await installed;
    const hasBrowser = existsSync(BROWSER);
    if (!hasBrowser)
      console.error(
        'Chromium is missing for the browser tests. Run: sudo apt-get install -y --no-install-recommends chromium chromium-headless-shell',
      );
    return hasBrowser;
  };
}
