import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vitest/config';

// Both cores are busy with other tests, and a machine may be slow: a limit that only ends what hangs.
const common = { env: { TZ: 'Asia/Kathmandu' }, testTimeout: 90_000, hookTimeout: 60_000 };

export default defineConfig({
  test: {
    // One more than is taken by itself on two cores: these tests wait for servers as much as they compute.
    maxWorkers: 2,
    projects: [
      // Pure functions share one copy of the modules; what holds a database or a page has one of its own.
      { test: { ...common, name: 'core', include: ['{contract,core}/test/**/*.test.ts', 'demo/**/*.test.ts'], isolate: false } },
      { test: { ...common, name: 'server', include: ['server/test/**/*.test.ts'] } },
      {
        plugins: [vue()],
        test: {
          ...common,
          name: 'pages',
          include: ['web/test/**/*.test.ts'],
          environment: 'happy-dom',
          expect: { poll: { timeout: 45_000 } },
          globalSetup: 'web/test/support/with-server.ts',
        },
      },
    ],
  },
});
