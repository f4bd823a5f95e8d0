import { defineStore } from 'pinia';
import { onBeforeUnmount, ref, shallowReactive } from 'vue';

/** A single-key shortcut of the screen. */
export interface Shortcut {
  /** As shown to the user, such as "x" or "→". */
  keys: string[];
  what: string;
  run(key: string): void;
}

const EVENT_KEYS: Record<string, string> = { '→': 'ArrowRight', '←': 'ArrowLeft' };
const KEY = 'gezeit.singleKeys';

/** The shortcuts of the screen that is open. Off while a field has the focus or a dialog is open. */
export const useShortcuts = defineStore('shortcuts', () => {
  const groups = shallowReactive<Shortcut[][]>([]);
  const helpOpen = ref(false);
  const enabled = ref(localStorage.getItem(KEY) !== 'off');

  function setEnabled(on: boolean): void {
    enabled.value = on;
    localStorage.setItem(KEY, on ? 'on' : 'off');
  }

  window.addEventListener('keydown', (event) => {
    if (
      !enabled.value ||
      event.ctrlKey ||
      event.metaKey ||
      event.altKey ||
      isTyping(event.target) ||
      document.querySelector('[role=dialog]')
    )
      return;
    for (const shortcut of groups.flat()) {
      if (!shortcut.keys.some((key) => (EVENT_KEYS[key] ?? key) === event.key)) continue;
      event.preventDefault();
      shortcut.run(event.key);
      return;
    }
  });

  return { groups, helpOpen, enabled, setEnabled };
});

function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable ||
      /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) ||
      target.closest('[role=combobox],[role=listbox],[role=menu]') !== null)
  );
}

/** Offers shortcuts while the calling component stands. */
export function provideShortcuts(shortcuts: Shortcut[]): void {
  const store = useShortcuts();
  store.groups.push(shortcuts);
  onBeforeUnmount(() => {
    const at = store.groups.indexOf(shortcuts);
    if (at >= 0) store.groups.splice(at, 1);
  });
}
