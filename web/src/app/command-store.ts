import { defineStore } from 'pinia';
import { ref, watch } from 'vue';

/** The command palette: whether it is open, and what was typed for it before it stood. */
export const useCommands = defineStore('commands', () => {
  const open = ref(false);
  /** Whether its field has had the focus since it was opened: it may still be on its way from the server. */
  const stands = ref(false);
  const typedAhead = ref('');
  const enteredAhead = ref(false);
  watch(
    open,
    () => {
      stands.value = false;
      typedAhead.value = '';
      enteredAhead.value = false;
    },
    { flush: 'sync' },
  );

  /** Takes a key for the palette that is asked for and does not stand yet; whether it was one. */
  function takeAhead({ key, ctrlKey, metaKey, altKey }: KeyboardEvent): boolean {
    if (!open.value || stands.value || ctrlKey || metaKey || altKey) return false;
    if (key === 'Escape') open.value = false;
    else if (key === 'Enter') enteredAhead.value = true;
    else if (key === 'Backspace') typedAhead.value = typedAhead.value.slice(0, -1);
    else if (key.length === 1) typedAhead.value += key;
    else return false;
    return true;
  }

  return { open, stands, typedAhead, enteredAhead, takeAhead };
});
