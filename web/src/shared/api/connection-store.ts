import { defineStore } from 'pinia';
import { computed, ref } from 'vue';

/** Whether what is shown comes from the server, or was kept in this browser because nothing answers. */
export const useConnection = defineStore('connection', () => {
  const keptAtMs = ref<number | null>(null);

  /** Takes note of an answer: the worker marks those that were kept with the time they were given. */
  function heard({ headers }: Response): void {
    const kept = headers.get('x-gezeit-kept');
    keptAtMs.value = kept === null ? null : Date.parse(kept);
  }

  const keptText = computed(() => {
    if (keptAtMs.value === null) return null;
    const time = new Intl.DateTimeFormat('en-GB', { hour: 'numeric', minute: '2-digit', hourCycle: 'h23' });
    const asOf = Number.isNaN(keptAtMs.value) ? '' : `, as it was at ${time.format(keptAtMs.value)}`;
    return `Gezeit does not answer: shown from this browser${asOf}.`;
  });

  return { heard, keptText };
});
