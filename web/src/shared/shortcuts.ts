import { defineStore } from 'pinia';
import { computed, onBeforeUnmount, ref, shallowReactive } from 'vue';

/** A single-key shortcut of the screen. */
export interface Shortcut {
  /** As shown to the user, such as "x" or "→". */
  keys: string[];
  what: string;
  /** What the command palette calls it by one of its keys; null where there is nothing to do now: then the key does nothing either. */
  command?: (key: string) => string | null;
  run(key: string): void;
}

/** What a key of the screen does now, for the command palette. */
export interface Offered {
  title: string;
  key: string;
  run(): void;
}

const EVENT_KEYS: Record<string, string> = { '→': 'ArrowRight', '←': 'ArrowLeft' };
const KEY = 'gezeit.singleKeys';

/** The shortcuts of the screen that is open. Off while a field has the focus or a dialog is open. */
export const useShortcuts = defineStore('shortcuts', () => {
  const groups = shallowReactive<Shortcut[][]>([]);
  const helpOpen = ref(false);
  const enabled = ref(localStorage.getItem(KEY) !== 'off');

  /** What each key does now: a screen's own shortcuts go before those of what it stands in. */
  const effective = computed<Shortcut[]>(() => {
    const taken = new Set<string>();
    return [...groups].reverse().flatMap((group) =>
      group.flatMap((shortcut) => {
        const keys = shortcut.keys.filter((key) => !taken.has(key));
        keys.forEach((key) => taken.add(key));
        return keys.length > 0 ? [{ ...shortcut, keys }] : [];
      }),
    );
  });

  /** What the screen's keys can do now, also where they are switched off; what two of them do alike is said once, with the first. */
  function offered(): Offered[] {
    const byTitle = new Map<string, Offered>();
    for (const { keys, command, run } of effective.value)
      for (const key of keys) {
        const title = command?.(key);
        if (title && !byTitle.has(title)) byTitle.set(title, { title, key, run: () => run(key) });
      }
    return [...byTitle.values()];
  }

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
      (event.key === 'Enter' && isPressable(event.target)) ||
      document.querySelector('[role=dialog]')
    )
      return;
    const shortcut = effective.value.find(({ keys }) => keys.some((key) => (EVENT_KEYS[key] ?? key) === event.key));
    if (!shortcut) return;
    event.preventDefault();
    if (shortcut.command?.(event.key) !== null) shortcut.run(event.key);
  });

  return { groups, effective, offered, helpOpen, enabled, setEnabled };
});

function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable ||
      /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) ||
      target.closest('[role=combobox],[role=listbox],[role=menu]') !== null)
  );
}

/** Whether Enter means something to what has the focus: then it is not the screen's key. */
function isPressable(target: EventTarget | null): boolean {
  return target instanceof Element && target.closest('button,a[href],summary,[role=button]') !== null;
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
