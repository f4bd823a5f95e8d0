import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vitest/config';

const common = { env: { TZ: 'Asia/Kathmandu' }, testTimeout: 30_000 };

export default defineConfig({
  test: {
    projects: [
      { test: { ...common, name: 'inside', include: ['{contract,core,server}/test/**/*.test.ts', 'demo/**/*.test.ts'] } },
      {
        plugins: [vue()],
        test: {
          ...common,
          name: 'pages',
          include: ['web/test/**/*.test.ts'],
          environment: 'happy-dom',
          expect: { poll: { timeout: 15_000 } },
          globalSetup: 'web/test/support/with-server.ts',
        },
      },
    ],
  },
});
