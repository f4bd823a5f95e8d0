import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vite';
import { componentStylesInSheet } from './component-styles/plugin.js';
import { compiledAhead } from './compiled-ahead/plugin.js';
import { serviceWorker } from './service-worker/plugin.js';

export default defineConfig({
  root: import.meta.dirname,
  plugins: [vue(), componentStylesInSheet(), compiledAhead(), serviceWorker()],
  build: { outDir: '../dist/web', emptyOutDir: true, chunkSizeWarningLimit: 2000, rolldownOptions: { checks: { pluginTimings: false } } },
  server: { proxy: { '/api': 'http://127.0.0.1:4780' } },
});
