import { defineStore } from 'pinia';
import { ref } from 'vue';

/** Which driven pull is being corrected, if any. */
export const useAmendment = defineStore('amendment', () => {
  const pull = ref<string | null>(null);
  return { pull, ask: (id: string) => (pull.value = id) };
});
