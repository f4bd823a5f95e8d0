import { defineStore } from 'pinia';
import { ref } from 'vue';

/** Which pull is being asked about, if any. */
export const useExclusion = defineStore('exclusion', () => {
  const pull = ref<string | null>(null);
  /** A reason that is proposed: a check's. */
  const proposed = ref('');
  function ask(id: string, reason = ''): void {
    proposed.value = reason;
    pull.value = id;
  }
  return { pull, proposed, ask };
});
