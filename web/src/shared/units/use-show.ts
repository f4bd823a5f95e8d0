import { computed } from 'vue';
import { Show } from './show.js';
import { useUnits } from './units-store.js';

/** The formatter for the chosen units, following them. */
export function useShow() {
  const units = useUnits();
  return computed(() => new Show(units.chosen));
}
