import { existsSync } from 'node:fs';
import { defineConfig } from '@playwright/test';

/** Debian's headless Chromium: where the shell is there, half the work of the whole browser for the same pages. */
const BROWSERS = ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium'];

/** A day at many times its speed waits for its clock, and a walk for views to rest, more than they compute: they stand beside the others. */
const WAITING = /(rig-day|walks)\.spec/;

/**
 * The runner is kept at 1.59 (package.json): from 1.60 on it describes the whole page whenever an expectation does not hold yet, for a message that
 * is hardly ever read, a tenth of what the pages themselves do.
 */
export default defineConfig({
  testDir: 'e2e',
  outputDir: 'test-results',
  // A machine of two cores that builds beside it took four times what an idle one takes.
  timeout: 150_000,
  expect: { timeout: 20_000 },
  globalSetup: './e2e/global-setup.ts',
  // A test that needs a second try has failed.
  retries: 0,
  workers: 3,
  // The tests of a file follow one another; files stand beside each other, each worker with a server of its own.
  fullyParallel: false,
  projects: [
    { name: 'pages', testIgnore: WAITING, workers: 2 },
    { name: 'days', testMatch: WAITING, workers: 1 },
  ],
  reporter: [['list'], ['json', { outputFile: 'reports/browser.json' }]],
  use: {
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    timezoneId: 'Asia/Kathmandu',
    // What the worker fetches cannot be seen nor answered by a test: only those allow it that are about it.
    serviceWorkers: 'block',
    launchOptions: {
      executablePath: process.env['GEZEIT_TEST_BROWSER'] ?? BROWSERS.find((path) => existsSync(path)),
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
});
