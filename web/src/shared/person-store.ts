import { defineStore } from 'pinia';
import { computed, ref } from 'vue';

const KEY = 'gezeit.person';

/** Who is working: initials and name, asked once, stamped on every change. No password: over a network an access key opens the door, on the machine itself nothing. */
export const usePerson = defineStore('person', () => {
  const initials = ref('');
  const name = ref('');
  const asking = ref(false);
  let waiting: ((known: boolean) => void)[] = [];
  try {
    const stored = JSON.parse(localStorage.getItem(KEY) ?? '{}') as { initials?: unknown; name?: unknown };
    if (typeof stored.initials === 'string') initials.value = stored.initials;
    if (typeof stored.name === 'string') name.value = stored.name;
  } catch {
    // Nothing usable is stored: it is asked for again.
  }
  const known = computed(() => initials.value !== '');
  const stamp = computed(() => `${initials.value} ${name.value}`.trim());

  function set(newInitials: string, newName: string): void {
    initials.value = newInitials.trim();
    name.value = newName.trim();
    localStorage.setItem(KEY, JSON.stringify({ initials: initials.value, name: name.value }));
    settle(true);
  }

  /** Asks where it is not known yet; false where the question was closed unanswered. */
  async function ensure(): Promise<boolean> {
    if (known.value) return true;
    asking.value = true;
    return new Promise((resolve) => waiting.push(resolve));
  }

  function settle(answer: boolean): void {
    asking.value = false;
    for (const resolve of waiting) resolve(answer);
    waiting = [];
  }

  return { initials, name, known, stamp, asking, set, ensure, settle };
});
