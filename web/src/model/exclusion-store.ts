import { defineStore } from 'pinia';
import { ref } from 'vue';

/** Which pull is being asked about, if any. */
export const useExclusion = defineStore('exclusion', () => {
  const pull = ref<string | null>(null);
  return { pull, ask: (id: string) => (pull.value = id) };
});
