import type { Plugin } from 'vite';

/** Chunks by a module in them: large, and most of what is in them is called as soon as they are there. */
const AT_ONCE = /node_modules\/plotly\.js/;
/** V8's explicit compile hint; other engines read a comment. */
const HINT = '//# allFunctionsCalledOnLoad\n';

/**
 * Has the browser compile the charts' package at once, beside the page, while it arrives. Unasked it reads a function that holds others without them,
 * and them once more when each is called: that held up the first chart.
 */
export function compiledAhead(): Plugin {
  return {
    name: 'compiled-ahead',
    apply: 'build',
    enforce: 'post',
    generateBundle(_options, bundle) {
      const chunks = Object.values(bundle).flatMap((file) =>
        file.type === 'chunk' && file.moduleIds.some((id) => AT_ONCE.test(id)) ? [file] : [],
      );
      if (chunks.length === 0) throw new Error('No chunk of the charts’ package was found to be compiled ahead: see web/compiled-ahead.');
      for (const chunk of chunks) chunk.code = HINT + chunk.code;
    },
  };
}
