import { flushPromises, mount } from '@vue/test-utils';
import PrimeVue from 'primevue/config';
import Popover from 'primevue/popover';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterEach, describe, expect, it } from 'vitest';
import type { Component } from 'vue';
import { componentStyles, THEME } from '../component-styles/sheet.js';
import { takeStylesFromSheet } from '../src/app/styles-in-sheet.js';
import { DRAWN } from './support/package-components.js';

/** Those that show nothing until they are opened among them. */
const USED: [string, Component, Record<string, unknown>][] = [
  ...DRAWN.map(([name, component, props]): (typeof USED)[number] => [name, component, props]),
  ['a note over the page', Popover, {}],
];
const bare = (css: string) => css.replaceAll(/\/\*[^]*?\*\/|\s|;(?=\s*\})/g, '');

/** The styles that a component writes into a page while it is drawn and opened, by their names there. */
async function written([, component, props]: (typeof USED)[number], theme: unknown): Promise<[string, string][]> {
  const wrapper = mount(component, { props, attachTo: document.body, global: { plugins: [[PrimeVue, { theme }]] } });
  await flushPromises();
  (wrapper.vm as { show?: (event: Event) => void }).show?.(new Event('click'));
  await flushPromises();
  wrapper.unmount();
  const elements = [...document.querySelectorAll<HTMLStyleElement>('style[data-primevue-style-id]')];
  return elements.map((element) => [element.dataset['primevueStyleId']!, element.textContent]);
}

// Files share their modules: those that come after have them from the sheet again.
afterEach(() => {
  takeStylesFromSheet();
  document.head.replaceChildren();
  document.body.replaceChildren();
});

describe('the sheet of the package’s components', () => {
  // As where files before this one have had it so.
  takeStylesFromSheet();
  const sheet = bare(componentStyles());

  it.each(USED)('holds what %s would write into the page', async (...used) => {
    takeStylesFromSheet()();
    const styles = await written(used, THEME);
    expect(styles.map(([name]) => name)).toContain('semantic-variables');
    expect(styles.filter(([name, css]) => name !== 'layer-order' && !sheet.includes(bare(css))).map(([name]) => name)).toEqual([]);
  });

  it.each(USED)('is all that %s needs: nothing is written', async (...used) => {
    takeStylesFromSheet();
    expect(await written(used, 'none')).toEqual([]);
  });

  it('says every measure that a component asks for', () => {
    const said = new Set([...sheet.matchAll(/(--p-[\w-]+):/g)].map(([, name]) => name));
    const asked = new Set([...sheet.matchAll(/var\((--p-[\w-]+)/g)].map(([, name]) => name));
    expect(asked.size).toBeGreaterThan(500);
    // What a script sets on an element while it is open.
    expect([...asked].filter((name) => !said.has(name)).toSorted()).toEqual(['--p-popover-arrow-left', '--p-scrollbar-width']);
  });

  it('knows every component that the pages take from the package', () => {
    const sources = join(import.meta.dirname, '../src');
    const taken = readdirSync(sources, { recursive: true, encoding: 'utf8' })
      .filter((name) => /\.(ts|vue)$/.test(name))
      .flatMap((name) => [...readFileSync(join(sources, name), 'utf8').matchAll(/'primevue\/(\w+)'/g)].map(([, component]) => component!));
    const known = USED.map(([, component]) => component.name!.toLowerCase());
    // Neither is a component that is shown.
    expect([...new Set(taken)].filter((name) => !['config', 'ripple'].includes(name)).toSorted()).toEqual([...new Set(known)].toSorted());
  });
});
