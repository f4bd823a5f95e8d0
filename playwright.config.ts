import { defineConfig } from '@playwright/test';

const PORT = 4791;

export default defineConfig({
  testDir: 'e2e',
  outputDir: 'test-results',
  timeout: 45_000,
  expect: { timeout: 10_000 },
  // A day at 60 times its speed is run by its clock: nothing may stand beside it.
  workers: 1,
  retries: 1,
  fullyParallel: false,
  reporter: [['list'], ['json', { outputFile: 'reports/browser.json' }]],
  use: {
    baseURL: `http://127.0.0.1:${PORT}`,
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    timezoneId: 'Asia/Kathmandu',
    // What the worker fetches cannot be seen nor answered by a test: only those allow it that are about it.
    serviceWorkers: 'block',
    launchOptions: {
      executablePath: process.env['GEZEIT_CHROMIUM'] ?? '/usr/bin/chromium',
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
  webServer: {
    command: `node e2e/start-server.mjs ${PORT}`,
    url: `http://127.0.0.1:${PORT}/api/health`,
    timeout: 90_000,
    reuseExistingServer: false,
    gracefulShutdown: { signal: 'SIGTERM', timeout: 5000 },
  },
});
