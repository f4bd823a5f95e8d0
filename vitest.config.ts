import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['{contract,core,server,web}/test/**/*.test.ts', 'demo/**/*.test.ts'],
    env: { TZ: 'Asia/Kathmandu' },
    testTimeout: 30_000,
  },
});
