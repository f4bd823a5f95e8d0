import { useEventListener } from '@vueuse/core';
import { ref, type Ref } from 'vue';

/** Whether a chart has no room for long words beside its curves: in a narrow window. */
export function useNarrow(): Ref<boolean> {
  const query = window.matchMedia('(max-width: 620px)');
  const narrow = ref(query.matches);
  useEventListener(query, 'change', () => (narrow.value = query.matches));
  return narrow;
}
