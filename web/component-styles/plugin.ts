import type { Plugin } from 'vite';
import { componentStyles } from './sheet.js';

const SHEET = '/component-styles.css';
/** Where the package keeps the texts of its styles. */
const TEXTS = '@primeuix/styles/';
const NO_TEXT = '\0no-styles';

/** Writes the styles of the package's components into the pages' own sheet while they are built, and leaves them out of what is run. */
export function componentStylesInSheet(): Plugin {
  return {
    name: 'component-styles',
    enforce: 'pre',
    resolveId: (id) => (id === `virtual:${SHEET.slice(1)}` ? SHEET : id.startsWith(TEXTS) ? NO_TEXT : undefined),
    load: (id) => (id === SHEET ? componentStyles() : id === NO_TEXT ? "export const style = '';" : undefined),
  };
}
