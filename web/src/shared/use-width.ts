import { useResizeObserver } from '@vueuse/core';
import { ref, type Ref } from 'vue';

/** The width of a box as it is laid out, px, never under a least one; what it is before it is laid out is given. */
export function useWidth(box: Readonly<Ref<HTMLElement | null>>, least = 320, before = 1200): Ref<number> {
  const width = ref(before);
  useResizeObserver(box, ([entry]) => (width.value = Math.max(least, entry!.contentRect.width)));
  return width;
}
