import { useEventListener } from '@vueuse/core';
import { ref, type Ref } from 'vue';

/** Whether the window is narrow: by itself, where a chart has no room for long words beside its curves. */
export function useNarrow(mostPx = 620): Ref<boolean> {
  const query = window.matchMedia(`(max-width: ${mostPx}px)`);
  const narrow = ref(query.matches);
  useEventListener(query, 'change', () => (narrow.value = query.matches));
  return narrow;
}
