import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { build } from 'esbuild';
import type { Plugin } from 'vite';

/** Older kinds of the icon font: no browser that runs these pages asks for them. */
const NEVER_ASKED_FOR = /\.(eot|svg|ttf|woff)$/;

/** Adds the worker that keeps the pages at hand while nothing answers; it knows the files of the build it belongs to. */
export function serviceWorker(): Plugin {
  return {
    name: 'service-worker',
    apply: 'build',
    async writeBundle({ dir }) {
      const assets = readdirSync(join(dir!, 'assets')).filter((name) => !NEVER_ASKED_FOR.test(name));
      const revision = createHash('sha256')
        .update(readFileSync(join(dir!, 'index.html')))
        .digest('hex');
      // The names of assets hold a digest of what is in them; the page's own does not.
      const files = [
        { url: '/index.html', revision },
        { url: '/icon.svg', revision },
        ...assets.map((name) => ({ url: `/assets/${name}`, revision: null })),
      ];
      await build({
        entryPoints: [join(import.meta.dirname, 'service-worker.ts')],
        outfile: join(dir!, 'service-worker.js'),
        bundle: true,
        minify: true,
        format: 'iife',
        target: 'es2022',
        define: { __FILES_OF_BUILD__: JSON.stringify(files), 'process.env.NODE_ENV': '"production"' },
      });
    },
  };
}
