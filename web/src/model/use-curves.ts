import { onBeforeUnmount } from 'vue';
import { useProgramme } from './programme-store.js';

/** Has the curves of the open programme judged while the calling part stands on the page. */
export function useCurves(): void {
  const { showsCurves } = useProgramme();
  showsCurves(true);
  onBeforeUnmount(() => showsCurves(false));
}
