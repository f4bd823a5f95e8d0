import { mount } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it } from 'vitest';
import { defineComponent, nextTick } from 'vue';
import { provideShortcuts, useShortcuts, type Shortcut } from '../src/shared/shortcuts.js';

let ran: string[];
beforeEach(() => {
  ran = [];
  localStorage.clear();
  document.body.replaceChildren();
  setActivePinia(createPinia());
});

const does = (what: string, ...keys: string[]): Shortcut => ({ keys, what, run: (key) => void ran.push(`${what} ${key}`) });
const screenWith = (...shortcuts: Shortcut[]) =>
  mount(
    defineComponent({
      setup() {
        provideShortcuts(shortcuts);
        return () => null;
      },
    }),
  );
function press(key: string, init: KeyboardEventInit = {}, on: EventTarget = document.body): boolean {
  const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...init });
  on.dispatchEvent(event);
  return event.defaultPrevented;
}
function placed(html: string): HTMLElement {
  document.body.innerHTML = html;
  return document.body.querySelector<HTMLElement>('[data-here]')!;
}

describe('the single keys of a screen', () => {
  it('do what they say, arrows by their sign, and nothing once the screen is gone', async () => {
    const screen = screenWith(does('leave out', 'x'), does('next', '→', 'j'));
    expect([press('x'), press('ArrowRight'), press('j'), press('q')]).toEqual([true, true, true, false]);
    expect(ran).toEqual(['leave out x', 'next ArrowRight', 'next j']);
    screen.unmount();
    await nextTick();
    expect(press('x')).toBe(false);
    expect(ran).toHaveLength(3);
  });

  it('of a screen go before those of what it stands in, and give them back', () => {
    const outer = screenWith(does('outer', 'x', 'y'));
    const inner = screenWith(does('inner', 'x'));
    expect(useShortcuts().effective.map(({ what, keys }) => [what, keys])).toEqual([
      ['inner', ['x']],
      ['outer', ['y']],
    ]);
    press('x');
    inner.unmount();
    press('x');
    expect(ran).toEqual(['inner x', 'outer x']);
    outer.unmount();
    expect(useShortcuts().effective).toEqual([]);
  });

  it('do nothing where the palette offers nothing, and are not passed on to what the screen stands in', () => {
    let offered: string | null = null;
    const outer = screenWith(does('outer', 'x'));
    const inner = screenWith({ ...does('inner', 'x'), command: () => offered });
    expect(press('x')).toBe(true);
    expect(ran).toEqual([]);
    offered = 'Leave out pull p06';
    press('x');
    expect(ran).toEqual(['inner x']);
    inner.unmount();
    outer.unmount();
  });

  it('are offered to the palette by what each key does, once where two do the same', () => {
    const does = (key: string) => ({ 1: null, 2: 'Compare B', 3: 'Compare C', 4: 'Compare C' })[key] ?? null;
    const screen = screenWith({ keys: ['1', '2', '3', '4'], what: 'choose', command: does, run: (key) => ran.push(`chose ${key}`) });
    const offered = useShortcuts().offered();
    expect(offered.map(({ title, key }) => [title, key])).toEqual([
      ['Compare B', '2'],
      ['Compare C', '3'],
    ]);
    offered[1]!.run();
    press('1');
    press('4');
    expect(ran).toEqual(['chose 3', 'chose 4']);
    screen.unmount();
    expect(useShortcuts().offered()).toEqual([]);
  });

  it.each(['ctrlKey', 'metaKey', 'altKey'] as const)('are quiet with %s: that is the browser’s', (key) => {
    const screen = screenWith(does('leave out', 'x'));
    expect(press('x', { [key]: true })).toBe(false);
    expect(ran).toEqual([]);
    screen.unmount();
  });

  it.each([
    ['a field', '<input data-here>'],
    ['a text', '<textarea data-here></textarea>'],
    ['a list', '<select data-here></select>'],
    ['a combobox', '<div role="combobox"><span data-here></span></div>'],
    ['an open list', '<ul role="listbox"><li data-here></li></ul>'],
    ['a menu', '<ul role="menu"><li data-here></li></ul>'],
    ['an open dialog', '<div role="dialog"></div><p data-here></p>'],
  ])('are quiet in %s', (_, html) => {
    const screen = screenWith(does('leave out', 'x'));
    expect(press('x', {}, placed(html))).toBe(false);
    expect(ran).toEqual([]);
    screen.unmount();
  });

  it.each([
    ['a button', '<button><i data-here></i></button>', []],
    ['a link', '<a href="/x" data-here></a>', []],
    ['a summary', '<details><summary data-here></summary></details>', []],
    ['what is pressed like one', '<span role="button" data-here></span>', []],
    ['a link that leads nowhere', '<a data-here></a>', ['go on Enter']],
    ['a paragraph', '<p data-here></p>', ['go on Enter']],
  ])('leave Enter to %s where it means something there', (_, html, expected) => {
    const screen = screenWith(does('go on', 'Enter'));
    press('Enter', {}, placed(html));
    expect(ran).toEqual(expected);
    screen.unmount();
  });

  it('can be switched off, on this machine, and on again', () => {
    const screen = screenWith(does('leave out', 'x'));
    useShortcuts().setEnabled(false);
    press('x');
    expect([ran, localStorage.getItem('gezeit.singleKeys')]).toEqual([[], 'off']);
    setActivePinia(createPinia());
    expect(useShortcuts().enabled).toBe(false);
    useShortcuts().setEnabled(true);
    expect(localStorage.getItem('gezeit.singleKeys')).toBe('on');
    screen.unmount();
  });
});
